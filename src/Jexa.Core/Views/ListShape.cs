namespace Jexa.Core.Views;

/// <summary>The part of a list that is the same for every visit.</summary>
/// <param name="RecordLink">The link to a record's own page, whose ID is in JSON; null for none.</param>
/// <param name="RowLink">The link of the whole row; null for none.</param>
/// <param name="Actions">Links in a column of their own.</param>
/// <param name="Title">What one record is called: for cards, bullets and link texts.</param>
public sealed record ListShape(
    string Heading,
    ListLook Look,
    IReadOnlyList<ViewColumn> Columns,
    string One,
    string Many,
    LinkPlan? RecordLink,
    LinkPlan? RowLink,
    IReadOnlyList<LinkPlan> Actions,
    TextPlan Title
)
{
    /// <summary>The column that begins a card or bullet, and holds the link of the whole row.</summary>
    public int Main
    {
        get
        {
            for (var i = 0; i < Columns.Count; i++)
                if (Columns[i] is { Link: not null, Picture: null })
                    return i;
            for (var i = 0; i < Columns.Count; i++)
                if (Columns[i].Picture is null)
                    return i;
            return 0;
        }
    }

    /// <summary>Whether a column's link leads where a better link of the row leads. It is then only for the pointer.</summary>
    public bool IsQuiet(int column) =>
        Columns[column].Link is { } link
        && column != Main
        && (
            Columns[Main].Link?.LeadsWhere(link) == true
            || Columns.Take(column).Where(other => other.Picture is null).Any(other => other.Link?.LeadsWhere(link) == true)
        );
}
