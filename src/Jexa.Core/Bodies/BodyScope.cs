using AngleSharp.Dom;
using Jexa.Core.Views;

namespace Jexa.Core.Bodies;

/// <summary>
/// What names mean at a place of a body: those of a page, of the records of a list or block, or of a related record.
/// </summary>
/// <param name="What">What the fields belong to, for people.</param>
/// <param name="Columns">The fields that are shown here.</param>
/// <param name="Title">The label of a record here; null if there is no record.</param>
/// <param name="Block">The number of the block; -1 for the page or its list.</param>
internal sealed record BodyScope(string What, IReadOnlyList<ViewColumn> Columns, TextPlan? Title, int Block)
{
    /// <summary>The way to the fields of a related record, with its point; empty for the record's own.</summary>
    public string Prefix { get; init; } = "";

    /// <summary>The rows whose look the values have; null for a page.</summary>
    public ListShape? Shape { get; init; }

    /// <summary>Whether the place is inside a pattern that is repeated.</summary>
    public bool IsRepeated { get; init; }

    /// <summary>Whether the place is inside a link.</summary>
    public bool IsLinked { get; init; }

    /// <summary>A sample that a value stands for, and the value.</summary>
    public (INode Sample, BodyStep Step)? Replaced { get; init; }

    public ViewColumn? Find(string name) => Columns.FirstOrDefault(column => column.Name == Prefix + name);
}
