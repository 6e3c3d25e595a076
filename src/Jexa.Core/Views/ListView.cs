using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="From">The number of the first row shown, from 1; null if nobody knows.</param>
/// <param name="CannotGoOn">There are more rows, but no address can carry the place where they go on.</param>
/// <param name="Notice">A sentence above the list, such as why the visitor was led here.</param>
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
    /// What links to the list's own records carry so that they lead back here, behind <c>from=</c>; empty if a bare address
    /// does.
    /// </summary>
    public string FromMark { get; init; } = "";

    /// <summary>The way to a new record; null if there is none.</summary>
    public PlainLink? Add { get; init; }

    /// <summary>The row whose record is shown beside the list; -1 for none.</summary>
    public int CurrentRow { get; init; } = -1;
}
