using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>One field as a page shows it.</summary>
/// <param name="Name">The field's name in the app file and in JSON.</param>
/// <param name="Ordinal">Where the field's own value stands in a row.</param>
/// <param name="IsId">A key or foreign key: never formatted as a number or a date.</param>
/// <param name="Reference">For a foreign key, how the other record is shown in its stead.</param>
/// <param name="Link">The link that stands on the field, if any.</param>
/// <param name="WhenEmpty">What a link on a field without a value says instead; null if there is no link.</param>
public sealed record ViewColumn(
    string Name,
    string Label,
    FieldType Type,
    int Ordinal,
    bool IsId,
    ReferencePlan? Reference,
    LinkPlan? Link,
    TextPlan? WhenEmpty
)
{
    public ValueStyle Style { get; init; } = ValueStyle.Plain;

    /// <summary>The records between the row and a field of another record; empty for a field of the row's own.</summary>
    public IReadOnlyList<StepPlan> Steps { get; init; } = [];

    /// <summary>The field is shown only where this holds for the row; null for always.</summary>
    public Func<Row, bool>? When { get; init; }

    /// <summary>Where the picture is that the field names; null if it names none.</summary>
    public PicturePlan? Picture { get; init; }

    /// <summary>Where the bytes that the field holds can be had as a file; null if it holds none.</summary>
    public RecordAddress? Download { get; init; }

    /// <summary>The name under which a visitor can order by it; null if nobody can.</summary>
    public string? OrderName { get; init; }

    /// <summary>Whether values line up at the right.</summary>
    public bool IsNumeric =>
        !IsId
        && Reference is null
        && Style is { Choices.Count: 0, Form: not FieldForm.Epoch }
        && Type is FieldType.Integer or FieldType.Real or FieldType.Decimal;

    /// <summary>The link that stands on the value: the column's own, or the one to the record it refers to.</summary>
    public LinkPlan? LinkOn(Row row) => Link ?? (IsReferenceShown(row) ? Reference!.Link : null);

    /// <summary>Whether the row has no value here, or none that is to be shown.</summary>
    public bool IsEmpty(Row row)
    {
        if (When?.Invoke(row) == false)
            return true;
        for (var i = 0; i < Steps.Count; i++)
        {
            if (row[Steps[i].Key].IsNull)
                return true;
            if (row[Steps[i].Presence].IsNull)
                return false;
        }

        return row[Ordinal].Kind == CellKind.Null || (row[Ordinal].Kind == CellKind.Text && row[Ordinal].Length == 0);
    }

    /// <summary>Whether this is a foreign key whose other record is there and may be seen.</summary>
    public bool IsReferenceShown(Row row) =>
        Reference is not null && !IsEmpty(row) && row[Reference.Presence].Kind != CellKind.Null;

    /// <summary>
    /// Whether a record that the value hangs on is not there or may not be seen, though a foreign key names it.
    /// </summary>
    public bool IsLost(Row row)
    {
        if ((Reference is null && Steps.Count == 0) || IsEmpty(row))
            return false;
        for (var i = 0; i < Steps.Count; i++)
            if (row[Steps[i].Presence].IsNull)
                return true;
        return Reference is not null && row[Reference.Presence].IsNull;
    }

    /// <summary>Appends the value for people, as plain UTF-8.</summary>
    public void WriteText(Row row, Utf8Buffer into)
    {
        if (IsReferenceShown(row))
            Reference!.Label.Write(row, into);
        else if (Reference is null)
            WriteOwn(row, into);
    }

    /// <summary>Appends the field's own value for people.</summary>
    public void WriteOwn(Row row, Utf8Buffer into) => TextPiece.Of(Ordinal, Type, IsId, Style).Write(row, into);
}
