using System.Text;
using System.Text.Encodings.Web;
using System.Text.Unicode;

namespace Jexa.Service.Proof;

/// <summary>A report as one HTML file without scripts, which needs nothing beside it: for a colleague.</summary>
internal static class HtmlReport
{
    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    public static string Write(ProofReport report)
    {
        var html = new StringBuilder("<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n");
        html.Append("<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>");
        html.Append(Text($"{report.Means} of {report.Subject}")).Append("</title>\n<style>\n").Append(Style).Append("</style>\n");
        html.Append("</head>\n<body>\n<main>\n");
        AppendHead(report, html);
        if (report.Board is { } board)
            AppendBoard(board, html);
        AppendFindings(report, html);
        AppendSeen(report, html);
        html.Append("</main>\n</body>\n</html>");
        return html.ToString();
    }

    private static string Text(string text) => Encoder.Encode(text);

    private static void AppendHead(ProofReport report, StringBuilder html)
    {
        html.Append("<h1>")
            .Append(Text(Title(report.Means)))
            .Append(" <span>")
            .Append(Text(report.Subject))
            .Append("</span></h1>\n");
        html.Append("<p class=\"verdict ").Append(report.Fails ? "fails" : "holds").Append("\">");
        html.Append(Text(Title(ReportWords.Verdict(report)))).Append("</p>\n<p class=\"quiet\">");
        html.Append(
            Text(
                $"Made {report.Started.UtcDateTime:yyyy-MM-dd HH:mm} UTC in {Duration(report.Seconds)} by Jexa {report.Version}."
            )
        );
        html.Append("</p>\n");
        if (report.Findings.Count == 0)
            return;
        html.Append(
            "<h2 id=\"by\">Findings by code</h2>\n<div class=\"wide\" tabindex=\"0\"><table class=\"bars\">\n<thead><tr>"
                + "<th scope=\"col\">code</th>"
        );
        html.Append(
            "<th scope=\"col\">what</th><th scope=\"col\">findings</th><th scope=\"col\">times</th></tr></thead>\n<tbody>\n"
        );
        var most = report.Findings.GroupBy(finding => finding.Code).Max(group => group.Sum(finding => finding.Count));
        foreach (var group in report.Findings.GroupBy(finding => finding.Code).OrderBy(group => group.Key))
        {
            var (first, times) = (group.First(), group.Sum(finding => finding.Count));
            html.Append("<tr><th scope=\"row\">").Append(Text(group.Key)).Append("</th><td>").Append(Text(first.Title));
            html.Append("</td><td class=\"number\">").Append(group.Count()).Append("</td><td>");
            AppendBar(times, most, Worst(group), html);
            html.Append("</td></tr>\n");
        }

        html.Append("</tbody>\n</table></div>\n");
    }

    private static string Worst(IEnumerable<ProofFinding> findings) =>
        ReportWords.Severities.First(severity => findings.Any(finding => finding.Severity == severity));

    private static string Title(string words) => char.ToUpperInvariant(words[0]) + words[1..];

    private static string Duration(double seconds) =>
        seconds < 1 ? $"{seconds * 1000:0} ms"
        : seconds < 120 ? $"{seconds:0.0} s"
        : $"{seconds / 60:0.0} min";

    /// <summary>A bar with its number. Its length grows with the logarithm, so that few are seen beside many.</summary>
    private static void AppendBar(long count, long most, string kind, StringBuilder html)
    {
        var length = most <= 1 ? 100 : 8 + (92 * Math.Log(Math.Max(1, count)) / Math.Log(most));
        html.Append("<svg class=\"bar ")
            .Append(kind)
            .Append("\" viewBox=\"0 0 100 8\" preserveAspectRatio=\"none\" aria-hidden=\"true\">");
        html.Append(
            System.Globalization.CultureInfo.InvariantCulture,
            $"<rect width=\"{(count == 0 ? 0 : length):0.#}\" height=\"8\"/></svg> "
        );
        html.Append(ReportWords.Count(count));
    }

