using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Proof;

/// <summary>Proves one field of a record kind: whether each value is what the app file and the source say of the field.</summary>
/// <param name="hasFile">Whether a folder has a file of this name that can be shown.</param>
/// <param name="leadsNowhere">Whether a path in a text is no address of the app.</param>
internal sealed class ValueProof(
    ViewColumn column,
    SiteField field,
    Func<FilePlan, string, bool> hasFile,
    Func<string, bool> leadsNowhere
)
{
    private readonly Regex? _pattern = field.Form.Whole(ignoreCase: false);

    public ViewColumn Column => column;

    /// <summary>What is wrong with the value of a row, and the value as people see it; null if nothing is.</summary>
    public (FindingCode Code, string Says)? Prove(Row row)
    {
        ref readonly var cell = ref row[column.Ordinal];
        if (cell.IsNull || (cell.Kind == CellKind.Text && cell.Length == 0))
            return null;
        if (!IsOf(field, cell))
            return (ProofCodes.StoredAsOtherType, $"{Word(cell.Kind)}: {Shown(row)}");
        if (column.When?.Invoke(row) == false)
            return null;
        if (column.File is { } file)
            return Prove(file, row);
        if (cell.Kind != CellKind.Text)
            return IsUnknownChoice(row) ? (ProofCodes.ValueNotAllowed, Shown(row)) : null;
        var text = row.Text(column.Ordinal);
        if (
            _pattern?.IsMatch(text) == false
            || text.Length > field.Form.MaxLength
            || IsUnknownChoice(row)
            || (field.Style.Form == FieldForm.Web && !TextLinks.IsWebAddress(text))
        )
            return (ProofCodes.ValueNotAllowed, Shown(row));
        return field.Style.Form == FieldForm.Markdown && TextLinks.Of(text).FirstOrDefault(leadsNowhere) is { } dead
            ? (ProofCodes.TextLinkToNothing, dead)
            : null;
    }

    /// <summary>The paths of this app that a text of the row leads to.</summary>
    public IEnumerable<string> PathsOf(Row row) =>
        field.Style.Form == FieldForm.Markdown && row[column.Ordinal].Kind == CellKind.Text
            ? TextLinks
                .Of(row.Text(column.Ordinal))
                .Where(target => target.StartsWith('/') && !target.StartsWith("//", StringComparison.Ordinal))
            : [];

    private (FindingCode Code, string Says)? Prove(FilePlan file, Row row)
    {
        var name = file.NameOf(row);
        return file.LacksPlace(row) ? (FindingCodes.PictureWithoutPlace, name)
            : file.Folder is not null && name.Length > 0 && !hasFile(file, name) ? (ProofCodes.FileNotThere, name)
            : null;
    }

    private bool IsUnknownChoice(Row row)
    {
        if (field.Style.Choices.Count == 0)
            return false;
        return !field.Style.Choices.ContainsKey(Plain(row));
    }

    private string Plain(Row row)
    {
        using var text = new Utf8Buffer(64);
        ValueFormat.Write(row, column.Ordinal, FieldType.Any, ValueStyle.Plain, text);
        return text.ToString();
    }

    private string Shown(Row row) => Plain(row) is var text && text.Length <= 80 ? text : text[..79] + "…";

    /// <summary>Whether a value is stored as its field's type, or as another that stands for it.</summary>
    private static bool IsOf(SiteField field, in Cell cell) =>
        field.Type switch
        {
            FieldType.Integer => cell.Kind is CellKind.Integer or CellKind.Decimal,
            FieldType.Real or FieldType.Decimal => cell.Kind is CellKind.Integer or CellKind.Real or CellKind.Decimal,
            FieldType.Boolean => cell.Kind == CellKind.Boolean || cell is { Kind: CellKind.Integer, Integer: 0 or 1 },
            FieldType.Date => cell.Kind == CellKind.Date,
            FieldType.Timestamp => cell.Kind is CellKind.Timestamp or CellKind.Date
                || (cell.Kind == CellKind.Integer && field.Style.Form == FieldForm.Epoch),
            FieldType.Uuid => cell.Kind == CellKind.Uuid,
            FieldType.Text => cell.Kind is CellKind.Text,
            _ => true,
        };

    private static string Word(CellKind kind) => kind == CellKind.Integer ? "whole number" : kind.ToString().ToLowerInvariant();
}
