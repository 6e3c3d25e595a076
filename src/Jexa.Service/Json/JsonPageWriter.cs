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
            case TextView text:
                WriteText(text, writer);
                break;
            case FormView { Status: >= 400 } form:
                WriteFaults(form, instance, writer);
                break;
            case FormView form:
                WriteForm(form, writer, scratch);
                break;
            case DeleteView { Status: >= 400 } delete:
                WriteProblem(new MessageView(delete.Frame, delete.Page, delete.Outcome, delete.Status, "", [delete.Notice ?? ""], null, null, []), instance, writer);
                break;
            case DeleteView delete:
                WriteDelete(delete, writer, scratch);
                break;
            case SavedView saved:
                writer.WriteString("outcome"u8, "saved"u8);
                writer.WriteString("page"u8, saved.Page);
                writer.WriteString("id"u8, saved.Id);
                writer.WriteString("address"u8, saved.Address);
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
        json.WriteString("title"u8, view.Heading);
        WriteTrail(view.Trail, json);
        WriteTotal(view.Total, json);
        if (view.From is { } from) json.WriteNumber("from"u8, from);
        if (view.Notice is { } notice) json.WriteString("notice"u8, notice);
        WriteRecords(view.Shape, view.Rows, json, scratch);
        json.WriteString("first"u8, view.Windows.First);
        json.WriteString("prev"u8, view.Windows.Previous);
        json.WriteString("next"u8, view.Windows.Next);
        json.WriteString("last"u8, view.Windows.Last);
        if (view.Add is { } add) json.WriteString("add"u8, add.Address);
        WriteControls(view.Controls, json);
        WriteSides(view.Sides, json);
    }

    private static void WriteTotal(Total total, Utf8JsonWriter json)
    {
        json.WriteStartObject("total"u8);
        json.WriteNumber("count"u8, total.Count);
        json.WriteBoolean("exact"u8, total.IsExact);
        json.WriteEndObject();
    }

    private static void WriteRecords(ListShape shape, RowBlock rows, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartArray("records"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            json.WriteStartObject();
            if (shape.RecordLink is { } own) WriteIdentity(own, rows[i], json, scratch);
            WriteFields(shape.Columns, rows[i], json, scratch);
            if (shape.Actions.Count > 0) WriteLinks(shape.Actions, rows[i], json, scratch);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteControls(ListControls controls, Utf8JsonWriter json)
    {
        if (controls.Find is { } find) json.WriteString("find"u8, find);
        json.WriteString("order"u8, controls.Order);
        json.WriteStartArray("orders"u8);
        foreach (var order in controls.Orders) json.WriteStringValue(order.Name);
        json.WriteEndArray();
        json.WriteNumber("size"u8, controls.Size);
        json.WriteStartArray("sizes"u8);
        foreach (var size in controls.Sizes) json.WriteNumberValue(size);
        json.WriteEndArray();
    }

    private static void WriteSides(IReadOnlyList<SideView> sides, Utf8JsonWriter json)
    {
        if (sides.Count == 0) return;
        json.WriteStartArray("sides"u8);
        foreach (var side in sides)
        {
            json.WriteStartObject();
            json.WriteString("title"u8, side.Title);
            json.WriteBoolean("exact"u8, side.IsExact);
            json.WriteBoolean("whole"u8, side.IsWhole);
            if (side.HasFailed) json.WriteBoolean("failed"u8, true);
            json.WriteStartArray("values"u8);
            foreach (var entry in side.Entries)
            {
                json.WriteStartObject();
                json.WriteString("label"u8, entry.Text);
                json.WriteString("address"u8, entry.Address);
                json.WriteNumber("count"u8, entry.Count);
                json.WriteBoolean("current"u8, entry.IsCurrent);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteTrail(IReadOnlyList<PlainLink> trail, Utf8JsonWriter json)
    {
        if (trail.Count == 0) return;
        json.WriteStartArray("trail"u8);
        foreach (var link in trail) WriteLink(link, json);
        json.WriteEndArray();
    }

    private static void WriteLink(PlainLink link, Utf8JsonWriter json)
    {
        json.WriteStartObject();
        json.WriteString("page"u8, link.Page);
        json.WriteString("text"u8, link.Text);
        json.WriteString("address"u8, link.Address);
        json.WriteEndObject();
    }

    private static void WriteDetail(DetailView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, "found"u8);
        json.WriteString("page"u8, view.Page);
        scratch.Truncate(0);
        view.Shape.Title.Write(view.Record, scratch);
        json.WriteString("title"u8, scratch.Written);
        WriteTrail(view.Trail, json);
        WriteIdentity(view.Shape.Own, view.Record, json, scratch);
        WriteFields(view.Shape.Fields, view.Record, json, scratch);
        WriteLinks(view.Shape.Links, view.Record, json, scratch);
        if (view.Back is { } back) json.WriteString("list"u8, back.Address);
        json.WriteString("prev"u8, view.Previous?.Address);
        json.WriteString("next"u8, view.Next?.Address);
        if (view.Blocks.Count > 0) WriteBlocks(view.Blocks, json, scratch);
    }

    private static void WriteLinks(IReadOnlyList<LinkPlan> links, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartArray("links"u8);
        foreach (var link in links)
        {
            scratch.Truncate(0);
            if (!link.TryWrite(row, scratch)) continue;
            json.WriteStartObject();
            json.WriteString("page"u8, link.Page);
            json.WriteString("text"u8, link.Text);
            json.WriteString("address"u8, scratch.Written);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteBlocks(IReadOnlyList<BlockView> blocks, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartArray("related"u8);
        foreach (var block in blocks)
        {
            json.WriteStartObject();
            json.WriteString("record"u8, block.Shape.Name);
            json.WriteString("title"u8, block.Shape.Title);
            if (block.Shape.Notice is { } notice) json.WriteString("notice"u8, notice);
            if (block.HasFailed) json.WriteBoolean("failed"u8, true);
            if (block.Rows is { } rows)
            {
                WriteTotal(block.Total, json);
                WriteRecords(block.Shape.Rows!, rows, json, scratch);
                json.WriteString("all"u8, block.All?.Address);
            }

            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteText(TextView view, Utf8JsonWriter json)
    {
        json.WriteString("outcome"u8, "shown"u8);
        json.WriteString("page"u8, view.Page);
        json.WriteString("title"u8, view.Heading);
        json.WriteString("text"u8, view.Markdown);
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
            // A field that does not apply to the record is not told at all.
            if (column.When?.Invoke(row) == false) continue;
            json.WritePropertyName(column.Name);
            if (column.IsReferenceShown(row)) WriteReference(column, row, json, scratch);
            else if (column.Reference is not null && column.IsLost(row)) WriteLost(json);
            else if (column.IsLost(row)) json.WriteNullValue();
            else if (column.Picture is not null) WritePicture(column, row, json, scratch);
            else WriteCell(column, row, json);
        }

        json.WriteEndObject();
    }

    /// <summary>A picture by its name and the address it is loaded from.</summary>
    private static void WritePicture(ViewColumn column, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        if (column.IsEmpty(row))
        {
            json.WriteNullValue();
            return;
        }

        scratch.Truncate(0);
        var found = column.Picture!.TryWrite(row, scratch);
        json.WriteStartObject();
        json.WriteString("name"u8, column.Picture.NameOf(row));
        if (found) json.WriteString("address"u8, scratch.Written);
        else json.WriteNull("address"u8);
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

    /// <summary>The record's own fields as they are, by which it is changed: no labels, nothing of other records.</summary>
    private static void WriteForm(FormView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, view.Outcome);
        json.WriteString("page"u8, view.Page);
        if (view.Row is { } row)
        {
            WriteIdentity(view.Own!, row, json, scratch);
            WriteFields(view.Stored, row, json, scratch);
            return;
        }

        json.WriteStartObject("fields"u8);
        foreach (var input in view.Inputs)
        {
            if (input.Text.Length == 0) json.WriteNull(input.Name);
            else if (input.Field.Type == FieldType.Boolean) json.WriteBoolean(input.Name, input.Text == "true");
            else if (input.Field.Type is FieldType.Integer or FieldType.Real && double.TryParse(input.Text, CultureInfo.InvariantCulture, out _))
            {
                json.WritePropertyName(input.Name);
                json.WriteRawValue(input.Text);
            }
            else json.WriteString(input.Name, input.Text);
        }

        json.WriteEndObject();
    }

    private static void WriteDelete(DeleteView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, view.Outcome);
        json.WriteString("page"u8, view.Page);
        WriteIdentity(view.Shape.Own, view.Record, json, scratch);
        WriteFields(view.Stored, view.Record, json, scratch);
    }

    /// <summary>What is wrong with what was sent: each fault with where it is (RFC 6901).</summary>
    private static void WriteFaults(FormView view, string instance, Utf8JsonWriter json)
    {
        var detail = view.Notice ?? (view.Strays.Count + view.Faults.Count == 1 ? "What was sent cannot be saved: one thing is wrong with it. Nothing was changed."
            : $"What was sent cannot be saved: {view.Strays.Count + view.Faults.Count} things are wrong with it. Nothing was changed.");
        WriteProblem(new MessageView(view.Frame, view.Page, view.Outcome, view.Status, "", [detail], null, null, []), instance, json);
        json.WriteStartArray("errors"u8);
        foreach (var (pointer, text) in view.Strays) Write($"#{pointer}", text);
        foreach (var fault in view.Faults) Write(fault.Field is { } field ? $"#/fields/{field.Name}" : "#", fault.Text);
        json.WriteEndArray();

        void Write(string pointer, string text)
        {
            json.WriteStartObject();
            json.WriteString("pointer"u8, pointer);
            json.WriteString("detail"u8, text);
            json.WriteEndObject();
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
        foreach (var link in view.Links) WriteLink(link, json);
        json.WriteEndArray();
    }
}