    private static void AppendSeen(ProofReport report, StringBuilder html)
    {
        if (report.Seen.Count > 0)
        {
            html.Append("<h2 id=\"seen\">What was looked at</h2>\n<p>");
            html.Append(Text(string.Join(", ", report.Seen.Select(ReportWords.Of)) + ".")).Append("</p>\n");
        }

        if (report.Parts.Count > 0)
        {
            html.Append("<div class=\"wide\" tabindex=\"0\"><table class=\"bars\">\n<thead><tr><th scope=\"col\">part</th>");
            html.Append("<th scope=\"col\">rows (the bars are logarithmic)</th></tr></thead>\n<tbody>\n");
            var most = report.Parts.Max(figure => figure.Count);
            foreach (var figure in report.Parts)
            {
                html.Append("<tr><th scope=\"row\">").Append(Text(figure.Name)).Append("</th><td>");
                AppendBar(figure.Count, most, "plain", html);
                html.Append("</td></tr>\n");
            }

            html.Append("</tbody>\n</table></div>\n");
        }

        if (report.NotSeen.Count == 0)
            return;
        html.Append("<h2 id=\"not-seen\">What was not</h2>\n<ul>\n");
        foreach (var gap in report.NotSeen)
            html.Append("<li><strong>").Append(Text(gap.Part)).Append("</strong>: ").Append(Text(gap.Why)).Append("</li>\n");
        html.Append("</ul>\n");
    }

    private static void AppendBoard(ProofBoard board, StringBuilder html)
    {
        html.Append(
            "<h2 id=\"board\">Pages and cases</h2>\n<div class=\"wide\" role=\"region\" aria-labelledby=\"board\" tabindex=\"0\">"
        );
        html.Append("<table class=\"board\">\n<thead><tr><th scope=\"col\">page</th>");
        foreach (var name in board.Cases)
            html.Append("<th scope=\"col\">").Append(Text(name)).Append("</th>");
        html.Append("</tr></thead>\n<tbody>\n");
        foreach (var row in board.Rows)
        {
            html.Append("<tr><th scope=\"row\">").Append(Text(row.Page)).Append("</th>");
            foreach (var name in board.Cases)
            {
                var (tried, wrong) = row.Of(name);
                html.Append(
                    tried == 0 ? "<td class=\"none\">–</td>"
                    : wrong == 0 ? $"<td class=\"holds\">✓ {tried}</td>"
                    : $"<td class=\"fails\">✗ {wrong} of {tried}</td>"
                );
            }

            html.Append("</tr>\n");
        }

        html.Append("</tbody>\n</table></div>\n<p class=\"quiet\">✓ as expected · ✗ not · – not tried</p>\n");
    }

    private static void AppendFindings(ProofReport report, StringBuilder html)
    {
        if (report.Findings.Count > 0)
            html.Append("<h2 id=\"findings\">Findings</h2>\n");
        foreach (var finding in report.Findings)
            AppendFinding(finding, html);
        if (report.Change is not { Gone.Count: > 0 } change)
            return;
        html.Append("<h2 id=\"gone\">Gone since ").Append($"{change.Since.UtcDateTime:yyyy-MM-dd HH:mm} UTC</h2>\n<ul>\n");
        foreach (var finding in change.Gone)
            html.Append("<li>").Append(Text($"{finding.Code} {finding.Message}")).Append("</li>\n");
        html.Append("</ul>\n");
    }

    private static void AppendFinding(ProofFinding finding, StringBuilder html)
    {
        html.Append("<section class=\"finding ").Append(Text(finding.Severity)).Append("\">\n<h3>");
        html.Append("<span class=\"mark\">")
            .Append(Text(finding.Severity))
            .Append("</span> <span class=\"code\">")
            .Append(Text(finding.Code));
        html.Append("</span> ").Append(Text(finding.Message)).Append("</h3>\n<p class=\"quiet\">");
        html.Append(Text(finding.Line > 0 ? $"{finding.File}:{finding.Line}:{finding.Column}" : finding.File));
        html.Append(" · ").Append(ReportWords.Count(finding.Count)).Append(finding.Count == 1 ? " time" : " times");
        if (finding.Sure != "certain")
            html.Append(" · ").Append(Text(finding.Sure));
        if (finding.IsKnown)
            html.Append(" · known");
        html.Append("</p>\n<p>").Append(Text(finding.Remedy)).Append("</p>\n");
        if (finding.Examples.Count > 0)
            AppendExamples(finding.Examples, html);
        if (finding.Query is { } query)
            html.Append("<details><summary>The query that finds them</summary><pre tabindex=\"0\">")
                .Append(Text(query))
                .Append("</pre></details>\n");
        html.Append("</section>\n");
    }

