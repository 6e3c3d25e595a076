using System.Buffers;
using System.Globalization;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes a page view as one HTML document, into memory: nothing is sent before the whole page is made.</summary>
internal sealed class HtmlPageWriter(string styleVersion)
{
    /// <summary>What HTML gives a meaning in an attribute.</summary>
    private static readonly SearchValues<byte> Meaningful = SearchValues.Create("&<>\"'"u8);

    private readonly HtmlParts _parts = new(styleVersion);

    public void Write(PageView view, Utf8Buffer html)
    {
        using var scratch = new Utf8Buffer(256);
        var frame = _parts.Of(view.Frame);
        html.Append(frame.BeforeTitle);
        WriteTitle(view, scratch);
        html.AppendEncoded(scratch.Written);
        html.Append(frame.AfterTitle);
        WriteMenu(frame, view.Page, html);
        html.Append("</header>\n<main id=\"main\">\n"u8);
        switch (view)
        {
            case ListView list:
                WriteList(list, html, scratch);
                break;
            case DetailView detail:
                WriteDetail(detail, html, scratch);
                break;
            case MessageView message:
                WriteMessage(message, html);
                break;
        }

        html.Append("</main>\n</body>\n</html>\n"u8);
    }

    private static void WriteTitle(PageView view, Utf8Buffer scratch)
    {
        scratch.Truncate(0);
        switch (view)
        {
            case ListView list:
                scratch.Append(list.Shape.Heading);
                break;
            case DetailView detail:
                detail.Shape.Title.Write(detail.Record, scratch);
                break;
            case MessageView message:
                scratch.Append(message.Heading);
                break;
        }
    }

    private static void WriteMenu(FrameParts frame, string? page, Utf8Buffer html)
    {
        if (frame.Menu.Count == 0) return;
        html.Append("<nav aria-label=\"Pages\">\n<ul>\n"u8);
        foreach (var (name, open, close) in frame.Menu)
        {
            html.Append(open);
            if (name == page) html.Append(" aria-current=\"page\""u8);
            html.Append(close);
        }

        html.Append("</ul>\n</nav>\n"u8);
    }

    private void WriteList(ListView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        var shape = view.Shape;
        html.Append("<div class=\"lead\">\n<h1>"u8);
        html.AppendEncoded(shape.Heading);
        html.Append("</h1>\n<p class=\"total\">"u8);
        html.AppendEncoded(TotalText(view));
        html.Append("</p>\n</div>\n"u8);
        if (view.Notice is { } notice) WriteNotice(notice, html);
        if (view.Rows.Count == 0) WriteNoRows(view, html);
        else WriteTable(view, html, scratch);
        WriteTurns(view, html);
    }

    private static void WriteNotice(string notice, Utf8Buffer html)
    {
        html.Append("<p class=\"notice\" role=\"status\">"u8);
        html.AppendEncoded(notice);
        html.Append("</p>\n"u8);
    }

    private static void WriteNoRows(ListView view, Utf8Buffer html)
    {
        html.Append("<p class=\"none-yet\">"u8);
        html.AppendEncoded(view.Windows.First is null ? $"There are no {view.Shape.Many} yet." : $"No more {view.Shape.Many} come after this place.");
        html.Append("</p>\n"u8);
    }

    private void WriteTable(ListView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = _parts.Of(view.Shape);
        html.Append(parts.Head);
        for (var i = 0; i < view.Rows.Count; i++)
        {
            var row = view.Rows[i];
            for (var column = 0; column < parts.Columns.Length; column++)
            {
                html.Append(parts.OpenCells[column]);
                WriteValue(parts.Columns[column], row, html, scratch);
            }

            html.Append(parts.CloseRow);
        }

        html.Append("</tbody>\n</table>\n"u8);
    }

    private static void WriteTurns(ListView view, Utf8Buffer html)
    {
        if (view.CannotGoOn)
            html.Append("<p class=\"none-yet\">The list goes on, but its next part has no address: a value it is ordered by is too long.</p>\n"u8);
        var windows = view.Windows;
        if (windows is { First: null, Next: null, Last: null }) return;
        html.Append("<nav class=\"turns\" aria-label=\"Parts of the list\">\n"u8);
        WriteTurn(windows.First, "first"u8, "First"u8, html);
        WriteTurn(windows.Previous, "prev"u8, "Previous"u8, html);
        WriteTurn(windows.Next, "next"u8, "Next"u8, html);
        WriteTurn(windows.Last, "last"u8, "Last"u8, html);
        html.Append("</nav>\n"u8);
    }

    /// <param name="relation">The registered link relation, which also is the class.</param>
    private static void WriteTurn(string? address, ReadOnlySpan<byte> relation, ReadOnlySpan<byte> text, Utf8Buffer html)
    {
        if (address is null) return;
        html.Append("<a class=\""u8);
        html.Append(relation);
        html.Append("\" rel=\""u8);
        html.Append(relation);
        html.Append("\" href=\""u8);
        html.AppendEncoded(address);
        html.Append("\">"u8);
        html.Append(text);
        html.Append("</a>\n"u8);
    }

    private void WriteDetail(DetailView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        var parts = _parts.Of(view.Shape);
        html.Append(parts.Back);
        scratch.Truncate(0);
        view.Shape.Title.Write(view.Record, scratch);
        html.AppendEncoded(scratch.Written);
        html.Append("</h1>\n<dl class=\"record\">\n"u8);
        for (var field = 0; field < parts.Fields.Length; field++)
        {
            html.Append(parts.Terms[field]);
            WriteValue(parts.Fields[field], view.Record, html, scratch);
        }

        html.Append(parts.Close);
        if (view.Shape.Links.Count > 0) WriteLinks(view, html, scratch);
    }

