namespace Jexa.Service.Traces;

/// <summary>The recorded steps of one visit.</summary>
/// <param name="Number">0 for a visit that was only tried.</param>
/// <param name="Visitor">The address it came from; a proxy's visitors only where the proxy is trusted.</param>
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
);
