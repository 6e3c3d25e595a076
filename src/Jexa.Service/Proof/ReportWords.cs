using System.Globalization;
using System.Reflection;

namespace Jexa.Service.Proof;

/// <summary>Words that all forms of a report use.</summary>
public static class ReportWords
{
    /// <summary>The words for severities, the worst first.</summary>
    public static IReadOnlyList<string> Severities { get; } = ["error", "warning", "hint"];

    /// <summary>The version of this program.</summary>
    public static string Version { get; } =
        typeof(ReportWords)
            .Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()
            ?.InformationalVersion.Split('+')[0]
        ?? "0";

    /// <summary>What one example says, on one line.</summary>
    public static string Of(ProofExample example) =>
        string.Join(": ", new[] { example.Key, example.Address ?? "", example.Says }.Where(part => part.Length > 0));

    /// <summary>“12 rows of bridge”.</summary>
    public static string Of(ProofFigure figure) =>
        $"{Count(figure.Count)} {(figure.Count == 1 ? Singular(figure.Name) : figure.Name)}";

    /// <summary>Figures are named in the plural; their noun is the first word with an s at its end.</summary>
    private static string Singular(string name)
    {
        var words = name.Split(' ');
        var noun = Array.FindIndex(words, word => word.EndsWith('s'));
        if (noun >= 0)
            words[noun] = words[noun][..^1];
        return string.Join(' ', words);
    }

    /// <summary>The beginning of a text that may be long.</summary>
    public static string Cut(string text) => text.Length <= 60 ? text : text[..59] + "…";

    public static string Count(long count) => count.ToString("N0", CultureInfo.InvariantCulture);

    /// <summary>“2 errors, 1 warning and 3 hints”.</summary>
    /// <param name="severities">Those of the findings.</param>
    public static string Counts(IEnumerable<string> severities)
    {
        var met = severities.ToList();
        var parts = Severities
            .Select(word => (word, count: met.Count(severity => severity == word)))
            .Where(part => part.count > 0)
            .Select(part => $"{part.count} {part.word}{(part.count == 1 ? "" : "s")}")
            .ToList();
        return parts.Count switch
        {
            0 => "no findings",
            1 => parts[0],
            _ => string.Join(", ", parts[..^1]) + " and " + parts[^1],
        };
    }

    /// <summary>What the report comes to, as a sentence.</summary>
    public static string Verdict(ProofReport report)
    {
        var found = Counts(report.Findings.Select(finding => finding.Severity));
        var change = report.Change is { } than
            ? $"; {than.New} new, {than.Known} known, {than.Gone.Count} gone since {than.Since:yyyy-MM-dd HH:mm}"
            : "";
        var gap = report.NotSeen.Count > 0 ? "; not everything was seen" : "";
        return $"{report.Means} of {report.Subject}: {found}{change}{gap}.";
    }
}
