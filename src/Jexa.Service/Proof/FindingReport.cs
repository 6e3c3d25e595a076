using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Proof;

namespace Jexa.Service.Proof;

/// <summary>Findings of all means as findings of a report.</summary>
public static partial class FindingReport
{
    /// <summary>A finding that was met once, and is certain.</summary>
    /// <param name="at">Its place; line 0 for none.</param>
    /// <param name="about">What tells it from others of its code: names, never values or numbers of rows.</param>
    internal static ProofFinding New(FindingCode code, Place at, string about, string message, string remedy) =>
        new(
            code.Id,
            Word(code.Severity),
            code.Title,
            at.File,
            at.Line,
            at.Column,
            null,
            about,
            message,
            remedy,
            1,
            "certain",
            [],
            null
        );

    /// <summary>A finding of the check.</summary>
    public static ProofFinding Of(Finding finding, AppDefinition? definition)
    {
        var page = definition?.PageAt(finding.At);
        var about = $"{page ?? definition?.RecordAt(finding.At) ?? "app"}: {Number().Replace(finding.Message, "#")}";
        return New(finding.Code, finding.At, about, finding.Message, finding.Remedy) with
        {
            Page = page,
            Found = finding.Found,
            Expected = finding.Expected,
            Nearest = finding.Nearest,
        };
    }

    /// <summary>A fault of the data.</summary>
    public static ProofFinding Of(Fault fault, AppDefinition definition) =>
        New(fault.Code, fault.At, fault.About, fault.Message, fault.Remedy) with
        {
            Page = definition.PageAt(fault.At),
            Count = fault.Count,
            Examples = [.. fault.Examples.Select(one => new ProofExample(one.Key, one.Address, one.Says, null))],
            Query = fault.Query,
        };

    /// <summary>A request as a line for a shell.</summary>
    public static string Curl(string url) => $"curl -i '{url.Replace("'", "%27", StringComparison.Ordinal)}'";

    private static string Word(Severity severity) => severity.ToString().ToLowerInvariant();

    /// <summary>A number that is no part of a name, such as that of a table's rows.</summary>
    [GeneratedRegex(@"(?<![\w-])\d[\d,]*(?![\w-])")]
    private static partial Regex Number();
}
