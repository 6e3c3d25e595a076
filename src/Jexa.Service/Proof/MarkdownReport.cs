using System.Text;

namespace Jexa.Service.Proof;

/// <summary>A report as Markdown (CommonMark with tables), for a comment on a change.</summary>
internal static class MarkdownReport
{
    public static string Write(ProofReport report)
    {
        var text = new StringBuilder($"# {Plain(ReportWords.Verdict(report))}\n\n");
        foreach (var finding in report.Findings)
            Append(finding, text);
        if (report.Board is { } board)
            Append(board, text);
        if (report.Seen.Count > 0)
        {
            text.Append("## Seen\n\n| what | how many |\n|---|--:|\n");
            foreach (var figure in report.Seen.Concat(report.Parts))
                text.Append("| ").Append(Plain(figure.Name)).Append(" | ").Append(ReportWords.Count(figure.Count)).Append(" |\n");
            text.Append('\n');
        }

        if (report.NotSeen.Count > 0)
        {
            text.Append("## Not seen\n\n");
            foreach (var gap in report.NotSeen)
                text.Append("- ").Append(Plain(gap.Part)).Append(": ").Append(Plain(gap.Why)).Append('\n');
        }

        return text.ToString().TrimEnd();
    }

    private static void Append(ProofFinding finding, StringBuilder text)
    {
        text.Append("## ").Append(finding.Severity).Append(' ').Append(finding.Code).Append(": ").Append(Plain(finding.Message));
        text.Append(finding.IsKnown ? " (known)\n\n" : "\n\n");
        text.Append('`')
            .Append(finding.File.Replace('`', '\''))
            .Append(':')
            .Append(finding.Line)
            .Append(':')
            .Append(finding.Column);
        text.Append("` · ").Append(ReportWords.Count(finding.Count)).Append(finding.Count == 1 ? " time" : " times");
        text.Append(finding.Sure == "certain" ? "" : $" · {finding.Sure}")
            .Append("  \n")
            .Append(Plain(finding.Remedy))
            .Append("\n\n");
        if (finding.Examples.Count > 0)
        {
            text.Append("| ID | address | there |\n|---|---|---|\n");
            foreach (var example in finding.Examples)
                text.Append($"| {Plain(example.Key)} | {Plain(example.Address ?? "")} | {Plain(example.Says)} |\n");
            text.Append('\n');
        }

        if (finding.Query is { } query)
            text.Append(Fenced(query)).Append("\n\n");
    }

    private static void Append(ProofBoard board, StringBuilder text)
    {
        text.Append("## Pages and cases\n\n| page |");
        foreach (var name in board.Cases)
            text.Append(' ').Append(Plain(name)).Append(" |");
        text.Append("\n|---|").Insert(text.Length, "---|", board.Cases.Count).Append('\n');
        foreach (var row in board.Rows)
        {
            text.Append("| ").Append(Plain(row.Page)).Append(" |");
            foreach (var name in board.Cases)
            {
                var (tried, wrong) = row.Of(name);
                text.Append(
                    tried == 0 ? "  |"
                    : wrong == 0 ? $" {tried} hold |"
                    : $" **{wrong} of {tried} fail** |"
                );
            }

            text.Append('\n');
        }

        text.Append('\n');
    }

    /// <summary>Text without a meaning in Markdown, on one line.</summary>
    private static string Plain(string text)
    {
        var plain = new StringBuilder();
        foreach (var letter in text)
        {
            if (letter is '\n' or '\r' or '\t')
                plain.Append(' ');
            else if (char.IsControl(letter))
                plain.Append('\ufffd');
            else
                plain.Append("\\`*_{}[]<>#|&~".Contains(letter) ? $"\\{letter}" : letter.ToString());
        }

        return plain.ToString();
    }

    private static string Fenced(string query)
    {
        var fence = "```";
        while (query.Contains(fence))
            fence += "`";
        return $"{fence}sql\n{query}\n{fence}";
    }
}
