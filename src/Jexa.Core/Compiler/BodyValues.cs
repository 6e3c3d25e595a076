using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Formats;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Binds elements to fields and records, by microdata: where a value goes is HTML's own rule for each element.</summary>
internal sealed class BodyValues(BodyContext context, BodyAttributes attributes, BodySamples samples)
{
    /// <summary>An element with <c>itemprop</c>. True if it can be left out.</summary>
    public bool Value(IElement element, string prop, BodyScope scope)
    {
        if (context.Field(element, "itemprop", prop, scope) is not { } column)
            return false;
        var name = element.LocalName;
        if (BodyElements.Valueless.Contains(name))
        {
            context.Misplace(
                element,
                $"<{name}> cannot hold the value of a field.",
                "Put it into another element, such as <span>."
            );
            return false;
        }

        var isCell = name is "td" or "th";
        // A field that a row does not have at all is left out, whatever stands for an empty one.
        var stays = isCell || (element.HasAttribute("data-empty") && column.When is null);
        context.Out.Begin();
        var own = Step(column, scope) with
        {
            WhenEmpty = element.GetAttribute("data-empty") ?? (isCell ? "" : null),
            IsCell = isCell,
        };
        if (name == "img")
            Picture(element, own, scope);
        else if (name is "video" or "audio")
            Recording(element, own, scope);
        else if (name is "a" or "area")
            Anchor(element, own, scope);
        else if (name == "meta")
            Meta(element, own, scope);
        else
            Element(element, own, scope);
        context.Out.Take(context.Out.End(), !stays);
        return !stays;
    }

    private static BodyStep.Value Step(ViewColumn column, BodyScope scope)
    {
        if (scope.IsLinked)
            column = column with { Link = null, Reference = column.Reference is { } other ? other with { Link = null } : null };
        var place = scope.Shape?.Columns.ToList().FindIndex(one => one.Name == column.Name) ?? -1;
        // There is no link in a link: a value that is one by itself is only its words there.
        var isWords =
            scope.IsLinked
            && (
                column.Style.Form is FieldForm.Web or FieldForm.Mail or FieldForm.Markdown or FieldForm.File
                || column.Download is not null
            );
        return new BodyStep.Value(column, isWords ? BodyPlace.Text : BodyPlace.Content)
        {
            Title = scope.Title,
            IsQuiet = place >= 0 && column.Link is not null && scope.Shape!.IsQuiet(place),
            IsWhole = place >= 0 && scope.Shape is { RowLink: not null } shape && place == shape.Main,
        };
    }

    private void Element(IElement element, BodyStep.Value value, BodyScope scope)
    {
        var name = element.LocalName;
        context.Out.Html($"<{name}");
        var isMachine = name is "data" or "meter" or "time";
        var attribute = name == "time" ? "datetime" : "value";
        attributes.Write(element, scope, isMachine ? [attribute] : []);
        if (isMachine)
        {
            context.Out.Html($" {attribute}=\"").Add(value with { Place = BodyPlace.Stored, WhenEmpty = null }).Html("\">");
            value = value with { Place = BodyPlace.Text };
        }
        else
        {
            context.Out.Html(">");
            CheckRoom(element, value.Column);
        }

        if (value.Column.Style.Form.IsBlock() && !isMachine)
            context.Out.Add(value);
        else
            samples.Replace(element, value, scope);
        context.Out.Html($"</{name}>");
    }

    /// <summary>A value of several paragraphs cannot stand in an element for one.</summary>
    private void CheckRoom(IElement element, ViewColumn column)
    {
        if (column.Style.Form is FieldForm.Markdown or FieldForm.Json && BodyElements.Phrasing.Contains(element.LocalName))
            context.Misplace(
                element,
                $"{column.Name} is {(column.Style.Form == FieldForm.Json ? "JSON" : "Markdown")}, which <{element.LocalName}> "
                    + "cannot hold.",
                "Use <div itemprop> instead."
            );
    }

    private void Picture(IElement element, BodyStep.Value value, BodyScope scope)
    {
        if (value.Column.Picture is null)
        {
            context.Misplace(
                element,
                $"{value.Column.Name} is no picture.",
                $"Say so, and where its pictures are: fields: {{ {value.Column.Name}: {{ as: image, under: FOLDER }} }}"
            );
            return;
        }

        var alt = element.GetAttribute("alt");
        var hasWords = alt is not null && (alt.Length == 0 || alt.Contains('{'));
        var instead = value.WhenEmpty is { Length: > 0 } file ? attributes.Files.Use(element, "data-empty", file) : null;
        context.Out.Begin();
        context.Out.Html("<img");
        attributes.Write(element, scope, hasWords ? ["src", "srcset", "sizes"] : ["src", "srcset", "sizes", "alt"]);
        context.Out.Add(
            new BodyStep.Picture(
                value,
                context.Out.End(),
                hasWords,
                element.HasAttribute("width") || element.HasAttribute("height"),
                instead
            )
            {
                Sizes = element.GetAttribute("sizes"),
            }
        );
    }

