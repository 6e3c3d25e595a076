namespace Jexa.Sources.Http;

/// <summary>The records in the answer of a list.</summary>
/// <param name="Pointer">Where they are: a JSON Pointer (RFC 6901).</param>
/// <param name="Names">The field for the names of members, if the records are members of an object; null for an array.</param>
internal sealed record SampledList(string Pointer, string? Names, List<ApiRecord> Records);