    private static void AppendExamples(IReadOnlyList<ProofExample> examples, StringBuilder html)
    {
        var hasAddress = examples.Any(example => example.Address is not null);
        var hasRequest = examples.Any(example => example.Request is not null);
        html.Append("<div class=\"wide\"><table class=\"examples\">\n<thead><tr><th scope=\"col\">ID</th>");
        html.Append(hasAddress ? "<th scope=\"col\">address</th>" : "").Append("<th scope=\"col\">there</th>");
        html.Append(hasRequest ? "<th scope=\"col\">request</th>" : "").Append("</tr></thead>\n<tbody>\n");
        foreach (var example in examples)
        {
            html.Append("<tr><td>").Append(Text(example.Key)).Append("</td>");
            if (hasAddress)
                html.Append("<td><code>").Append(Text(example.Address ?? "")).Append("</code></td>");
            html.Append("<td>").Append(Text(example.Says)).Append("</td>");
            if (hasRequest)
                html.Append("<td><code>").Append(Text(example.Request ?? "")).Append("</code></td>");
            html.Append("</tr>\n");
        }

        html.Append("</tbody>\n</table></div>\n");
        foreach (var example in examples.Where(example => example.Picture is not null))
            html.Append("<figure><img src=\"")
                .Append(Text(example.Picture!))
                .Append("\" alt=\"The page as a browser drew it\"><figcaption>")
                .Append(Text($"{example.Key} {example.Address}, as a browser drew it"))
                .Append("</figcaption></figure>\n");
    }

    private const string Style = """
        :root { color-scheme: light dark; --paper: #fbfaf6; --ink: #1d2427; --quiet: #566067; --line: #d8d4c8; --sheet: #fff;
          --bad: #a3261d; --warn: #8a5a00; --note: #2b5f8a; --good: #23683c; }
        @media (prefers-color-scheme: dark) { :root { --paper: #14191b; --ink: #e6e4dd; --quiet: #a4adb1; --line: #394246;
          --sheet: #1c2326; --bad: #f0938a; --warn: #e0b45c; --note: #8fc1ea; --good: #86cf9f; } }
        body { margin: 0; background: var(--paper); color: var(--ink); font: 16px/1.5 system-ui, sans-serif; }
        main { max-width: 70rem; margin: 0 auto; padding: 1.5rem 1rem 4rem; }
        h1 { font-size: 1.5rem; margin: 0; } h1 span { font-weight: 400; color: var(--quiet); overflow-wrap: anywhere; }
        h2 { font-size: 1.15rem; margin: 2rem 0 .5rem; } h3 { font-size: 1rem; margin: 0; overflow-wrap: anywhere; }
        .verdict { font-size: 1.1rem; padding: .6rem .9rem; border: 2px solid; border-radius: .4rem; background: var(--sheet); }
        .verdict.fails { border-color: var(--bad); } .verdict.holds { border-color: var(--good); }
        .quiet { color: var(--quiet); font-size: .875rem; margin: .3rem 0; overflow-wrap: anywhere; }
        table { border-collapse: collapse; } th, td { text-align: left; padding: .2rem .7rem .2rem 0; vertical-align: top; }
        thead th { font-size: .8rem; color: var(--quiet); font-weight: 400; border-bottom: 1px solid var(--line); }
        tbody th { font-weight: 400; } .number { text-align: right; }
        .bars td:last-child { white-space: nowrap; min-width: 14rem; }
        .bar { width: 9rem; height: .7rem; vertical-align: middle; } .bar rect { fill: var(--note); }
        .bar.error rect { fill: var(--bad); } .bar.warning rect { fill: var(--warn); } .bar.plain rect { fill: var(--quiet); }
        .wide { overflow-x: auto; } .board td { white-space: nowrap; font-size: .875rem; }
        .board tbody tr, .examples tbody tr { border-bottom: 1px solid var(--line); }
        .board .holds { color: var(--good); } .board .none { color: var(--quiet); }
        .board .fails { color: var(--bad); font-weight: 700; }
        .finding { background: var(--sheet); border: 1px solid var(--line); border-radius: .3rem;
          border-left: .3rem solid var(--note); padding: .7rem .9rem; margin: .8rem 0; }
        .finding.error { border-left-color: var(--bad); } .finding.warning { border-left-color: var(--warn); }
        .mark { font-size: .8rem; color: var(--note); } .error .mark { color: var(--bad); } .warning .mark { color: var(--warn); }
        .code { font-family: ui-monospace, monospace; font-size: .875rem; } .examples { font-size: .875rem; margin-top: .4rem; }
        code, pre { font-family: ui-monospace, monospace; font-size: .8125rem; } code { overflow-wrap: anywhere; }
        pre { overflow-x: auto; padding: .6rem; background: var(--paper); border: 1px solid var(--line); }
        @media (max-width: 34rem) { .bar { display: none; } .bars td:last-child { min-width: 0; } }
        figure { margin: .6rem 0 0; } figure img { max-width: min(32rem, 100%); border: 1px solid var(--line); display: block; }
        figcaption { font-size: .8rem; color: var(--quiet); overflow-wrap: anywhere; }
        summary { cursor: pointer; } :focus-visible { outline: 2px solid var(--note); outline-offset: 2px; }

        """;
}
