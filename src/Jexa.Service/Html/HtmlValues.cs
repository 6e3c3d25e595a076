using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes one value of a row as HTML, with its link, in its field's form.</summary>
/// <param name="view">The page.</param>
/// <param name="mark">The value of <c>from=</c> in links to the rows' records; empty for none.</param>
/// <param name="most">The most bytes of a text to show; dots show that it was cut.</param>
internal readonly struct HtmlValues(PageView view, Utf8Buffer html, Utf8Buffer scratch, string mark, int most = int.MaxValue)
{
    /// <summary>The most bytes of a text in a list.</summary>
    public const int MostInList = 300;

    /// <summary>JSON of more bytes is shown as it is.</summary>
    private const int MostJson = 100_000;

    private static readonly JsonSerializerOptions Indented = new()
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A text is cut between words if a word ends within this number of bytes before the limit.</summary>
    private const int LongestWord = 40;

    /// <summary>Characters with a meaning in an attribute.</summary>
    private static readonly SearchValues<byte> Meaningful = SearchValues.Create("&<>\"'"u8);

    /// <param name="quiet">The link is only for the pointer: another one in the row leads there.</param>
    /// <param name="attributes">Further attributes of the link, with a blank before them.</param>
    public void Write(ViewColumn column, Row row, TextPlan? title, bool quiet, ReadOnlySpan<byte> attributes)
    {
        var linked = column.LinkOn(row) is { } link && TryOpen(link, row, quiet, attributes);
        var isEmpty = column.IsEmpty(row);
        if (isEmpty && linked && column.WhenEmpty is { } instead)
            WriteText(instead, row);
        else if (isEmpty)
            html.Append("<span class=\"none\"><span aria-hidden=\"true\">—</span><span class=\"unseen\">empty</span></span>"u8);
        else if (column.IsLost(row))
            html.Append("<span class=\"none\">not available</span>"u8);
        else if (column.Reference is { } reference)
            WriteReference(reference, row);
        else
            WriteCell(column, row, title, linked, quiet);
        if (linked)
            html.Append("</a>"u8);
    }

    /// <summary>Opens a link. False, and nothing written, if the row has none.</summary>
    public bool TryOpen(LinkPlan link, Row row, bool quiet, ReadOnlySpan<byte> attributes)
    {
        var start = html.Length;
        html.Append("<a"u8);
        if (!TryAddress(link, row, ""))
        {
            html.Truncate(start);
            return false;
        }

        if (quiet)
            html.Append(" tabindex=\"-1\" aria-hidden=\"true\""u8);
        html.Append(attributes);
        html.Append(">"u8);
        return true;
    }

    /// <summary>Writes a link's address as an attribute. False, and nothing written, if the row has none.</summary>
    /// <param name="after">More of the query string, each pair after its &amp;, and a fragment.</param>
    public bool TryAddress(LinkPlan link, Row row, string after)
    {
        var start = html.Length;
        html.Append(" href=\""u8);
        var address = html.Length;
        if (!link.TryWrite(row, html))
        {
            html.Truncate(start);
            return false;
        }

        if (link.IsOwn && mark.Length > 0)
            html.Append($"{(html.Written[address..].Contains((byte)'?') ? '&' : '?')}from={mark}");
        if (after.Length > 0)
            html.Append(after[0] != '&' || html.Written[address..].Contains((byte)'?') ? after : $"?{after[1..]}");

        // An address is percent-encoded; only the ampersand has a meaning in HTML.
        if (html.Written[address..].ContainsAny(Meaningful))
        {
            scratch.Truncate(0);
            scratch.Append(html.Written[address..]);
            html.Truncate(address);
            html.AppendEncoded(scratch.Written);
        }

        html.Append("\""u8);
        return true;
    }

    public void WriteText(TextPlan text, Row row)
    {
        scratch.Truncate(0);
        text.Write(row, scratch);
        AppendCut(scratch.Written);
    }

    private void AppendCut(ReadOnlySpan<byte> text)
    {
        if (text.Length <= most)
        {
            html.AppendEncoded(text);
            return;
        }

        var end = most;
        while (end > 0 && (text[end] & 0xC0) == 0x80)
            end--;
        if (text[..end].LastIndexOfAny(" \n"u8) is var blank && blank > end - LongestWord)
            end = blank;
        html.AppendEncoded(text[..end].TrimEnd(" \r\n"u8));
        html.Append("…"u8);
    }

    /// <summary>The value as it is stored, for programs that read attributes.</summary>
    public void WriteStored(ViewColumn column, Row row)
    {
        ref readonly var cell = ref row[column.Ordinal];
        if (cell.Kind is CellKind.Date or CellKind.Timestamp)
        {
            WriteIso(column, cell);
            return;
        }

        scratch.Truncate(0);
        Store(column, row);
        html.AppendEncoded(scratch.Written);
    }

    /// <summary>Whether the value, as it is stored, is this text.</summary>
    public bool IsStored(ViewColumn column, Row row, string text)
    {
        scratch.Truncate(0);
        Store(column, row);
        return scratch.Written.SequenceEqual(Encoding.UTF8.GetBytes(text));
    }

    private void Store(ViewColumn column, Row row)
    {
        ref readonly var cell = ref row[column.Ordinal];
        if (cell.Kind == CellKind.Text)
            scratch.Append(row.Run(column.Ordinal));
        else if (cell.Kind == CellKind.Integer)
            scratch.Append(cell.Integer);
        else
            TextPiece.Of(column.Ordinal, column.Type, column.IsId).Write(row, scratch);
    }

    /// <summary>
    /// Writes a web or mail address, or that of a file, as an attribute. False if it cannot be followed.
    /// </summary>
    public bool WriteAddress(ViewColumn column, Row row, ReadOnlySpan<byte> attribute)
    {
        if (row[column.Ordinal].Kind != CellKind.Text)
            return false;
        if (column.File is { } plan)
        {
            scratch.Truncate(0);
            if (!Media.FolderFiles.TryFind(plan, row, scratch, out _))
                return false;
            WriteAttribute(attribute, scratch.Written);
            return true;
        }

        var text = row.Text(column.Ordinal);
        var address =
            column.Style.Form == FieldForm.Mail ? MailOf(text)
            : MarkdownText.IsOfWeb(text) ? text
            : null;
        if (address is null)
            return false;
        WriteAttribute(attribute, Encoding.UTF8.GetBytes(address));
        return true;
    }

    private void WriteAttribute(ReadOnlySpan<byte> name, ReadOnlySpan<byte> text)
    {
        html.Append(" "u8);
        html.Append(name);
        html.Append("=\""u8);
        html.AppendEncoded(text);
        html.Append("\""u8);
    }

    private void WriteReference(ReferencePlan reference, Row row)
    {
        if (reference.Label.IsColumn(row, out var utf8))
            AppendCut(utf8);
        else
            WriteText(reference.Label, row);
    }

    /// <summary>Text is encoded. Numbers, dates and booleans may contain letters of a unit or choice.</summary>
    private void WriteCell(ViewColumn column, Row row, TextPlan? title, bool linked, bool quiet)
    {
        ref readonly var cell = ref row[column.Ordinal];
        if (column.Style.Form != FieldForm.Plain && cell.Kind == CellKind.Text)
        {
            WriteForm(column, row, title, linked, quiet);
            return;
        }

        switch (cell.Kind)
        {
            case CellKind.Text when column.Style is { Choices.Count: 0, Unit: null }:
                AppendCut(row.Run(column.Ordinal));
                break;
            case CellKind.Integer when column.Style.Form == FieldForm.Epoch && ValueFormat.MomentOf(cell.Integer) is { } moment:
                html.Append("<time datetime=\""u8);
                html.Append(moment.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", System.Globalization.CultureInfo.InvariantCulture));
                html.Append("\">"u8);
                WriteOwn(column, row);
                html.Append("</time>"u8);
                break;
            case CellKind.Bytes when column.Download is not null:
                WriteBytes(column, row, linked);
                break;
            case CellKind.Date:
            case CellKind.Timestamp:
                html.Append("<time datetime=\""u8);
                WriteIso(column, cell);
                html.Append("\">"u8);
                WriteOwn(column, row);
                html.Append("</time>"u8);
                break;
            default:
                WriteOwn(column, row);
                break;
        }
    }

    /// <summary>The kind and size of the content, as a link to it.</summary>
    private void WriteBytes(ViewColumn column, Row row, bool linked)
    {
        scratch.Truncate(0);
        var leads = !linked && column.Download!.TryWrite(row, scratch);
        if (leads)
        {
            html.Append("<a download href=\""u8);
            html.AppendEncoded(scratch.Written);
            html.Append("\">"u8);
        }

        if (Media.ContentKind.Of(row.Run(column.Ordinal)) is { Name.Length: > 0 } kind)
        {
            html.AppendEncoded(kind.Name);
            html.Append(", "u8);
        }

        WriteOwn(column, row);
        if (leads)
            html.Append("</a>"u8);
    }

    private void WriteOwn(ViewColumn column, Row row)
    {
        scratch.Truncate(0);
        column.WriteOwn(row, scratch);
        html.AppendEncoded(scratch.Written);
    }

    private void WriteForm(ViewColumn column, Row row, TextPlan? title, bool linked, bool quiet)
    {
        var text = row.Run(column.Ordinal);
        var before = html.Length;
        try
        {
            WriteFormed(column, row, title, linked, quiet);
        }
        catch (Exception unwritable) when (unwritable is not OutOfMemoryException)
        {
            // One text must not break a page: it is shown as plain text.
            html.Truncate(before);
            html.AppendEncoded(text);
        }
    }

    private void WriteFormed(ViewColumn column, Row row, TextPlan? title, bool linked, bool quiet)
    {
        var text = row.Run(column.Ordinal);
        switch (column.Style.Form)
        {
            case FieldForm.Long:
                html.Append("<span class=\"long\">"u8);
                AppendCut(text);
                html.Append("</span>"u8);
                break;
            case FieldForm.Json when linked || most < MostJson || text.Length > MostJson:
                AppendCut(text);
                break;
            case FieldForm.Json:
                html.Append("<pre class=\"json\">"u8);
                html.AppendEncoded(LaidOut(text));
                html.Append("</pre>"u8);
                break;
            case FieldForm.Markdown when linked || text.Length > most:
                AppendCut(text);
                break;
            case FieldForm.Markdown:
                html.Append("<div class=\"markdown\">"u8);
                html.Append(MarkdownText.ToHtml(row.Text(column.Ordinal), view.Frame));
                html.Append("</div>"u8);
                break;
            case FieldForm.Mail:
                WriteFollowed(row.Text(column.Ordinal), linked, MailOf(row.Text(column.Ordinal)));
                break;
            case FieldForm.Web:
                WriteFollowed(
                    row.Text(column.Ordinal),
                    linked,
                    MarkdownText.IsOfWeb(row.Text(column.Ordinal)) ? row.Text(column.Ordinal) : null
                );
                break;
            default:
                new HtmlMedia(this, html, scratch, most < int.MaxValue).Write(column, row, title, linked, quiet);
                break;
        }
    }

    /// <summary>JSON with one member a line; other text as it is.</summary>
    private static ReadOnlySpan<byte> LaidOut(ReadOnlySpan<byte> text)
    {
        try
        {
            var reader = new Utf8JsonReader(text);
            using var document = JsonDocument.ParseValue(ref reader);
            var laidOut = JsonSerializer.SerializeToUtf8Bytes(document.RootElement, Indented);
            return reader.BytesConsumed == text.Length || text[(int)reader.BytesConsumed..].Trim(" \t\r\n"u8).IsEmpty
                ? laidOut
                : text;
        }
        catch (JsonException)
        {
            return text;
        }
    }

    private static string? MailOf(string text) =>
        text.Count(c => c == '@') == 1
        && !text.StartsWith('@')
        && !text.EndsWith('@')
        && !text.Any(c => char.IsWhiteSpace(c) || char.IsControl(c) || c is '?' or '&' or '<' or '>' or ',' or ';')
            ? "mailto:" + Uri.EscapeDataString(text).Replace("%40", "@")
            : null;

    private void WriteFollowed(string text, bool linked, string? address)
    {
        if (linked || address is null)
        {
            html.AppendEncoded(text);
            return;
        }

        html.Append("<a rel=\"noopener noreferrer\" href=\""u8);
        html.AppendEncoded(address);
        html.Append("\">"u8);
        html.AppendEncoded(text);
        html.Append("</a>"u8);
    }

    /// <summary>What is said of a picture or recording: the name of its field, and the label of its record.</summary>
    public void WriteWords(ViewColumn column, Row row, TextPlan? title)
    {
        html.AppendEncoded(column.Label);
        if (title is null)
            return;
        html.Append(": "u8);
        WriteText(title, row);
    }

    private void WriteIso(ViewColumn column, in Cell cell)
    {
        int written;
        if (cell.Kind == CellKind.Date)
            DateOnly.FromDayNumber((int)cell.Integer).TryFormat(html.Room(16), out written, "O", CultureInfo.InvariantCulture);
        else if (column.Style.Conventions.Zone is null)
            new DateTime(cell.Integer).TryFormat(
                html.Room(32),
                out written,
                "yyyy-MM-dd'T'HH:mm:ss",
                CultureInfo.InvariantCulture
            );
        else
            new DateTime(cell.Integer).TryFormat(
                html.Room(32),
                out written,
                "yyyy-MM-dd'T'HH:mm:ss'Z'",
                CultureInfo.InvariantCulture
            );
        html.Advance(written);
    }
}
