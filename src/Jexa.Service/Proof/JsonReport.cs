using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Jexa.Service.Proof;

/// <summary>A report as JSON: the one form that can be read again, and compared with.</summary>
public static class JsonReport
{
    /// <summary>Names in camel case; no nulls.</summary>
    public static JsonSerializerOptions Options { get; } =
        new(JsonSerializerDefaults.Web)
        {
            WriteIndented = true,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        };

    /// <summary>Reads a report; null if it is none.</summary>
    public static ProofReport? Read(ReadOnlySpan<byte> json)
    {
        try
        {
            return JsonSerializer.Deserialize<ProofReport>(json, Options) is { Means: not null, Findings: not null } report
                ? report
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>A report beside an earlier one.</summary>
    /// <param name="forgives">Whether a build does not fail for what that had.</param>
    public static ProofReport Beside(ProofReport report, ProofReport earlier, bool forgives)
    {
        var known = earlier.Findings.Select(finding => finding.Identity).ToHashSet();
        var now = report.Findings.Select(finding => finding.Identity).ToHashSet();
        var findings = report
            .Findings.Select(finding => finding with { IsKnown = forgives && known.Contains(finding.Identity) })
            .ToList();
        return report with
        {
            Findings = findings,
            Change = new ProofChange(
                earlier.Started,
                findings.Count(finding => !known.Contains(finding.Identity)),
                findings.Count(finding => known.Contains(finding.Identity)),
                [.. earlier.Findings.Where(finding => !now.Contains(finding.Identity))]
            ),
        };
    }
}
