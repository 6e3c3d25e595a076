namespace Jexa.Service.Proof;

/// <summary>What the app file says of a kind of finding.</summary>
/// <param name="On">The page, record or field that it is about; null for all.</param>
/// <param name="Severity">What the findings are instead; null if they are not told at all.</param>
public sealed record FindingSettingInfo(string Code, string? On, string? Severity, int Line);
