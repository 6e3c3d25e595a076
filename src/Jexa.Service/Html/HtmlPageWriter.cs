using System.Diagnostics;
using Jexa.Core.Bodies;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.Writing;

namespace Jexa.Service.Html;

/// <summary>Writes a page view as one HTML document, into memory: nothing is sent before the whole page is made.</summary>
internal sealed class HtmlPageWriter : IPageWriter
{
    private readonly HtmlParts _parts;
    private readonly HtmlRowWriter _rows;
    private readonly HtmlListWriter _lists;
    private readonly HtmlDetailWriter _details;
    private readonly HtmlDeleteWriter _deletes;

    public HtmlPageWriter(string styleVersion)
    {
        _parts = new HtmlParts(styleVersion);
        _rows = new HtmlRowWriter(_parts);
        _lists = new HtmlListWriter(_parts, _rows);
        _details = new HtmlDetailWriter(_parts, _rows);
        _deletes = new HtmlDeleteWriter(_details);
    }

    public IReadOnlyList<string> MediaTypes { get; } = ["text/html"];

    public Reader Reader => Reader.Person;

    public bool CarriesVersion => false;

    public char Letter => 'h';

    public string ContentType(int status) => "text/html; charset=utf-8";

    public void Write(PageView view, Page? page, string target, Utf8Buffer html)
    {
        using var scratch = new Utf8Buffer(256);
        var frame = _parts.Of(view.Frame);
        html.Append(frame.BeforeTitle);
        WriteTitle(view, scratch);
        html.AppendEncoded(scratch.Written);
        html.Append(frame.AfterTitle);
        var body = view is MessageView or SavedView ? null : page?.Body;
        var design = view.Frame.Texts.Design;
        html.Append(design?.Head);
        html.Append(body?.Head);
        html.Append(frame.AfterHead);
        WriteTop(frame, view, html);
        Open(view, body, html, scratch);
        if (body is null)
            WriteMain(view, html, scratch);
        else
            new HtmlBodyWriter(view, _lists, _details, _rows, html, scratch).Write(body);
        if (view.Beside is not null)
        {
            html.Append("</article>\n<script src=\""u8);
            html.AppendEncoded($"{view.Frame.Mount}/_jexa/beside.js");
            html.Append("\" defer></script>\n"u8);
        }

        html.Append("</main>\n"u8);
        if (design is null)
            html.Append(frame.Footer);
        else
            HtmlFrame.Write(design.After, view.Page, html);
        html.Append("</body>\n</html>\n"u8);
    }

    /// <summary>Opens the element that the page stands in. Beside a list that is one of its own.</summary>
    private void Open(PageView view, PageBody? body, Utf8Buffer html, Utf8Buffer scratch)
    {
        html.Append("<main id=\"main\""u8);
        html.Append(view.Beside is null ? body?.Attributes : " class=\"pair\""u8);
        html.Append(">\n"u8);
        if (body?.HasSaid != true)
            WriteSaid(view, html);
        if (view.Beside is not { } beside)
            return;
        _lists.WriteBeside(beside, html, scratch);
        html.Append("<article id=\"record\" tabindex=\"-1\""u8);
        html.Append(body?.Attributes);
        html.Append(">\n"u8);
    }

    /// <summary>What stands before the page: Jexa's header, or the app's own.</summary>
    private static void WriteTop(FrameParts frame, PageView view, Utf8Buffer html)
    {
        if (view.Frame.Texts.Design is { } design)
        {
            HtmlFrame.Write(design.Before, view.Page, html);
            return;
        }

        HtmlFrame.WriteMenu(frame, view.Page, html);
        html.Append("</header>\n"u8);
        html.Append(frame.Header);
    }

    /// <summary>The message about what was just done.</summary>
    public static void WriteSaid(PageView view, Utf8Buffer html)
    {
        if (view.Said is not { } said)
            return;
        html.Append("<p class=\"said\" role=\"status\" tabindex=\"-1\">"u8);
        html.AppendEncoded(said);
        html.Append("</p>\n"u8);
    }

