namespace Jexa.Service.Traces;

/// <summary>One line about a visit.</summary>
/// <param name="Outcome">Null if the visitor left before there was one.</param>
/// <param name="Framed">Whether the console showed it.</param>
public sealed record VisitInfo(
    long Number,
    DateTimeOffset At,
    string Method,
    string Target,
    string? Page,
    string? Outcome,
    int Status,
    double Microseconds,
    bool Framed
);
