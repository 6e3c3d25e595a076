namespace Jexa.Service.Proof;

/// <summary>How the pages of a service are probed.</summary>
/// <param name="Allows">The methods of each page, as in <c>Allow</c>.</param>
/// <param name="Settings">What the app file says of findings.</param>
/// <param name="Below">The path prefix that the service puts before its addresses; empty for none.</param>
/// <param name="Away">Pages whose cases could not be made, and why.</param>
public sealed record ProbeInfo(
    IReadOnlyList<ProbeCaseInfo> Cases,
    IReadOnlyDictionary<string, string> Allows,
    string Below,
    IReadOnlyDictionary<string, string> Away,
    IReadOnlyList<FindingSettingInfo> Settings
);
