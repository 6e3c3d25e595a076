namespace Jexa.Core.Definitions;

/// <summary>A kind of finding: its stable code, its severity and its one-line name. docs/findings.md explains each.</summary>
public sealed record FindingCode(string Id, Severity Severity, string Title);