    private static void WriteLinks(DetailView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        html.Append("<ul class=\"links\">\n"u8);
        foreach (var link in view.Shape.Links)
        {
            scratch.Truncate(0);
            if (!link.TryWrite(view.Record, scratch)) continue;
            html.Append("<li><a href=\""u8);
            html.AppendEncoded(scratch.Written);
            html.Append("\">"u8);
            html.AppendEncoded(link.Text);
            html.Append("</a></li>\n"u8);
        }

        html.Append("</ul>\n"u8);
    }

    private static void WriteMessage(MessageView view, Utf8Buffer html)
    {
        html.Append("<div class=\"message\">\n<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n"u8);
        foreach (var sentence in view.Sentences)
        {
            html.Append("<p>"u8);
            html.AppendEncoded(sentence);
            html.Append("</p>\n"u8);
        }

        if (view.Links.Count > 0)
        {
            html.Append("<ul class=\"links\">\n"u8);
            foreach (var link in view.Links)
            {
                html.Append("<li><a href=\""u8);
                html.AppendEncoded(link.Address);
                html.Append("\">"u8);
                html.AppendEncoded(link.Text);
                html.Append("</a></li>\n"u8);
            }

            html.Append("</ul>\n"u8);
        }

        html.Append("</div>\n"u8);
    }

    private static void WriteValue(ViewColumn column, Row row, Utf8Buffer html, Utf8Buffer scratch)
    {
        var linked = column.LinkOn(row) is { } link && TryOpenLink(link, row, html, scratch);
        if (column.IsEmpty(row) && linked && column.WhenEmpty is { } instead) WriteText(instead, row, html, scratch);
        else if (column.IsEmpty(row)) html.Append("<span class=\"none\"><span aria-hidden=\"true\">—</span><span class=\"unseen\">empty</span></span>"u8);
        else if (column.IsReferenceShown(row)) WriteReference(column.Reference!, row, html, scratch);
        else if (column.Reference is not null) html.Append("<span class=\"none\">not available</span>"u8);
        else WriteCell(column, row, html);
        if (linked) html.Append("</a>"u8);
    }

    private static bool TryOpenLink(LinkPlan link, Row row, Utf8Buffer html, Utf8Buffer scratch)
    {
        var start = html.Length;
        html.Append("<a href=\""u8);
        var address = html.Length;
        if (!link.TryWrite(row, html))
        {
            html.Truncate(start);
            return false;
        }

        // An address is percent-encoded already; only the sign between query parameters means something in HTML.
        if (html.Written[address..].ContainsAny(Meaningful))
        {
            scratch.Truncate(0);
            scratch.Append(html.Written[address..]);
            html.Truncate(address);
            html.AppendEncoded(scratch.Written);
        }

        html.Append("\">"u8);
        return true;
    }

    private static void WriteReference(ReferencePlan reference, Row row, Utf8Buffer html, Utf8Buffer scratch)
    {
        if (reference.Label.IsColumn(row, out var utf8))
        {
            html.AppendEncoded(utf8);
            return;
        }

        WriteText(reference.Label, row, html, scratch);
    }

    private static void WriteText(TextPlan text, Row row, Utf8Buffer html, Utf8Buffer scratch)
    {
        scratch.Truncate(0);
        text.Write(row, scratch);
        html.AppendEncoded(scratch.Written);
    }

    /// <summary>Text is encoded; what is written of numbers, dates and truth has nothing to encode.</summary>
    private static void WriteCell(ViewColumn column, Row row, Utf8Buffer html)
    {
        ref readonly var cell = ref row[column.Ordinal];
        switch (cell.Kind)
        {
            case CellKind.Text:
            case CellKind.Decimal:
                html.AppendEncoded(row.Run(column.Ordinal));
                break;
            case CellKind.Date:
            case CellKind.Timestamp:
                html.Append("<time datetime=\""u8);
                WriteIso(cell, html);
                html.Append("\">"u8);
                TextPiece.Of(column.Ordinal, column.Type, column.IsId).Write(row, html);
                html.Append("</time>"u8);
                break;
            default:
                TextPiece.Of(column.Ordinal, column.Type, column.IsId).Write(row, html);
                break;
        }
    }

    private static void WriteIso(in Cell cell, Utf8Buffer html)
    {
        int written;
        if (cell.Kind == CellKind.Date) DateOnly.FromDayNumber((int)cell.Integer).TryFormat(html.Room(16), out written, "O", CultureInfo.InvariantCulture);
        else new DateTime(cell.Integer).TryFormat(html.Room(32), out written, "yyyy-MM-dd'T'HH:mm:ss", CultureInfo.InvariantCulture);
        html.Advance(written);
    }

    /// <summary>“1,204 bridges”, and in a list of several windows “51 to 100 of 1,204 bridges”.</summary>
    private static string TotalText(ListView view)
    {
        var total = view.Total;
        var noun = total is { Count: 1, IsExact: true } ? view.Shape.One : view.Shape.Many;
        var all = $"{(total.IsExact ? "" : "more than ")}{ValueFormat.Count(total.Count)} {noun}";
        return view.From is not { } from || view.Windows is { First: null, Next: null } ? all
            : $"{ValueFormat.Count(from)} to {ValueFormat.Count(from + view.Rows.Count - 1)} of {all}";
    }
}
