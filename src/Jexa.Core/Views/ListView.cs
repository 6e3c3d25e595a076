using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="From">The number of the first row, from 1; null if it is not known.</param>
/// <param name="CannotGoOn">There are more rows, but no address can contain the place where they begin.</param>
/// <param name="Notice">A sentence above the list, such as the reason for a redirect.</param>
public sealed record ListView(
    PageFrame Frame,
    string Page,
    ListShape Shape,
    string Heading,
    RowBlock Rows,
    Total Total,
    long? From,
    WindowLinks Windows,
    bool CannotGoOn,
    string? Notice,
    ListControls Controls,
    IReadOnlyList<SideView> Sides
) : PageView(Frame, Page)
{
    /// <summary>
    /// The value of <c>from=</c> in links to the list's records, so that they lead back here; empty if a bare address does.
    /// </summary>
    public string FromMark { get; init; } = "";

    /// <summary>The link to a new record; null for none.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>The row of the record beside the list; -1 for none.</summary>
    public int CurrentRow { get; init; } = -1;
}
