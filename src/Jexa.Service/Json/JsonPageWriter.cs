using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Unicode;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Microsoft.AspNetCore.WebUtilities;

namespace Jexa.Service.Json;

/// <summary>
/// Writes a page view as JSON. Each record carries its ID as text exactly as in its address; integers are numbers,
/// decimals are text, dates are ISO 8601. A message becomes problem details (RFC 9457) with the member <c>outcome</c>.
/// </summary>
internal static class JsonPageWriter
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static void Write(PageView view, string instance, Utf8Buffer json)
    {
        using var writer = new Utf8JsonWriter(json, Options);
        using var scratch = new Utf8Buffer(256);
        writer.WriteStartObject();
        switch (view)
        {
            case ListView list:
                WriteList(list, writer, scratch);
                break;
            case DetailView detail:
                WriteDetail(detail, writer, scratch);
                break;
            case MessageView message:
                WriteProblem(message, instance, writer);
                break;
        }

        writer.WriteEndObject();
        writer.Flush();
        json.Append((byte)'\n');
    }

    private static void WriteList(ListView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, "listed"u8);
        json.WriteString("page"u8, view.Page);
        json.WriteString("title"u8, view.Shape.Heading);
        json.WriteStartObject("total"u8);
        json.WriteNumber("count"u8, view.Total.Count);
        json.WriteBoolean("exact"u8, view.Total.IsExact);
        json.WriteEndObject();
        if (view.From is { } from) json.WriteNumber("from"u8, from);
        if (view.Notice is { } notice) json.WriteString("notice"u8, notice);
        json.WriteStartArray("records"u8);
        for (var i = 0; i < view.Rows.Count; i++)
        {
            json.WriteStartObject();
            if (view.Shape.RecordLink is { } own) WriteIdentity(own, view.Rows[i], json, scratch);
            WriteFields(view.Shape.Columns, view.Rows[i], json, scratch);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("first"u8, view.Windows.First);
        json.WriteString("prev"u8, view.Windows.Previous);
        json.WriteString("next"u8, view.Windows.Next);
        json.WriteString("last"u8, view.Windows.Last);
    }

    private static void WriteDetail(DetailView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, "found"u8);
        json.WriteString("page"u8, view.Page);
        scratch.Truncate(0);
        view.Shape.Title.Write(view.Record, scratch);
        json.WriteString("title"u8, scratch.Written);
        WriteIdentity(view.Shape.Own, view.Record, json, scratch);
        WriteFields(view.Shape.Fields, view.Record, json, scratch);
        json.WriteStartArray("links"u8);
        foreach (var link in view.Shape.Links)
        {
            scratch.Truncate(0);
            if (!link.TryWrite(view.Record, scratch)) continue;
            json.WriteStartObject();
            json.WriteString("page"u8, link.Page);
            json.WriteString("text"u8, link.Text);
            json.WriteString("address"u8, scratch.Written);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        if (view.Shape.Back is { } back) json.WriteString("list"u8, back.Address);
    }

    /// <summary>The ID as text; of several parameters, an object with one text each. Null where no address can carry it.</summary>
    private static void WriteIdentity(LinkPlan link, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
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
        if (link.Fillers.Count == 1)
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

    private static void WriteFields(IReadOnlyList<ViewColumn> columns, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartObject("fields"u8);
        foreach (var column in columns)
        {
            json.WritePropertyName(column.Name);
            if (column.IsReferenceShown(row)) WriteReference(column, row, json, scratch);
            else if (column.IsReferenceLost(row)) WriteLost(json);
            else WriteCell(column, row, json);
        }

        json.WriteEndObject();
    }

    private static void WriteReference(ViewColumn column, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartObject();
        if (column.Reference!.Link is { } link) WriteIdentity(link, row, json, scratch);
        scratch.Truncate(0);
        column.WriteText(row, scratch);
        json.WriteString("label"u8, scratch.Written);
        json.WriteEndObject();
    }

    /// <summary>A foreign key whose record is not there, or may not be seen: nothing of it is told.</summary>
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
                json.WriteStringValue(DateOnly.FromDayNumber((int)cell.Integer).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
                break;
            case CellKind.Timestamp:
                json.WriteStringValue(new DateTime(cell.Integer).ToString("yyyy-MM-dd'T'HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture));
                break;
            case CellKind.Text:
            case CellKind.Decimal:
                var text = row.Run(column.Ordinal);
                if (Utf8.IsValid(text)) json.WriteStringValue(text);
                else json.WriteStringValue(Encoding.UTF8.GetString(text));
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

    private static void WriteProblem(MessageView view, string instance, Utf8JsonWriter json)
    {
        json.WriteString("type"u8, "about:blank"u8);
        json.WriteString("title"u8, ReasonPhrases.GetReasonPhrase(view.Status));
        json.WriteNumber("status"u8, view.Status);
        json.WriteString("detail"u8, string.Join(' ', view.Sentences));
        json.WriteString("instance"u8, instance);
        json.WriteString("outcome"u8, view.Outcome);
        if (view.Page is { } page) json.WriteString("page"u8, page);
        if (view.Parameter is { } parameter) json.WriteString("parameter"u8, parameter);
        if (view.Expected is { } expected) json.WriteString("expected"u8, expected);
        json.WriteStartArray("links"u8);
        foreach (var link in view.Links)
        {
            json.WriteStartObject();
            json.WriteString("page"u8, link.Page);
            json.WriteString("text"u8, link.Text);
            json.WriteString("address"u8, link.Address);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }
}
