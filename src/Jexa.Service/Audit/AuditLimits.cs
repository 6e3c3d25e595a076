namespace Jexa.Service.Audit;

/// <summary>How much an audit asks for, and how fast.</summary>
public sealed record AuditLimits
{
    /// <summary>The most records that are followed.</summary>
    public int Records { get; init; } = 12;

    /// <summary>The most requests.</summary>
    public int Requests { get; init; } = 300;

    /// <summary>The most time.</summary>
    public TimeSpan Within { get; init; } = TimeSpan.FromMinutes(5);

    /// <summary>Between two requests.</summary>
    public TimeSpan Pause { get; init; } = TimeSpan.FromMilliseconds(200);

    /// <summary>Headers of every request, such as a cookie of a signed-in person.</summary>
    public IReadOnlyList<(string Name, string Value)> Headers { get; init; } = [];

    /// <summary>How the audit names itself.</summary>
    public string Agent { get; init; } = "jexa-audit";

    /// <summary>When pages are drawn by a browser, with their scripts.</summary>
    public DrawnWhen Drawn { get; init; } = DrawnWhen.Auto;

    /// <summary>Whether a text is a header.</summary>
    public static bool IsHeader(string text) => text.IndexOf(':') > 0 && !text.Any(char.IsControl);

    /// <summary>A header as it is written: <c>NAME: VALUE</c>.</summary>
    public static (string Name, string Value) HeaderOf(string text) =>
        (text[..text.IndexOf(':')].Trim(), text[(text.IndexOf(':') + 1)..].Trim());
}
