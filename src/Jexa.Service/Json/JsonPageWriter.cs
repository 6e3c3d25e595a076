using System.Diagnostics;
using System.Text.Encodings.Web;
using System.Text.Json;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.Writing;
using Microsoft.AspNetCore.WebUtilities;

namespace Jexa.Service.Json;

/// <summary>
/// Writes a page view as JSON. Each record has its ID as text, exactly as in its address. Integers are numbers, decimals are
/// text, dates are ISO 8601. A message becomes problem details (RFC 9457) with the member <c>outcome</c>.
/// </summary>
internal sealed class JsonPageWriter : IPageWriter
{
    private const int MaxInstance = 2048;

    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public IReadOnlyList<string> MediaTypes { get; } = ["application/json", "application/problem+json"];

    public Reader Reader => Reader.Program;

    public bool CarriesVersion => true;

    public char Letter => 'j';

    public string ContentType(int status) => MediaTypes[status < 400 ? 0 : 1];

    void IPageWriter.Write(PageView view, Page? page, string target, Utf8Buffer body) => Write(view, target, body);

    /// <param name="target">The requested target, which becomes the instance of a problem.</param>
    public static void Write(PageView view, string target, Utf8Buffer json)
    {
        var instance = target.Length <= MaxInstance ? target : target[..MaxInstance];
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
                WriteText(text, writer, scratch);
                break;
            case FormView { Status: >= 400 } form:
                JsonFormWriter.WriteFaults(form, instance, writer);
                break;
            case FormView form:
                JsonFormWriter.WriteForm(form, writer, scratch);
                break;
            case DeleteView { Status: >= 400 } delete:
                WriteProblem(Refused(delete), instance, writer);
                break;
            case DeleteView delete:
                JsonFormWriter.WriteDelete(delete, writer, scratch);
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
            default:
                throw new UnreachableException($"{view.GetType().Name} is not written as JSON.");
        }

