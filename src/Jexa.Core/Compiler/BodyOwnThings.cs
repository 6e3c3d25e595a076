using System.Globalization;
using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>
/// Binds elements to what a page has besides fields: its own words and links (<c>data-page</c>), its parts as Jexa draws them
/// (<c>data-part</c>), and conditions (<c>data-needs</c>, <c>data-lacks</c>).
/// </summary>
internal sealed class BodyOwnThings(BodyContext context, BodyAttributes attributes, BodySamples samples)
{
    private static readonly HashSet<BodyWord> LinkWords =
    [
        BodyWord.Next,
        BodyWord.Prev,
        BodyWord.First,
        BodyWord.Last,
        BodyWord.Back,
        BodyWord.Add,
        BodyWord.Cancel,
        BodyWord.All,
        BodyWord.Order,
    ];

    private (BodyWord Word, int Block, string Name)? _link;

    /// <summary>An element with <c>data-page</c>. True if it can be left out.</summary>
    public bool Word(IElement element, string text, BodyScope scope)
    {
        if (text == "label" && scope.Title is { } title)
            return Put(element, new BodyStep.Label(title), scope);
        if (text == "text" && _link is { } around)
            return Put(element, new BodyStep.Words(around.Word, around.Block, around.Name), scope);
        if (Find(text) is not { } found || found.Word == BodyWord.Failed)
        {
            context.Unknown(element, "data-page", text, "thing of this page called", Known());
            return false;
        }

        context.Placed.Add(found.Word);
        if (!LinkWords.Contains(found.Word))
            return Put(element, new BodyStep.Own(found.Word, found.Block, found.Name), scope);
        if (element.LocalName == "a")
            return Link(element, found, scope);
        context.Misplace(
            element,
            $"{text} is a link, and <{element.LocalName}> is none.",
            $"Write <a data-page=\"{text}\" href=\"#\">."
        );
        return false;
    }

    private bool Put(IElement element, BodyStep step, BodyScope scope)
    {
        context.Bound++;
        context.Out.Begin();
        context.Out.Html($"<{element.LocalName}");
        var id = IdOf(step);
        attributes.Write(element, scope, id is null ? [] : ["id"]);
        context.Out.Html(id is null ? ">" : $" id=\"{BodyMarkup.Encoded(id)}\">");
        samples.Replace(element, step, scope);
        context.Out.Html($"</{element.LocalName}>");
        context.Out.Take(context.Out.End(), isGroup: true);
        return true;
    }

    /// <summary>The ID by which the control of a field finds its fault and help; null for other things.</summary>
    private static string? IdOf(BodyStep step) =>
        step switch
        {
            BodyStep.Own { Word: BodyWord.Fault } own => FormInput.FaultIdOf(own.Name),
            BodyStep.Own { Word: BodyWord.Help } own => FormInput.HintIdOf(own.Name),
            _ => null,
        };

    private bool Link(IElement element, (BodyWord Word, int Block, string Name) found, BodyScope scope)
    {
        context.Bound++;
        var before = _link;
        _link = found;
        context.Out.Begin();
        context.Out.Html("<a");
        attributes.Write(element, scope, ["href"]);
        context.Out.Add(new BodyStep.OwnLink(found.Word, found.Block, found.Name, true)).Html(">");
        if (string.IsNullOrWhiteSpace(element.TextContent) && element.ChildElementCount == 0)
            context.Out.Add(new BodyStep.Words(found.Word, found.Block, found.Name));
        else
            samples.Children(element, scope with { IsLinked = true });
        context.Out.Html("</a>");
        context.Out.Take(context.Out.End(), isGroup: true);
        _link = before;
        return true;
    }

    /// <summary>What a word means on this page; null for nothing.</summary>
    private (BodyWord Word, int Block, string Name)? Find(string text)
    {
        var point = text.LastIndexOf('.');
        if (point < 0)
            return Enum.TryParse<BodyWord>(text, ignoreCase: true, out var own) && Plain().Contains(text) ? (own, -1, "") : null;
        var (first, last) = (text[..point], text[(point + 1)..]);
        if (context.Page is DetailPage && context.Repeated.TryGetValue(first, out var block))
            return last switch
            {
                "count" => (BodyWord.Count, block.Block, ""),
                "total" => (BodyWord.Total, block.Block, ""),
                "all" => (BodyWord.All, block.Block, ""),
                "add" => (BodyWord.Add, block.Block, ""),
                "failed" => (BodyWord.Failed, block.Block, ""),
                _ => null,
            };
        if (first == "order" && context.Page is ListPage list && list.Shape.Columns.Any(column => column.OrderName == last))
            return (BodyWord.Order, -1, last);
        return context.Form?.Find(first) is null ? null
            : last == "fault" ? (BodyWord.Fault, -1, first)
            : last == "help" ? (BodyWord.Help, -1, first)
            : null;
    }

