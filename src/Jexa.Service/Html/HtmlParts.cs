using System.Runtime.CompilerServices;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a frame's HTML that are the same on every page of an app.</summary>
/// <param name="BeforeTitle">Up to and with the opening of the title.</param>
/// <param name="AfterTitle">The app's name in the title, the rest of the head, the header up to the menu.</param>
internal sealed record FrameParts(byte[] BeforeTitle, byte[] AfterTitle, IReadOnlyList<(string Page, byte[] Open, byte[] Close)> Menu);

/// <summary>The pieces of a list's HTML that are the same for every visit.</summary>
/// <param name="Head">The table up to its body.</param>
/// <param name="OpenCells">What opens a cell of each column: the row too in the first one, the end of the cell before in the others.</param>
/// <param name="CloseRow">What ends the last cell and the row.</param>
internal sealed record ListParts(byte[] Head, byte[][] OpenCells, byte[] CloseRow, ViewColumn[] Columns);

/// <summary>The pieces of a detail page's HTML that are the same for every visit.</summary>
/// <param name="Back">The way back to the list, up to the heading.</param>
/// <param name="Terms">Each field's label, up to its value, with the end of the field before.</param>
/// <param name="Close">What ends the last field and the list of them.</param>
internal sealed record DetailParts(byte[] Back, byte[][] Terms, byte[] Close, ViewColumn[] Fields);

/// <summary>
/// Encodes what does not change from visit to visit once, and keeps it exactly as long as the compiled page it was made
/// from.
/// </summary>
internal sealed class HtmlParts(string styleVersion)
{
    private readonly ConditionalWeakTable<PageFrame, FrameParts> _frames = [];
    private readonly ConditionalWeakTable<ListShape, ListParts> _lists = [];
    private readonly ConditionalWeakTable<DetailShape, DetailParts> _details = [];

    public FrameParts Of(PageFrame frame) => _frames.GetValue(frame, Make);

    public ListParts Of(ListShape shape) => _lists.GetValue(shape, Make);

    public DetailParts Of(DetailShape shape) => _details.GetValue(shape, Make);

    private FrameParts Make(PageFrame frame)
    {
        using var head = new Utf8Buffer();
        head.Append(" · "u8);
        head.AppendEncoded(frame.AppTitle);
        head.Append("</title>\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<link rel=\"stylesheet\" href=\""u8);
        head.AppendEncoded($"{frame.Mount}/_jexa/style.css?v={styleVersion}");
        head.Append("\">\n<link rel=\"icon\" type=\"image/svg+xml\" href=\""u8);
        head.AppendEncoded($"{frame.Mount}/_jexa/icon.svg");
        head.Append("\">\n</head>\n<body>\n<a class=\"skip\" href=\"#main\">Skip to the content</a>\n<header class=\"top\">\n<a class=\"app\" href=\""u8);
        head.AppendEncoded(frame.HomeAddress);
        head.Append("\">"u8);
        head.AppendEncoded(frame.AppTitle);
        head.Append("</a>\n"u8);
        return new FrameParts(
            "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>"u8.ToArray(), head.Written.ToArray(),
            [.. frame.Menu.Select(link => (link.Page, Bytes($"<li><a href=\"{Encoded(link.Address)}\""), Bytes($">{Encoded(link.Text)}</a></li>\n")))]);
    }

    private static ListParts Make(ListShape shape)
    {
        var headings = shape.Columns.Select(column => $"<th scope=\"col\"{Kind(column)}>{Encoded(column.Label)}</th>\n");
        return new ListParts(
            Bytes($"<table class=\"list\">\n<thead>\n<tr>\n{string.Concat(headings)}</tr>\n</thead>\n<tbody>\n"),
            [.. shape.Columns.Select((column, i) => Bytes($"{(i == 0 ? "<tr>" : "</td>")}\n<td{Kind(column)} data-label=\"{Encoded(column.Label)}\">"))],
            Bytes($"{(shape.Columns.Count == 0 ? "<tr>" : "</td>")}\n</tr>\n"), [.. shape.Columns]);
    }

    private static DetailParts Make(DetailShape shape) => new(
        Bytes(shape.Back is { } back ? $"<p class=\"back\"><a href=\"{Encoded(back.Address)}\">{Encoded(back.Text)}</a></p>\n<h1>" : "<h1>"),
        [.. shape.Fields.Select((field, i) => Bytes($"{(i == 0 ? "" : "</dd></div>\n")}<div><dt>{Encoded(field.Label)}</dt><dd>"))],
        Bytes(shape.Fields.Count == 0 ? "</dl>\n" : "</dd></div>\n</dl>\n"), [.. shape.Fields]);

    private static string Kind(ViewColumn column) => column.IsNumeric ? " class=\"number\"" : "";

    private static string Encoded(string text) => System.Text.Encoding.UTF8.GetString(HtmlText.Encoded(text));

    private static byte[] Bytes(string html) => System.Text.Encoding.UTF8.GetBytes(html);
}
