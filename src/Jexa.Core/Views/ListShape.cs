namespace Jexa.Core.Views;

/// <summary>The part of a list that is the same for every visit.</summary>
/// <param name="RecordLink">The link to a record's own page, whose ID JSON carries; null if there is none.</param>
/// <param name="RowLink">The link that is the whole row's; null if there is none.</param>
/// <param name="Actions">Links that stand in a column of their own.</param>
/// <param name="Title">What one record is called: for cards and bullets, and for what a link has to say.</param>
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
);
