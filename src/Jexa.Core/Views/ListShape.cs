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
);
