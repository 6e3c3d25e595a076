namespace Jexa.Core.Addresses;

/// <summary>One segment of a path: where it stands in the raw target, and what it decodes to.</summary>
/// <param name="Start">Index in <see cref="RequestTarget.Raw"/>.</param>
/// <param name="Length">Characters there.</param>
/// <param name="Decoded">The decoded text where the segment is percent-encoded; null if it stands as it is.</param>
/// <param name="IsBad">It cannot be decoded. It then matches parameters only, and is malformed there.</param>
public readonly record struct TargetSegment(int Start, int Length, string? Decoded, bool IsBad);
