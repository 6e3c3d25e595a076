namespace Jexa.Core.Views;

/// <summary>The part of a detail page that is the same for every visit.</summary>
public sealed record DetailShape(
    TextPlan Title,
    IReadOnlyList<ViewColumn> Fields,
    string One,
    LinkPlan Own,
    IReadOnlyList<LinkPlan> Links,
    PlainLink? Back
)
{
    /// <summary>Whether the end of its recording leads to the next record, whose recording begins.</summary>
    public bool PlaysOn { get; init; }
}
