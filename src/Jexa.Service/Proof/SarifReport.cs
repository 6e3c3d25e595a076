using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using Jexa.Core.Definitions;

namespace Jexa.Service.Proof;

/// <summary>A report as SARIF 2.1.0 (OASIS Standard): what code hosts and editors show beside the lines of a file.</summary>
internal static class SarifReport
{
    private const string Schema = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

    public static string Write(ProofReport report)
    {
        var codes = report.Findings.Select(finding => finding.Code).Distinct().Order(StringComparer.Ordinal).ToList();
        var run = new JsonObject
        {
            ["tool"] = new JsonObject
            {
                ["driver"] = new JsonObject
                {
                    ["name"] = "Jexa",
                    ["version"] = report.Version,
                    ["rules"] = new JsonArray([.. codes.Select(code => (JsonNode)Rule(code, report))]),
                },
            },
            ["automationDetails"] = new JsonObject { ["id"] = $"jexa/{report.Means}/" },
            ["columnKind"] = "utf16CodeUnits",
            ["invocations"] = new JsonArray(
                new JsonObject
                {
                    ["executionSuccessful"] = report.NotSeen.All(gap => gap.IsChosen),
                    ["startTimeUtc"] = report.Started.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ"),
                }
            ),
            ["results"] = new JsonArray([.. report.Findings.Select(finding => (JsonNode)Result(finding, codes, report))]),
        };
        return new JsonObject
        {
            ["$schema"] = Schema,
            ["version"] = "2.1.0",
            ["runs"] = new JsonArray(run),
        }.ToJsonString(JsonReport.Options);
    }

    private static JsonObject Rule(string code, ProofReport report)
    {
        var finding = report.Findings.First(finding => finding.Code == code);
        return new JsonObject
        {
            ["id"] = code,
            ["shortDescription"] = new JsonObject { ["text"] = finding.Title },
            ["defaultConfiguration"] = new JsonObject
            {
                ["level"] = Level(
                    FindingCodes.All.FirstOrDefault(one => one.Id == code)?.Severity.ToString().ToLowerInvariant()
                        ?? finding.Severity
                ),
            },
        };
    }

    private static JsonObject Result(ProofFinding finding, List<string> codes, ProofReport report)
    {
        var result = new JsonObject
        {
            ["ruleId"] = finding.Code,
            ["ruleIndex"] = codes.IndexOf(finding.Code),
            ["level"] = Level(finding.Severity),
            ["message"] = new JsonObject { ["text"] = Text(finding) },
            ["locations"] = new JsonArray(Location(finding)),
            ["partialFingerprints"] = new JsonObject { ["jexa/about/v1"] = Fingerprint(finding) },
            ["occurrenceCount"] = Math.Max(1, (int)Math.Min(finding.Count, int.MaxValue)),
        };
        if (report.Change is not null)
            result["baselineState"] = finding.IsKnown ? "unchanged" : "new";
        if (finding.Sure != "certain")
            result["rank"] = 50.0;
        return result;
    }

    private static JsonObject Location(ProofFinding finding)
    {
        var isWeb = Uri.TryCreate(finding.File, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https";
        var location = new JsonObject
        {
            ["artifactLocation"] = new JsonObject
            {
                ["uri"] = isWeb ? finding.File : string.Join('/', finding.File.Split('/').Select(Uri.EscapeDataString)),
            },
        };
        if (finding.Line > 0)
            location["region"] = new JsonObject { ["startLine"] = finding.Line, ["startColumn"] = Math.Max(1, finding.Column) };
        return new JsonObject { ["physicalLocation"] = location };
    }

    private static string Text(ProofFinding finding)
    {
        var text = new StringBuilder(finding.Message);
        if (finding.Count > 1)
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $" {finding.Count:N0} times.");
        if (finding.Examples.Count > 0)
            text.Append(" For example: ").AppendJoin("; ", finding.Examples.Take(3).Select(ReportWords.Of)).Append('.');
        return text.Append(' ').Append(finding.Remedy).ToString();
    }

    private static string Level(string severity) => severity == "hint" ? "note" : severity;

    private static string Fingerprint(ProofFinding finding) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{finding.Code}\n{finding.About}")))[..32];
}
