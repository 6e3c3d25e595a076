namespace Jexa.Service.Proof;

/// <summary>How the pages of a service are probed.</summary>
/// <param name="Allows">The methods of each page, as in <c>Allow</c>.</param>
/// <param name="Settings">What the app file says of findings.</param>
/// <param name="Away">Pages whose cases could not be made, and why.</param>
public sealed record ProbeInfo(
    IReadOnlyList<ProbeCaseInfo> Cases,
    IReadOnlyDictionary<string, string> Allows,
    IReadOnlyDictionary<string, string> Away,
    IReadOnlyList<FindingSettingInfo> Settings
);