    /// <summary>What the page is for. A new kind of view has its line here and in <see cref="WriteHeading"/>.</summary>
    private void WriteMain(PageView view, Utf8Buffer html, Utf8Buffer scratch)
    {
        switch (view)
        {
            case ListView list:
                _lists.Write(list, html, scratch);
                break;
            case DetailView detail:
                _details.Write(detail, html, scratch);
                break;
            case TextView text:
                WriteText(text, html);
                if (text.Found is { } found)
                    HtmlFound.Write(found, text, _rows, html, scratch);
                break;
            case FormView form:
                HtmlFormWriter.Write(form, html);
                break;
            case DeleteView delete:
                _deletes.Write(delete, html, scratch);
                break;
            case SavedView saved:
                WriteSaved(saved, html);
                break;
            case MessageView message:
                WriteMessage(message, html);
                break;
            default:
                throw new UnreachableException($"{view.GetType().Name} is not written as HTML.");
        }
    }

    private static void WriteTitle(PageView view, Utf8Buffer scratch)
    {
        scratch.Truncate(0);

        // A screen reader reads the title of a new page before anything else.
        if (view.Said is { } said)
            scratch.Append($"{said} ");
        if (view is FormView { Faults.Count: > 0 })
            scratch.Append("Not saved: "u8);
        WriteHeading(view, scratch);
    }

    /// <summary>The heading of the page, not yet encoded.</summary>
    public static void WriteHeading(PageView view, Utf8Buffer scratch)
    {
        switch (view)
        {
            case ListView list:
                scratch.Append(list.Heading);
                break;
            case DetailView detail:
                detail.Shape.Title.Write(detail.Record, scratch);
                break;
            case TextView text:
                scratch.Append(text.Heading);
                break;
            case FormView form:
                scratch.Append(form.Heading);
                break;
            case DeleteView delete:
                delete.Shape.Title.Write(delete.Record, scratch);
                break;
            case SavedView:
                scratch.Append(SavedHeading);
                break;
            case MessageView message:
                scratch.Append(message.Heading);
                break;
            default:
                throw new UnreachableException($"{view.GetType().Name} has no title.");
        }
    }

    private const string SavedHeading = "Saved";

    /// <summary>The answer to a change of a program that asks for HTML.</summary>
    private static void WriteSaved(SavedView view, Utf8Buffer html)
    {
        html.Append("<div class=\"message\">\n<h1>Saved</h1>\n<p>"u8);
        HtmlFrame.WriteLink(new PlainLink(view.Page ?? "", "The record", view.Address), html);
        html.Append("</p>\n</div>\n"u8);
    }

    private static void WriteText(TextView view, Utf8Buffer html)
    {
        html.Append("<div class=\"message\">\n<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n<div class=\"markdown\">\n"u8);
        html.Append(MarkdownText.ToHtml(view.Markdown, view.Frame));
        html.Append("</div>\n</div>\n"u8);
        if (view.Lists is { } lists)
            HtmlListIndex.Write(lists, view.Frame, html);
    }

    private static void WriteMessage(MessageView view, Utf8Buffer html)
    {
        html.Append("<div class=\"message\">\n<h1>"u8);
        html.AppendEncoded(view.Heading);
        html.Append("</h1>\n"u8);
        if (view.Markdown is { } own)
        {
            html.Append("<div class=\"markdown\">\n"u8);
            html.Append(MarkdownText.ToHtml(own, view.Frame));
            html.Append("</div>\n"u8);
        }

        foreach (var sentence in view.Sentences)
        {
            html.Append("<p>"u8);
            html.AppendEncoded(sentence);
            html.Append("</p>\n"u8);
        }

        if (view.Typed.Count > 0)
        {
            html.Append("<dl class=\"record\">\n"u8);
            foreach (var (label, text) in view.Typed)
            {
                html.Append("<div><dt>"u8);
                html.AppendEncoded(label);
                html.Append("</dt><dd><span class=\"long\">"u8);
                html.AppendEncoded(text);
                html.Append("</span></dd></div>\n"u8);
            }

            html.Append("</dl>\n"u8);
        }

        HtmlFrame.WriteLinks(view.Links, html);
        html.Append("</div>\n"u8);
    }
}