        writer.WriteEndObject();
        writer.Flush();
        json.Append((byte)'\n');
    }

    /// <summary>A record that was not deleted.</summary>
    private static MessageView Refused(DeleteView view) =>
        new(view.Frame, view.Page, view.Outcome, view.Status, "", [view.Notice ?? ""], null, null, []);

    private static void WriteList(ListView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, "listed"u8);
        json.WriteString("page"u8, view.Page);
        json.WriteString("title"u8, view.Heading);
        WriteTrail(view.Trail, json);
        WriteTotal(view.Total, json);
        if (view.From is { } from)
            json.WriteNumber("from"u8, from);
        if (view.Notice is { } notice)
            json.WriteString("notice"u8, notice);
        WriteRecords(view.Shape, view.Rows, json, scratch);
        json.WriteString("first"u8, view.Windows.First);
        json.WriteString("prev"u8, view.Windows.Previous);
        json.WriteString("next"u8, view.Windows.Next);
        json.WriteString("last"u8, view.Windows.Last);
        if (view.Add is { } add)
            json.WriteString("add"u8, add.Address);
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
        var links = LinksOf(shape);
        json.WriteStartArray("records"u8);
        for (var i = 0; i < rows.Count; i++)
        {
            json.WriteStartObject();
            if (shape.RecordLink is { } own)
                JsonValues.WriteIdentity(own, rows[i], json, scratch);
            JsonValues.WriteFields(shape.Columns, rows[i], json, scratch);
            if (links.Count > 0)
                WriteLinks(links, rows[i], json, scratch);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    /// <summary>All links of a row except its record's own address: in a column, of the whole row, on a value.</summary>
    private static IReadOnlyList<LinkPlan> LinksOf(ListShape shape)
    {
        bool IsOther(LinkPlan? link) => link is not null && link.Page != shape.RecordLink?.Page;
        if (!IsOther(shape.RowLink) && !shape.Columns.Any(column => IsOther(column.Link)))
            return shape.Actions;
        return
        [
            .. shape.Actions,
            .. shape
                .Columns.Select(column => column.Link)
                .Append(shape.RowLink)
                .Where(IsOther)
                .Select(link => link!)
                .DistinctBy(link => (link.Page, link.UriTemplate)),
        ];
    }

    private static void WriteControls(ListControls controls, Utf8JsonWriter json)
    {
        if (controls.Find is { } find)
            json.WriteString("find"u8, find);
        json.WriteString("order"u8, controls.Order);
        json.WriteStartArray("orders"u8);
        foreach (var order in controls.Orders)
            json.WriteStringValue(order.Name);
        json.WriteEndArray();
        json.WriteNumber("size"u8, controls.Size);
        json.WriteStartArray("sizes"u8);
        foreach (var size in controls.Sizes)
            json.WriteNumberValue(size);
        json.WriteEndArray();
    }

    private static void WriteSides(IReadOnlyList<SideView> sides, Utf8JsonWriter json)
    {
        if (sides.Count == 0)
            return;
        json.WriteStartArray("sides"u8);
        foreach (var side in sides)
        {
            json.WriteStartObject();
            json.WriteString("title"u8, side.Title);
            json.WriteBoolean("exact"u8, side.IsExact);
            json.WriteBoolean("whole"u8, side.IsWhole);
            if (side.HasFailed || side.IsBeingCounted)
                json.WriteBoolean("failed"u8, true);
            if (side.All is { } all)
                json.WriteString("all"u8, all.Address);
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
        if (trail.Count == 0)
            return;
        json.WriteStartArray("trail"u8);
        foreach (var link in trail)
            WriteLink(link, json);
        json.WriteEndArray();
    }

    public static void WriteLink(PlainLink link, Utf8JsonWriter json)
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
        JsonValues.WriteIdentity(view.Shape.Own, view.Record, json, scratch);
        JsonValues.WriteFields(view.Shape.Fields, view.Record, json, scratch);
        WriteLinks(
            [.. view.Shape.Links, .. view.Shape.Fields.Select(field => field.Link).OfType<LinkPlan>()],
            view.Record,
            json,
            scratch
        );
        if (view.Back is { } back)
            json.WriteString("list"u8, back.Address);
        json.WriteString("prev"u8, view.Previous?.Address);
        json.WriteString("next"u8, view.Next?.Address);
        json.WriteString("prev_text"u8, view.Previous?.Text);
        json.WriteString("next_text"u8, view.Next?.Text);
        if (view.Blocks.Count > 0)
            WriteBlocks(view.Blocks, json, scratch);
    }

    private static void WriteLinks(IReadOnlyList<LinkPlan> links, Row row, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartArray("links"u8);
        foreach (var link in links)
        {
            scratch.Truncate(0);
            if (!link.TryWrite(row, scratch))
                continue;
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
            if (block.Shape.Notice is { } notice)
                json.WriteString("notice"u8, notice);
            if (block.HasFailed)
                json.WriteBoolean("failed"u8, true);
            if (block.Rows is { } rows)
            {
                WriteTotal(block.Total, json);
                WriteRecords(block.Shape.Rows!, rows, json, scratch);
                if (block is { Shape.Choice: { } choice, Chosen: >= 0 })
                {
                    scratch.Truncate(0);
                    choice.Key.Key.TryWrite(rows[block.Chosen], choice.Key.Ordinal, scratch);
                    json.WriteString("chosen"u8, scratch.Written);
                }

                json.WriteString("all"u8, block.All?.Address);
                json.WriteString("add"u8, block.Add?.Address);
            }

            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteText(TextView view, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteString("outcome"u8, "shown"u8);
        json.WriteString("page"u8, view.Page);
        json.WriteString("title"u8, view.Heading);
        json.WriteString("text"u8, view.Markdown);
        if (view.Found is { } found)
            WriteFound(found, json, scratch);
        if (view.Lists is not { } lists)
            return;
        json.WriteStartArray("lists"u8);
        foreach (var list in lists.Groups.SelectMany(group => group.Lists))
        {
            json.WriteStartObject();
            WriteListed(list.Link, list.Total, json);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    /// <summary>A list of the app, and how many records it has.</summary>
    private static void WriteListed(PlainLink list, Total? total, Utf8JsonWriter json)
    {
        json.WriteString("page"u8, list.Page);
        json.WriteString("text"u8, list.Text);
        json.WriteString("address"u8, list.Address);
        if (total is { } known)
            WriteTotal(known, json);
    }

    /// <summary>What a search across lists found. A list that could not be searched has no records.</summary>
    private static void WriteFound(FoundView found, Utf8JsonWriter json, Utf8Buffer scratch)
    {
        json.WriteStartArray("found"u8);
        foreach (var list in found.Lists)
        {
            json.WriteStartObject();
            WriteListed(list.All, list.Total, json);
            if (list.Rows is { } rows)
                WriteRecords(list.Shape, rows, json, scratch);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    /// <summary>Problem details (RFC 9457).</summary>
    public static void WriteProblem(MessageView view, string instance, Utf8JsonWriter json)
    {
        json.WriteString("type"u8, "about:blank"u8);
        json.WriteString("title"u8, ReasonPhrases.GetReasonPhrase(view.Status));
        json.WriteNumber("status"u8, view.Status);
        json.WriteString("detail"u8, string.Join(' ', view.Sentences));
        json.WriteString("instance"u8, instance);
        json.WriteString("outcome"u8, view.Outcome);
        if (view.Page is { } page)
            json.WriteString("page"u8, page);
        if (view.Parameter is { } parameter)
            json.WriteString("parameter"u8, parameter);
        if (view.Expected is { } expected)
            json.WriteString("expected"u8, expected);
        json.WriteStartArray("links"u8);
        foreach (var link in view.Links)
            WriteLink(link, json);
        json.WriteEndArray();
    }
}
