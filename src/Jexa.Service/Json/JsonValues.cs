using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Unicode;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Service.Media;

namespace Jexa.Service.Json;

/// <summary>Writes a record's ID and the values of its fields as JSON.</summary>
internal static class JsonValues
{
    /// <summary>A moment with its offset (RFC 3339). Stored moments are UTC.</summary>
    public const string MomentForm = "yyyy-MM-dd'T'HH:mm:ss.FFFFFFF'Z'";

    /// <summary>
    /// The ID as text; with several parameters, an object with one text each. Null if no address can contain it.
    /// </summary>
    public static void WriteIdentity(LinkPlan link, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WritePropertyName("id"u8);
        scratch.Truncate(0);
        if (!link.TryWrite(row, scratch))
        {
            json.WriteNullValue();
            json.WriteNull("address"u8);
            return;
        }

        using var id = new Utf8Buffer(64);
        if (link.Fillers.Count == 0)
            json.WriteNullValue();
        else if (link.Fillers.Count == 1)
        {
            link.TryWriteId(row, 0, id);
            json.WriteStringValue(id.Written);
        }
        else
        {
            json.WriteStartObject();
            for (var i = 0; i < link.Fillers.Count; i++)
            {
                id.Truncate(0);
                link.TryWriteId(row, i, id);
                json.WriteString(link.ParameterNames[i], id.Written);
            }

            json.WriteEndObject();
        }

        json.WriteString("address"u8, scratch.Written);
    }

    public static void WriteFields(IReadOnlyList<ViewColumn> columns, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartObject("fields"u8);
        foreach (var column in columns)
        {
            // A field that does not apply to the record is left out.
            if (column.When?.Invoke(row) == false)
                continue;
            json.WritePropertyName(column.Name);
            if (column.IsReferenceShown(row))
                WriteReference(column, row, json, scratch);
            else if (column.Reference is not null && column.IsLost(row))
                WriteLost(json);
            else if (column.IsLost(row))
                json.WriteNullValue();
            else if (column.File is not null)
                WriteFile(column, row, json, scratch);
            else
                WriteCell(column, row, json);
        }

        json.WriteEndObject();
    }

    /// <summary>A file: its name and the address to load it from.</summary>
    private static void WriteFile(ViewColumn column, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        if (column.IsEmpty(row))
        {
            json.WriteNullValue();
            return;
        }

        scratch.Truncate(0);
        var plan = column.File!;
        // A file that is missing has no address, as on the page.
        var found = FolderFiles.TryFind(plan, row, scratch, out _);
        json.WriteStartObject();
        json.WriteString("name"u8, plan.NameOf(row));
        if (found)
            json.WriteString("address"u8, scratch.Written);
        else
            json.WriteNull("address"u8);
        json.WriteEndObject();
    }

    private static void WriteReference(ViewColumn column, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartObject();
        if (column.Reference!.Link is { } link)
            WriteIdentity(link, row, json, scratch);
        scratch.Truncate(0);
        column.WriteText(row, scratch);
        json.WriteString("label"u8, scratch.Written);
        json.WriteEndObject();
    }

    /// <summary>A foreign key whose record does not exist or may not be seen: nothing of it is written.</summary>
    private static void WriteLost(Utf8JsonWriter json)
    {
        json.WriteStartObject();
        json.WriteNull("id"u8);
        json.WriteNull("label"u8);
        json.WriteEndObject();
    }

    private static void WriteCell(ViewColumn column, Row row, Utf8JsonWriter json)
    {
        ref readonly var cell = ref row[column.Ordinal];
        switch (cell.Kind)
        {
            case CellKind.Integer when column.Type == FieldType.Decimal:
                json.WriteStringValue(cell.Integer.ToString(CultureInfo.InvariantCulture));
                break;
            case CellKind.Integer:
                json.WriteNumberValue(cell.Integer);
                break;
            case CellKind.Real when column.Type == FieldType.Decimal:
                json.WriteStringValue(cell.Real.ToString("R", CultureInfo.InvariantCulture));
                break;
            case CellKind.Real when double.IsFinite(cell.Real):
                json.WriteNumberValue(cell.Real);
                break;
            case CellKind.Boolean:
                json.WriteBooleanValue(cell.Integer != 0);
                break;
            case CellKind.Date:
                json.WriteStringValue(
                    DateOnly.FromDayNumber((int)cell.Integer).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                );
                break;
            case CellKind.Timestamp:
                json.WriteStringValue(new DateTime(cell.Integer).ToString(MomentForm, CultureInfo.InvariantCulture));
                break;
            case CellKind.Text:
            case CellKind.Decimal:
                var text = row.Run(column.Ordinal);
                if (Utf8.IsValid(text))
                    json.WriteStringValue(text);
                else
                    json.WriteStringValue(Encoding.UTF8.GetString(text));
                break;
            case CellKind.Uuid:
                json.WriteStringValue(new Guid(row.Run(column.Ordinal), bigEndian: true));
                break;
            case CellKind.Bytes:
                json.WriteBase64StringValue(row.Run(column.Ordinal));
                break;
            default:
                json.WriteNullValue();
                break;
        }
    }
}
