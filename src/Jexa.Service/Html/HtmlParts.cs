using System.Runtime.CompilerServices;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a frame's HTML that are the same on every page of an app.</summary>
/// <param name="BeforeTitle">Up to and with the opening of the title.</param>
/// <param name="AfterTitle">The app's name in the title, the rest of the head, the header up to the menu.</param>
internal sealed record FrameParts(byte[] BeforeTitle, byte[] AfterTitle, IReadOnlyList<(string Page, byte[] Open, byte[] Close)> Menu);

/// <summary>The pieces of a column's HTML that are the same in every row.</summary>
internal sealed record ColumnParts(byte[] Heading, byte[] OpenCell, byte[] Term);

/// <summary>
/// Encodes what does not change from visit to visit once, and keeps it exactly as long as the compiled page it was made
/// from.
/// </summary>
internal sealed class HtmlParts(string styleVersion)
{
    private readonly ConditionalWeakTable<PageFrame, FrameParts> _frames = [];
    private readonly ConditionalWeakTable<ViewColumn, ColumnParts> _columns = [];

    public FrameParts Of(PageFrame frame) => _frames.GetValue(frame, Make);

    public ColumnParts Of(ViewColumn column) => _columns.GetValue(column, Make);

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

    private static ColumnParts Make(ViewColumn column)
    {
        var label = Encoded(column.Label);
        var kind = column.IsNumeric ? " class=\"number\"" : "";
        return new ColumnParts(
            Bytes($"<th scope=\"col\"{kind}>{label}</th>\n"),
            Bytes($"<td{kind} data-label=\"{label}\">"),
            Bytes($"<div><dt>{label}</dt><dd>"));
    }

    private static string Encoded(string text) => System.Text.Encoding.UTF8.GetString(HtmlText.Encoded(text));

    private static byte[] Bytes(string html) => System.Text.Encoding.UTF8.GetBytes(html);
}
