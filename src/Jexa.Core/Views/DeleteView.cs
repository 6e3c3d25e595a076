using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>Asks for confirmation before a record is deleted.</summary>
/// <param name="IsPossible">Whether the source would allow it, as far as is known.</param>
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
