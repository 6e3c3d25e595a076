using System.Text;
using System.Text.Json;

namespace Jexa.Service.Proof;

/// <summary>The forms of a report. The ending of a file says which one it gets.</summary>
public static class ReportForms
{
    private static readonly Dictionary<string, Func<ProofReport, string>> Forms = new()
    {
        [".json"] = report => JsonSerializer.Serialize(report, JsonReport.Options),
        [".sarif"] = SarifReport.Write,
        [".xml"] = JUnitReport.Write,
        [".md"] = MarkdownReport.Write,
        [".html"] = HtmlReport.Write,
    };

    /// <summary>The endings, for people.</summary>
    public static string Endings { get; } = string.Join(", ", Forms.Keys);

    /// <summary>Whether a file's ending is one of a report.</summary>
    public static bool Knows(string file) => Forms.ContainsKey(Path.GetExtension(file).ToLowerInvariant());

    /// <summary>The report in the form that the file's ending says, as UTF-8.</summary>
    public static byte[] Write(string file, ProofReport report) =>
        new UTF8Encoding(false).GetBytes(Forms[Path.GetExtension(file).ToLowerInvariant()](report) + "\n");
}
