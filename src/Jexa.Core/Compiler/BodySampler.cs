using AngleSharp.Dom;
using Jexa.Core.Bodies;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles the design of a page whose table is not there yet: as it is, samples included. The names of fields stay on their
/// elements, so that they can be shown beside the samples.
/// </summary>
/// <param name="addresses">The addresses of pages that need no record.</param>
internal sealed class BodySampler(BodyContext context, Func<string, string?> addresses)
{
    private readonly BodyAttributes _attributes = new(context);

    /// <param name="table">The table that its records are to come from.</param>
    public PageBody Sample(string table)
    {
        context
            .Out.Html("<div class=\"notice\"><p>")
            .Words($"The table “{table}” is not there yet: this is the page as it was designed.");
        context.Out.Html("</p><label><input type=\"checkbox\" class=\"show-names\"> Show the names of fields</label></div>\n");
        Children(context.Document.Main);
        var steps = context.Out.End();
        context.Out.Begin();
        if (context.Document.Own is { } own)
            _attributes.Write(own, context.Root, ["id"]);
        var attributes = context.Out.End().OfType<BodyStep.Literal>().FirstOrDefault()?.Html ?? [];
        return new PageBody(attributes, _attributes.Files.Head(context.Document), steps)
        {
            Files = _attributes.Files.Used,
            Made = _attributes.Files.Made,
        };
    }

    private void Children(IElement parent)
    {
        foreach (var node in parent.ChildNodes)
            if (node is IText text)
                context.Out.Words(text.Data);
            else if (node is IElement element)
                Element(element);
    }

    private void Element(IElement element)
    {
        var name = element.LocalName;
        if (name is "script" or "style")
        {
            _attributes.Files.Lift(element);
            return;
        }

        if (BodyElements.Refused.Contains(name) && !(name == "meta" && element.HasAttribute("itemprop")))
        {
            context.Refuse(element, name);
            return;
        }

        context.Out.Html($"<{name}");
        var page = name is "a" or "area" ? PageAddress.Of(element.GetAttribute("href")) : null;
        _attributes.Write(element, context.Root, Left(name, page is not null));
        if (page is not null && addresses(page.Page) is { } address)
            context.Out.Html($" href=\"{BodyMarkup.Encoded(address)}\"");
        if (element.GetAttribute("itemprop") is { Length: > 0 } field)
            context.Out.Html($" itemprop=\"{BodyMarkup.Encoded(field)}\"");
        if (name == "button")
            context.Out.Html(" type=\"button\"");
        context.Out.Html(">");
        if (BodyElements.Void.Contains(name))
            return;
        Children(element);
        context.Out.Html($"</{name}>");
    }

    /// <summary>Attributes that are left out: nothing can be sent, and a link to a page is written by its address.</summary>
    private static string[] Left(string element, bool leadsToPage) =>
        element switch
        {
            "form" => ["action", "method", "enctype", "target"],
            "button" => ["type", "form"],
            _ when leadsToPage => ["href"],
            _ => [],
        };
}
