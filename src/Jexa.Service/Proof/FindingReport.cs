using Jexa.Core.Definitions;
using Jexa.Core.Proof;

namespace Jexa.Service.Proof;

/// <summary>Findings of the check and faults of a sweep as findings of a report.</summary>
public static class FindingReport
{
    /// <summary>A finding of the check.</summary>
    public static ProofFinding Of(Finding finding, AppDefinition? definition) =>
        new(
            finding.Code.Id,
            Word(finding.Code.Severity),
            finding.Code.Title,
            finding.At.File,
            finding.At.Line,
            finding.At.Column,
            definition?.PageAt(finding.At),
            finding.Message,
            finding.Message,
            finding.Remedy,
            1,
            "certain",
            [],
            null
        )
        {
            Found = finding.Found,
            Expected = finding.Expected,
            Nearest = finding.Nearest,
        };

    /// <summary>A fault of the data.</summary>
    /// <param name="origin">Scheme, host and port before addresses, for requests; null if none is known.</param>
    public static ProofFinding Of(Fault fault, AppDefinition definition, string? origin) =>
        new(
            fault.Code.Id,
            Word(fault.Code.Severity),
            fault.Code.Title,
            fault.At.File,
            fault.At.Line,
            fault.At.Column,
            definition.PageAt(fault.At),
            fault.About,
            fault.Message,
            fault.Remedy,
            fault.Count,
            "certain",
            [
                .. fault.Examples.Select(example => new ProofExample(
                    example.Key,
                    example.Address,
                    example.Says,
                    example.Address is { } address && origin is not null ? Curl(origin + address) : null
                )),
            ],
            fault.Query
        );

    /// <summary>A request as a line for a shell.</summary>
    public static string Curl(string url) => $"curl -i '{url.Replace("'", "%27", StringComparison.Ordinal)}'";

    internal static string Word(Severity severity) => severity.ToString().ToLowerInvariant();
}
