using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>One field as a page shows it.</summary>
/// <param name="Name">The field's name in the app file and in JSON.</param>
/// <param name="Ordinal">Where the field's own value stands in a row.</param>
/// <param name="IsId">A key or foreign key: never formatted as a number or a date.</param>
/// <param name="Reference">For a foreign key, how the other record is shown in its stead.</param>
/// <param name="Link">The link that stands on the field, if any.</param>
/// <param name="WhenEmpty">What a link on a field without a value says instead; null where there is no link.</param>
public sealed record ViewColumn(
    string Name, string Label, FieldType Type, int Ordinal, bool IsId, ReferencePlan? Reference, LinkPlan? Link, TextPlan? WhenEmpty)
{
    /// <summary>Whether values line up at the right.</summary>
    public bool IsNumeric => !IsId && Reference is null && Type is FieldType.Integer or FieldType.Real or FieldType.Decimal;

    /// <summary>The link that stands on the value: the column's own, or the one to the record it refers to.</summary>
    public LinkPlan? LinkOn(Row row) => Link ?? (IsReferenceShown(row) ? Reference!.Link : null);

    /// <summary>Whether the row has no value here.</summary>
    public bool IsEmpty(Row row) => row[Ordinal].Kind == CellKind.Null
        || (row[Ordinal].Kind == CellKind.Text && row[Ordinal].Length == 0);

    /// <summary>Whether this is a foreign key whose other record is there and may be seen.</summary>
    public bool IsReferenceShown(Row row) => Reference is not null && row[Reference.Presence].Kind != CellKind.Null;

    /// <summary>Whether this is a foreign key that is filled but leads to no record that may be seen.</summary>
    public bool IsReferenceLost(Row row) => Reference is not null && !IsEmpty(row) && !IsReferenceShown(row);

    /// <summary>Appends the value for people, as plain UTF-8.</summary>
    public void WriteText(Row row, Utf8Buffer into)
    {
        if (IsReferenceShown(row)) Reference!.Label.Write(row, into);
        else if (Reference is null) TextPiece.Of(Ordinal, Type, IsId).Write(row, into);
    }
}

/// <summary>How a foreign key shows the record it leads to.</summary>
/// <param name="Presence">A column of the other record that is never empty where the record is there and visible.</param>
public sealed record ReferencePlan(TextPlan Label, int Presence, LinkPlan? Link);
