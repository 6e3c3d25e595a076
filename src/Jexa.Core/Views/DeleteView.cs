using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>Asks a second time whether a record is to be deleted.</summary>
/// <param name="IsPossible">The source would let it go, as far as can be seen.</param>
public sealed record DeleteView(
    PageFrame Frame,
    string Page,
    string Outcome,
    int Status,
    DetailShape Shape,
    Row Record,
    string Action,
    string Contract,
    string? Notice,
    IReadOnlyList<Dependents> Dependents,
    bool IsPossible,
    PlainLink? Cancel,
    IReadOnlyList<ViewColumn> Stored
) : PageView(Frame, Page);
