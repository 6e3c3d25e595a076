using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Service.Health;

/// <summary>A query that took long.</summary>
/// <param name="Number">Tells it from all others.</param>
/// <param name="Page">The page that ran it; empty for none.</param>
/// <param name="Visit">The number of the visit.</param>
/// <param name="Text">The query as one can paste it into the engine's own shell.</param>
internal sealed record SlowQuery(
    long Number,
    string Page,
    long Visit,
    IPreparedQuery Query,
    IReadOnlyList<TypedValue> Arguments,
    string Text,
    int Rows,
    double Microseconds
);
