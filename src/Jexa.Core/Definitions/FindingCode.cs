namespace Jexa.Core.Definitions;

/// <summary>A kind of finding: its stable code, its severity and its one-line name. docs/findings.md explains each.</summary>
public sealed record FindingCode(string Id, Severity Severity, string Title)
{
    internal static FindingCode Error(string id, string title) => new(id, Severity.Error, title);

    internal static FindingCode Hint(string id, string title) => new(id, Severity.Hint, title);

    internal static FindingCode Warning(string id, string title) => new(id, Severity.Warning, title);
}
