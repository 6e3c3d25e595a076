namespace Jexa.Service.Management;

/// <summary>What check says of a place of the working copy.</summary>
/// <param name="Place">The place that it is about: a JSON Pointer; empty if that is not known.</param>
/// <param name="Remedy">The change that mends it, if one is known to be safe; null if its author must decide.</param>
/// <param name="RemedyLabel">What that change does, in a few words.</param>
public sealed record WorkingFindingInfo(FindingInfo Finding, string Place, NamedChangeRequest? Remedy, string? RemedyLabel);
