namespace Jexa.Core.Addresses;

/// <summary>One segment of a path: its place in the raw target and its decoded text.</summary>
/// <param name="Start">Index in <see cref="RequestTarget.Raw"/>.</param>
/// <param name="Length">The number of characters there.</param>
/// <param name="Decoded">The decoded text if the segment is percent-encoded; null if it is not.</param>
/// <param name="IsBad">It cannot be decoded. It matches parameters only, and is then malformed.</param>
public readonly record struct TargetSegment(int Start, int Length, string? Decoded, bool IsBad);
