namespace Jexa.Service.Management;

/// <summary>A query to try.</summary>
/// <param name="Source">A source of the working copy, or of the app that is served.</param>
/// <param name="Query">The query, in the language of the source. It must only read.</param>
/// <param name="Values">The values of its named parameters, as they would be typed; one that is lacking or empty is null.</param>
public sealed record QueryTrialRequest(string Source, string Query, IReadOnlyDictionary<string, string>? Values = null);
