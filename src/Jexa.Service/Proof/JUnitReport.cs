using System.Globalization;
using System.Xml.Linq;

namespace Jexa.Service.Proof;

/// <summary>
/// A report as JUnit XML, which build servers show as tests: one for each case of the board and each thing that was looked at,
/// and a failed one for each finding that is not a hint.
/// </summary>
internal static class JUnitReport
{
    public static string Write(ProofReport report)
    {
        var cases = new List<XElement>();
        foreach (var row in report.Board?.Rows ?? [])
        foreach (var cell in row.Cells)
            cases.Add(
                Case(
                    $"{report.Means}.{row.Page}",
                    $"{cell.Case} {cell.How} {cell.Address}",
                    cell.Holds ? null : new XElement("failure", Message($"expected {cell.Expected}, got {cell.Actual}"))
                )
            );
        foreach (var part in report.Parts)
            cases.Add(Case(report.Means, part.Name, null));
        foreach (var gap in report.NotSeen)
            cases.Add(Case(report.Means, gap.Part, new XElement("skipped", Message(gap.Why))));
        foreach (var finding in report.Findings)
            cases.Add(Case($"{report.Means}.{finding.Page ?? "app"}", $"{finding.Code} {finding.About}", Failure(finding)));
        return new XDocument(
            new XDeclaration("1.0", "utf-8", null),
            new XElement(
                "testsuites",
                new XElement(
                    "testsuite",
                    new XAttribute("name", $"jexa {report.Means} {Clean(report.Subject)}"),
                    new XAttribute("tests", cases.Count),
                    new XAttribute("failures", cases.Count(one => one.Element("failure") is not null)),
                    new XAttribute("errors", 0),
                    new XAttribute("skipped", cases.Count(one => one.Element("skipped") is not null)),
                    new XAttribute("time", report.Seconds.ToString("0.000", CultureInfo.InvariantCulture)),
                    new XAttribute("timestamp", report.Started.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss")),
                    cases
                )
            )
        ).ToStringWithDeclaration();
    }

    private static XElement? Failure(ProofFinding finding) =>
        finding.Severity == "hint" || finding.IsKnown
            ? null
            : new XElement(
                "failure",
                Message(finding.Message),
                new XAttribute("type", finding.Severity),
                Clean(
                    string.Join(
                        '\n',
                        new[] { $"{finding.File}:{finding.Line}:{finding.Column}", $"{finding.Count} times", finding.Remedy }
                            .Concat(finding.Examples.Select(ReportWords.Of))
                            .Append(finding.Query)
                            .OfType<string>()
                    )
                )
            );

    private static XAttribute Message(string text) => new("message", Clean(text));

    private static XElement Case(string group, string name, XElement? end) =>
        new("testcase", new XAttribute("classname", Clean(group)), new XAttribute("name", Clean(name)), end);

    /// <summary>Text without characters that XML cannot hold.</summary>
    private static string Clean(string text) =>
        string.Concat(text.EnumerateRunes().Select(rune => IsXml(rune.Value) ? rune.ToString() : $"\\u{rune.Value:x4}"));

    private static bool IsXml(int rune) =>
        rune is '\t' or '\n' or '\r' or (>= 0x20 and <= 0xd7ff) or (>= 0xe000 and <= 0xfffd) or >= 0x10000;

    private static string ToStringWithDeclaration(this XDocument document) => $"{document.Declaration}\n{document}";
}
