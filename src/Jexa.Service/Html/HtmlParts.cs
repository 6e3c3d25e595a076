using System.Runtime.CompilerServices;
using System.Text;
using Jexa.Core.Formats;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Encodes once what is the same for every visit, and keeps it as long as the compiled page.</summary>
internal sealed class HtmlParts(string styleVersion)
{
    private readonly ConditionalWeakTable<PageFrame, FrameParts> _frames = [];
    private readonly ConditionalWeakTable<ListShape, ListParts> _lists = [];
    private readonly ConditionalWeakTable<DetailShape, DetailParts> _details = [];

    private readonly ConditionalWeakTable<ListControls, byte[]> _forms = [];
    private readonly ConditionalWeakTable<ListControls, byte[]> _heads = [];

    /// <summary>
    /// The controls of a list and its headings. They are kept for a list that is asked nothing, and made again for others.
    /// </summary>
    public void Write(ListControls controls, bool isHead, Utf8Buffer html, Action<Utf8Buffer> make)
    {
        if (!controls.IsPlain)
        {
            make(html);
            return;
        }

        html.Append((isHead ? _heads : _forms).GetValue(controls, _ =>
            {
                using var made = new Utf8Buffer();
                make(made);
                return made.Written.ToArray();
            }));
    }

    public FrameParts Of(PageFrame frame) => _frames.GetValue(frame, Make);

    public ListParts Of(ListShape shape) => _lists.GetValue(shape, Make);

    public DetailParts Of(DetailShape shape) => _details.GetValue(shape, Make);

    private FrameParts Make(PageFrame frame)
    {
        using var head = new Utf8Buffer();
        head.Append(" · "u8);
        head.AppendEncoded(frame.AppTitle);
        head.Append(
            "</title>\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<link "u8
                + "rel=\"stylesheet\" href=\""u8
        );
        head.AppendEncoded($"{frame.Mount}/_jexa/style.css?v={styleVersion}");
        if (frame.Texts.Style is not null)
        {
            head.Append("\">\n<link rel=\"stylesheet\" href=\""u8);
            head.AppendEncoded($"{frame.Mount}/_jexa/app/style.css");
        }

        head.Append("\">\n<link rel=\"icon\" type=\"image/svg+xml\" href=\""u8);
        head.AppendEncoded($"{frame.Mount}/_jexa/icon.svg");
        head.Append("\">\n"u8);
        if (frame.Texts.TellsLoading)
            AppendScript(head, $"{frame.Mount}/_jexa/loading.js", "");
        if (frame.Texts.Prefetches)
            AppendScript(head, $"{frame.Mount}/_jexa/ahead.js", $" data-below=\"{Encoded(frame.Mount.ToString())}/\"");

        using var top = new Utf8Buffer();
        top.Append("</head>\n<body>\n<a class=\"skip\" href=\"#main\">Skip to the content</a>\n"u8);
        if (frame.Texts.Design is null)
            AppendTop(frame, top);
        return new FrameParts(
            Bytes(
                $"<!DOCTYPE html>\n<html lang=\"{Encoded(frame.Conventions.Language)}\" data-theme=\"{frame.Texts.Theme}\" "
                    + $"data-rows=\"{frame.Texts.Rows}\">\n<head>\n<meta "
                    + "charset=\"utf-8\">\n<title>"
            ),
            head.Written.ToArray(),
            top.Written.ToArray(),
            [
                .. frame.Menu.Select(link =>
                    (link.Page, Bytes($"<li><a href=\"{Encoded(link.Address)}\""), Bytes($">{Encoded(link.Text)}</a></li>\n"))
                ),
            ],
            Around("div", "own-header", frame.Texts.Header, frame),
            Around("footer", "own-footer", frame.Texts.Footer, frame)
        );
    }

    /// <param name="attributes">Further ones, each behind a space.</param>
    private static void AppendScript(Utf8Buffer head, string address, string attributes)
    {
        head.Append("<script src=\""u8);
        head.AppendEncoded(address);
        head.Append(Bytes($"\"{attributes} defer></script>\n"));
    }

    /// <summary>The beginning of the header: the app's name, which leads home.</summary>
    private static void AppendTop(PageFrame frame, Utf8Buffer top)
    {
        top.Append("<header class=\"top\">\n<a class=\"app\" href=\""u8);
        top.AppendEncoded(frame.HomeAddress);
        top.Append("\">"u8);
        if (frame.Texts.Logo is not null)
        {
            top.Append("<img class=\"logo\" alt=\"\" src=\""u8);
            top.AppendEncoded($"{frame.Mount}/_jexa/app/logo");
            top.Append("\">"u8);
        }

        top.AppendEncoded(frame.AppTitle);
        top.Append("</a>\n"u8);
    }

    private static byte[] Around(string element, string kind, string markdown, PageFrame frame) =>
        markdown.Length == 0 ? [] : Bytes($"<{element} class=\"{kind}\">\n{MarkdownText.ToHtml(markdown, frame)}</{element}>\n");

    private static ListParts Make(ListShape shape)
    {
        ViewColumn[] columns = [.. shape.Columns];
        return new ListParts(
            [
                .. columns.Select(
                    (column, i) => Bytes($"{(i == 0 ? "" : "</td>")}\n<td{Kind(column)} data-label=\"{Encoded(column.Label)}\">")
                ),
            ],
            [.. columns.Select((_, i) => shape.IsQuiet(i))],
            [.. columns.Select(column => Bytes(Encoded(column.Label)))],
            columns,
            shape.Main
        );
    }

    private static DetailParts Make(DetailShape shape)
    {
        var terms = shape
            .Fields.Select(field =>
                $"<div{(field.Style.Form.IsWide() ? " class=\"wide\"" : "")}" + $"><dt>{Encoded(field.Label)}</dt><dd>"
            )
            .ToList();
        return new DetailParts(
            [.. terms.Select(Bytes)],
            [.. terms.Select(term => Bytes("</dd></div>\n" + term))],
            [.. shape.Fields]
        );
    }

    /// <summary>The class of a cell.</summary>
    public static string Kind(ViewColumn column) =>
        column.IsNumeric ? " class=\"number\""
        : column.Picture is not null ? " class=\"thumb\""
        : column.IsShort ? " class=\"short\""
        : "";

    private static string Encoded(string text) => Encoding.UTF8.GetString(HtmlText.Encoded(text));

    private static byte[] Bytes(string html) => Encoding.UTF8.GetBytes(html);
}