    /// <summary>The words without a point that the page has.</summary>
    private string[] Plain() =>
        context.Page switch
        {
            ListPage => ["title", "total", "count", "said", "notice", "next", "prev", "first", "last", "add"],
            DetailPage => ["title", "said", "next", "prev", "back"],
            _ => ["title", "said", "notice", "back", "cancel"],
        };

    private IEnumerable<string> Known() =>
        Plain()
            .Concat(context.Root.Title is null ? [] : ["label"])
            .Concat(
                context.Page switch
                {
                    DetailPage => context.Repeated.Keys.SelectMany(name =>
                        new[] { $"{name}.count", $"{name}.total", $"{name}.all", $"{name}.add" }
                    ),
                    ListPage list => list
                        .Shape.Columns.Where(one => one.OrderName is not null)
                        .Select(one => $"order.{one.OrderName}"),
                    _ => context.Form?.Entries.SelectMany(one => new[] { $"{one.Name}.fault", $"{one.Name}.help" }) ?? [],
                }
            );

    /// <summary>An element with <c>data-part</c>: Jexa's own part stands in its place. True if it can be left out.</summary>
    public bool Part(IElement element, string text, BodyScope scope)
    {
        if (FindPart(text) is not { } found)
        {
            context.Unknown(element, "data-part", text, "part of this page called", Parts());
            return false;
        }

        if (scope.IsRepeated)
            context.Misplace(element, "A part of the page cannot stand in each row.", "Put it outside of the pattern.");
        context.Bound++;
        context.PlacedParts.Add(found.What);
        if (found.What == BodyPart.Messages)
            context.Placed.UnionWith([BodyWord.Said, BodyWord.Notice]);
        context.Out.Add(found);
        return true;
    }

    private BodyStep.Part? FindPart(string text)
    {
        if (context.Page is DetailPage)
        {
            if (context.Repeated.TryGetValue(text, out var block))
                return new BodyStep.Part(BodyPart.Block, block.Block, "");
            if (text.EndsWith(".none", StringComparison.Ordinal) && context.Repeated.TryGetValue(text[..^5], out var empty))
                return new BodyStep.Part(BodyPart.None, empty.Block, "");
            if (text.EndsWith(".headings", StringComparison.Ordinal) && context.Repeated.TryGetValue(text[..^9], out var headed))
                return new BodyStep.Part(BodyPart.Headings, headed.Block, "");
        }

        if (text.StartsWith("field.", StringComparison.Ordinal) && context.Form?.Find(text[6..]) is not null)
            return new BodyStep.Part(BodyPart.Field, -1, text[6..]);
        return PlainParts().Contains(text) && Enum.TryParse<BodyPart>(text, ignoreCase: true, out var part)
            ? new BodyStep.Part(part, -1, "")
            : null;
    }

    private string[] PlainParts() =>
        context.Page switch
        {
            ListPage => ["messages", "trail", "rows", "none", "controls", "headings", "turns", "side"],
            DetailPage => ["messages", "trail", "fields", "links", "neighbours"],
            DeletePage => ["messages", "trail", "fields", "delete"],
            _ => ["messages", "trail", "faults", "form", "links"],
        };

    private IEnumerable<string> Parts() =>
        PlainParts()
            .Concat(context.Page is DetailPage ? context.Repeated.Keys : [])
            .Concat(context.Form?.Entries.Select(entry => $"field.{entry.Name}") ?? []);

    /// <summary>The conditions of an attribute: names, or name=value, with blanks between.</summary>
    public IReadOnlyList<BodyTest> Tests(IElement element, string attribute, BodyScope scope)
    {
        var tests = new List<BodyTest>();
        foreach (
            var word in (element.GetAttribute(attribute) ?? "").Split(default(char[]), StringSplitOptions.RemoveEmptyEntries)
        )
        {
            var (name, value) = word.IndexOf('=') is > 0 and var equals ? (word[..equals], word[(equals + 1)..]) : (word, null);
            if (Test(element, attribute, name, value, scope) is { } test)
                tests.Add(test);
        }

        return tests;
    }

    private BodyTest? Test(IElement element, string attribute, string name, string? value, BodyScope scope)
    {
        if (name.StartsWith("page.", StringComparison.Ordinal))
        {
            if (Find(name[5..]) is { } own && (value is null || (own.Word == BodyWord.Count && IsCount(value))))
            {
                context.Bound++;
                return new BodyTest.Own(
                    own.Word,
                    own.Block,
                    own.Name,
                    value is null ? null : long.Parse(value, CultureInfo.InvariantCulture)
                );
            }

            context.Unknown(element, attribute, name, "thing of this page called", Known().Select(word => $"page.{word}"));
            return null;
        }

        if (value is null && scope.Block < 0 && !scope.IsRepeated && context.Repeated.TryGetValue(name, out var rows))
            return new BodyTest.Rows(rows.Block);
        return context.Field(element, attribute, name, scope) is { } column ? new BodyTest.Field(column, value) : null;
    }

    private static bool IsCount(string value) => long.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out _);
}