    /// <summary>A player of the browser. Its sources are samples; its captions stay.</summary>
    private void Recording(IElement element, BodyStep.Value value, BodyScope scope)
    {
        if (!value.Column.Style.Form.IsRecording())
        {
            context.Misplace(
                element,
                $"{value.Column.Name} is no recording.",
                $"Say so, and where they are: fields: {{ {value.Column.Name}: {{ as: {element.LocalName}, under: FOLDER }} }}"
            );
            return;
        }

        context.Out.Html($"<{element.LocalName}").Add(value with { Place = BodyPlace.Source, WhenEmpty = null });
        attributes.Write(element, scope, ["src"]);
        context.Out.Html(">");
        foreach (var source in element.Children.Where(child => child.LocalName == "source"))
            context.Samples.Add(source);
        samples.Children(element, scope);
        context.Out.Html($"</{element.LocalName}>");
    }

    private void Anchor(IElement element, BodyStep.Value value, BodyScope scope)
    {
        context.Out.Html($"<{element.LocalName}");
        if (attributes.Link(element, scope, counts: false))
        {
            // The link leads to a page; the field gives its words.
            attributes.Write(element, scope, ["href"]);
            context.Out.Html(">");
            var inside = scope with { IsLinked = true };
            samples.Replace(element, Step(value.Column, inside) with { WhenEmpty = value.WhenEmpty }, inside);
            context.Out.Html("</a>");
            return;
        }

        var column = value.Column;
        if (column.Style.Form is FieldForm.Web or FieldForm.Mail || column.Style.Form.NamesFile())
            context.Out.Add(new BodyStep.Value(column, BodyPlace.Address));
        else if (column.Reference?.Link is { } link)
            context.Out.Add(new BodyStep.Link(link, "", true));
        else
            context.Misplace(
                element,
                $"{column.Name} is no address that a link could lead to.",
                $"Put the value inside of the link: <a href=\"page:NAME\"><span itemprop=\"{column.Name}\">…</span></a>"
            );
        attributes.Write(element, scope, ["href"]);
        context.Out.Html(
            column.Style.Form is FieldForm.Web && !element.HasAttribute("rel") ? " rel=\"noopener noreferrer\">" : ">"
        );
        samples.Children(element, scope with { IsLinked = true });
        context.Out.Html("</a>");
    }

    private void Meta(IElement element, BodyStep.Value value, BodyScope scope)
    {
        context.Out.Html("<meta");
        attributes.Write(element, scope, ["content"]);
        context
            .Out.Html($" itemprop=\"{BodyMarkup.Encoded(value.Column.Name)}\" content=\"")
            .Add(value with { Place = BodyPlace.Stored })
            .Html("\">");
    }

    /// <summary>
    /// An element with <c>itemprop</c> and <c>itemscope</c>: the pattern of a block or list, or a related record.
    /// </summary>
    public bool Records(IElement element, string prop, BodyScope scope)
    {
        if (scope.Block < 0 && !scope.IsRepeated && context.Repeated.TryGetValue(prop, out var rows))
        {
            context.Bound++;
            DropSamples(element, prop);
            context.Out.Begin();
            Plain(element, rows with { IsRepeated = true });
            var between = element.NextSibling is IText { Data: var blank } && string.IsNullOrWhiteSpace(blank) ? blank : "";
            context.Out.Add(new BodyStep.Rows(rows.Block, context.Out.End(), BodyMarkup.Bytes(between), element.LocalName));
            return true;
        }

        var inner = scope with { Prefix = $"{scope.Prefix}{prop}.", What = $"the {prop} of {scope.What}" };
        var column = scope.Find(prop);
        if (column is null && !scope.Columns.Any(one => one.Name.StartsWith(inner.Prefix, StringComparison.Ordinal)))
        {
            context.Unknown(
                element,
                "itemprop",
                prop,
                $"block or record that {scope.What} has called",
                scope == context.Root
                    ? context.Repeated.Keys
                    : scope.Columns.Where(one => one.Reference is not null).Select(one => one.Name)
            );
            return false;
        }

        context.Out.Begin();
        Plain(element, inner);
        var steps = context.Out.End();
        if (column is null)
            context.Out.Take(steps, isGroup: true);
        else
            context.Out.Add(new BodyStep.If([new BodyTest.Field(column, null)], true, steps));
        return true;
    }

    private void Plain(IElement element, BodyScope scope)
    {
        context.Out.Html($"<{element.LocalName}");
        attributes.Write(element, scope, []);
        context.Out.Html(">");
        samples.Children(element, scope);
        context.Out.Html($"</{element.LocalName}>");
    }

    /// <summary>The elements behind a pattern that are bound alike, or look alike, are further samples.</summary>
    private void DropSamples(IElement pattern, string prop)
    {
        for (var next = pattern.NextElementSibling; next is not null; next = next.NextElementSibling)
        {
            var isBound = next.HasAttribute("itemprop") || next.HasAttribute("data-page") || next.HasAttribute("data-part");
            if (
                next.GetAttribute("itemprop") == prop
                || (
                    !isBound && next.LocalName == pattern.LocalName && next.GetAttribute("class") == pattern.GetAttribute("class")
                )
            )
                context.Samples.Add(next);
        }
    }
}
