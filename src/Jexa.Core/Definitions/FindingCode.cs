namespace Jexa.Core.Definitions;

/// <summary>A kind of finding: its stable code, how grave it is, and its one-line name. Explained in docs/findings.md.</summary>
public sealed record FindingCode(string Id, Severity Severity, string Title);
