using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles the frame around all pages. All of it is the same for every visit, but for the mark of the present page.
/// </summary>
internal sealed class FrameDesigner(BodyContext context, string title, string home, IReadOnlyList<PlainLink> menu)
{
    private static readonly string[] Words = ["app", "home", "menu", "link", "text"];

    private readonly BodyAttributes _attributes = new(context);
    private readonly List<FramePiece> _pieces = [];
    private int _split = -1;

    public FrameDesign? Design(Written named)
    {
        if (context.Document.Own is null)
        {
            context.Findings.Add(
                FindingCodes.BodyUnreadable,
                named.At,
                $"The frame {named} has no <main>, so no page could stand in it.",
                "Put <main></main> where the pages are to stand.",
                found: named.Value
            );
            return null;
        }

        Children(context.Document.Document.Body!, null);
        Flush(null);
        return new FrameDesign(_attributes.Files.Head(context.Document), [.. _pieces.Take(_split)], [.. _pieces.Skip(_split)])
        {
            Files = _attributes.Files.Used,
            Made = _attributes.Files.Made,
        };
    }

    private void Children(IElement parent, PlainLink? entry)
    {
        foreach (var node in parent.ChildNodes)
        {
            if (node is IText text)
                context.Out.Words(text.Data);
            else if (node is IElement element)
                Element(element, entry);
        }
    }

    private void Element(IElement element, PlainLink? entry)
    {
        var word = element.GetAttribute("data-page");
        if (element == context.Document.Own)
        {
            Flush(null);
            _split = _pieces.Count;
        }
        else if (element.LocalName is "script" or "style")
        {
            _attributes.Files.Lift(element);
        }
        else if (BodyElements.Refused.Contains(element.LocalName) || element.LocalName == "link")
        {
            context.Refuse(element, element.LocalName);
        }
        else if (word is not null && !Words.Contains(word))
        {
            context.Unknown(element, "data-page", word, "thing of the frame called", Words);
        }
        else if (word == "menu")
        {
            foreach (var link in menu)
                Tag(element, word, link);
        }
        else if (!IsSample(element))
        {
            Tag(element, word, entry);
        }
    }

    /// <summary>Whether an element is a further sample of the menu's entries.</summary>
    private static bool IsSample(IElement element)
    {
        for (var before = element.PreviousElementSibling; before is not null; before = before.PreviousElementSibling)
            if (before.GetAttribute("data-page") == "menu" && before.LocalName == element.LocalName)
                return true;
        return false;
    }

    private void Tag(IElement element, string? word, PlainLink? entry)
    {
        var isLink = element.LocalName == "a" && (word is "home" or "link" || (word == "menu" && !HasLink(element)));
        context.Out.Html($"<{element.LocalName}");
        var isPage = !isLink && _attributes.Link(element, context.Root, counts: false);
        _attributes.Write(element, context.Root, isLink || isPage ? ["href", "aria-current"] : []);
        if (isLink)
            context.Out.Html($" href=\"{BodyMarkup.Encoded(word == "home" ? home : entry?.Address ?? "#")}\"");
        if (isLink && word != "home")
            Flush(entry?.Page);
        context.Out.Html(">");
        if (BodyElements.Void.Contains(element.LocalName))
            return;
        if (word == "app")
            context.Out.Words(title);
        else if (word == "text" || (isLink && word != "home" && element.ChildElementCount == 0))
            context.Out.Words(entry?.Text ?? element.TextContent);
        else
            Children(element, entry);
        context.Out.Html($"</{element.LocalName}>");
    }

    private static bool HasLink(IElement element) => element.QuerySelector("[data-page=link]") is not null;

    private void Flush(string? page)
    {
        foreach (var step in context.Out.End().OfType<BodyStep.Literal>())
            _pieces.Add(new FramePiece(step.Html, null));
        context.Out.Begin();
        if (page is not null && _pieces.Count > 0)
            _pieces[^1] = _pieces[^1] with { Page = page };
    }
}
