namespace Jexa.Service.Management;

/// <summary>A query that took long.</summary>
/// <param name="Number">Tells it from all others, to ask for its plan.</param>
/// <param name="Page">The page that ran it; empty for none.</param>
/// <param name="Visit">The number of the visit.</param>
/// <param name="Text">The query as one can paste it into the engine's own shell.</param>
public sealed record SlowQueryInfo(long Number, string Page, long Visit, string Text, int Rows, double Microseconds);
