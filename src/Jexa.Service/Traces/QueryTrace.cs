namespace Jexa.Service.Traces;

/// <param name="Text">Ready to paste into the source's own shell.</param>
/// <param name="Rows">The first rows, long values cut.</param>
public sealed record QueryTrace(
    string Text,
    IReadOnlyList<string> Columns,
    IReadOnlyList<IReadOnlyList<string?>> Rows,
    int RowCount,
    double Microseconds
);
