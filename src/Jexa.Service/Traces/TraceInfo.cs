using System.Text.Json.Serialization;

namespace Jexa.Service.Traces;

/// <summary>The recorded steps of one visit.</summary>
/// <param name="Number">0 for a visit that was only tried.</param>
/// <param name="Visitor">The visitor's address; for visitors behind a proxy only if the proxy is trusted.</param>
public sealed record TraceInfo(
    long Number,
    DateTimeOffset At,
    string Method,
    string Target,
    string? Page,
    string? Outcome,
    bool Good,
    int Status,
    string? Location,
    string? Why,
    string? Visitor,
    IReadOnlyList<CandidateInfo> Candidates,
    IReadOnlyList<ParameterTrace> Parameters,
    IReadOnlyList<string> Ignored,
    IReadOnlyList<QueryTrace> Queries,
    IReadOnlyList<StepTrace> Steps,
    double Microseconds
)
{
    /// <summary>Outcome and reason on one line.</summary>
    [JsonIgnore]
    public string Short => $"{Outcome}{(string.IsNullOrEmpty(Why) ? "" : $", {Why}")}";
}
