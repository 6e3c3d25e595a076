using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A field as a page shows it.</summary>
/// <param name="Name">The field's name in the app file and in JSON.</param>
/// <param name="Ordinal">The cell of a row with the field's own value.</param>
/// <param name="IsId">A key or foreign key, which is never formatted as a number or date.</param>
/// <param name="Reference">For a foreign key, how the other record is shown instead.</param>
/// <param name="Link">The link on the field, if there is one.</param>
/// <param name="WhenEmpty">The text of a link on an empty field; null if there is no link.</param>
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
    /// <summary>How values of the column are written.</summary>
    public ValueStyle Style { get; init; } = ValueStyle.Plain;

    /// <summary>The records between the row and a field of another record; empty for the row's own fields.</summary>
    public IReadOnlyList<StepPlan> Steps { get; init; } = [];

    /// <summary>Whether a row shows the field; null for always.</summary>
    public Func<Row, bool>? When { get; init; }

    /// <summary>Where the file is that the field names; null if it names none.</summary>
    public FilePlan? File { get; init; }

    /// <summary>Where the picture is that the field names; null if it names none.</summary>
    public FilePlan? Picture => Style.Form == FieldForm.Picture ? File : null;

    /// <summary>Where the bytes in the field can be downloaded; null if it holds none.</summary>
    public RecordAddress? Download { get; init; }

    /// <summary>The name by which a visitor can order by it; null if that is not possible.</summary>
    public string? OrderName { get; init; }

    /// <summary>Whether its values are codes or single words, which are not broken at their hyphens.</summary>
    public bool IsShort { get; init; }

    /// <summary>Whether values are aligned to the right.</summary>
    public bool IsNumeric =>
        !IsId
        && Reference is null
        && Style is { Choices.Count: 0, Form: not FieldForm.Epoch }
        && Type is FieldType.Integer or FieldType.Real or FieldType.Decimal;

    /// <summary>The link on the value: the column's own, or the one to the record it refers to.</summary>
    public LinkPlan? LinkOn(Row row) => Link ?? (IsReferenceShown(row) ? Reference!.Link : null);

    /// <summary>Whether the row has no value here, or none to be shown.</summary>
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

    /// <summary>Whether this is a foreign key, and its record exists and may be seen.</summary>
    public bool IsReferenceShown(Row row) =>
        Reference is not null && !IsEmpty(row) && row[Reference.Presence].Kind != CellKind.Null;

    /// <summary>
    /// Whether a record that the value depends on does not exist or may not be seen, though a foreign key refers to it.
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
