using System.Text.RegularExpressions;
using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;

namespace Jexa.Core.Compiler;

/// <summary>
/// Writes the attributes of an element: those of the design, without what could run, with values where they may stand.
/// </summary>
internal sealed partial class BodyAttributes(BodyContext context)
{
    /// <summary>Attributes whose words may hold values.</summary>
    private static readonly HashSet<string> Wordy = ["alt", "title", "aria-label", "aria-description", "content"];

    private static readonly HashSet<string> Ours =
    [
        "itemprop",
        "itemscope",
        "data-page",
        "data-part",
        "data-needs",
        "data-lacks",
        "data-empty",
    ];

    /// <summary>Attributes that load, send or run something in a way that no page needs.</summary>
    private static readonly HashSet<string> Refused =
    [
        "srcdoc",
        "formaction",
        "ping",
        "background",
        "manifest",
        "nonce",
        "http-equiv",
    ];

    private static readonly HashSet<string> Addresses = ["href", "src", "poster", "cite", "action", "data", "xlink:href"];

    public BodyFiles Files { get; } = new(context);

    /// <param name="skip">Attributes that are written elsewhere.</param>
    public void Write(IElement element, BodyScope scope, IReadOnlyCollection<string> skip)
    {
        foreach (var attribute in element.Attributes)
        {
            var name = attribute.Name.ToLowerInvariant();
            if (Ours.Contains(name) || skip.Contains(name))
                continue;
            if (name.StartsWith("on", StringComparison.Ordinal))
                context.Warn(
                    context.Document.At(element, name),
                    $"The attribute {name} is left out: no page runs scripts that stand in its elements.",
                    "Listen for the event in a script file beside the body."
                );
            else if (Refused.Contains(name))
                context.Findings.Add(
                    FindingCodes.BodyRefused,
                    context.Document.At(element, name),
                    $"A page may not have the attribute {name}.",
                    "Remove it.",
                    found: name
                );
            else if (name == "hidden" && (element.HasAttribute("data-needs") || element.HasAttribute("data-lacks")))
                continue;
            else if (name == "style")
                context.Out.Html($" data-style=\"{Files.LiftRule(element, attribute.Value)}\"");
            else
                One(element, name, attribute.Value, scope);
        }
    }

    /// <summary>The address of a link to a page by its name. False if the element is none.</summary>
    /// <param name="counts">Whether the link alone is something shown.</param>
    public bool Link(IElement element, BodyScope scope, bool counts)
    {
        if (element.LocalName is not ("a" or "area") || PageAddress.Of(element.GetAttribute("href")) is not { } address)
            return false;
        context.Bound++;
        if (context.Links.TryGet(element, out var link) && (link.Plan is not null || scope.Title is not null))
        {
            if (link.Plan is { } plan)
                context.Out.Add(new BodyStep.Link(plan, link.After, counts));
            return true;
        }

        Unbound(element, address, counts);
        return true;
    }

    /// <summary>A link that stands in no record: to a page that needs none, or one that the page has anyway.</summary>
    private void Unbound(IElement element, PageAddress address, bool counts)
    {
        if (!context.Pages.TryGetValue(address.Page, out var target))
        {
            context.Unknown(element, "href", address.Page, "page", context.Pages.Keys);
            return;
        }

        if (context.Page is Sites.ListPage { Add: { } add } && add.Page.Name == address.Page && address.Pairs.Count == 0)
        {
            context.Out.Add(new BodyStep.OwnLink(BodyWord.Add, -1, "", counts));
            return;
        }

        if (target?.OpenAddress is { } open && target.AddressWithoutParameters is not null)
        {
            var to = context.Document.Text(element, "href", address.Page);
            var given = address.Pairs.Where(pair => context.Links.Fixed(to, pair.Name, pair.Value, target));
            var query = string.Join(
                '&',
                given.Select(pair => $"{Uri.EscapeDataString(pair.Name)}={Uri.EscapeDataString(pair.Value)}")
            );
            var after = query.Length == 0 ? "" : (open.Contains('?') ? "&" : "?") + query;
            context.Out.Html($" href=\"{BodyMarkup.Encoded(open + after + address.Fragment)}\"");
        }
        else if (target is not null)
        {
            context.Misplace(
                element,
                $"The page “{address.Page}” needs {string.Join(", ", target.Parameters.Select(one => one.Name))}, and no record "
                    + "stands here that could fill it.",
                "Put the link inside of a record: an element with itemscope."
            );
        }
    }

    private void One(IElement element, string name, string value, BodyScope scope)
    {
        if (name == "id" && scope.IsRepeated)
            context.Misplace(element, $"The ID “{value}” would stand in each row.", "Use a class instead.");
        if (name == "for" && context.ControlId(value) is { } control)
            value = control;
        if (Addresses.Contains(name))
        {
            Address(element, name, value, scope);
            return;
        }

        context.Out.Html($" {name}=\"");
        if (Wordy.Contains(name))
            Pieces(element, name, value, scope, BodyPlace.Text);
        else
        {
            if (Hole().Matches(value).FirstOrDefault(hole => scope.Find(hole.Groups[1].Value) is not null) is { } hole)
                context.Misplace(
                    element,
                    $"{hole.Value} stays as it is: the attribute {name} takes no values.",
                    "Write a <data value> into the element, and let the style sheet look at it: data[value=…]."
                );
            context.Out.Words(value);
        }

        context.Out.Html("\"");
    }

    private void Address(IElement element, string name, string value, BodyScope scope)
    {
        var address = value.Trim();
        if (PageAddress.Of(address) is not null)
        {
            context.Misplace(element, $"The attribute {name} of <{element.LocalName}> cannot lead to a page.", "Use <a href>.");
            return;
        }

        if (BodyPath.IsRelative(address) && name != "action")
        {
            context.Out.Html($" {name}=\"{BodyMarkup.Encoded(Files.Use(element, name, address) ?? "")}\"");
            return;
        }

        if (Scheme(address) is { } scheme && !IsGood(element, name, scheme))
        {
            context.Findings.Add(
                FindingCodes.BodyRefused,
                context.Document.At(element, name),
                $"No page may have an address that begins with {scheme}:",
                "Use https, mailto or tel in links, and files of the app elsewhere.",
                found: scheme
            );
            return;
        }

        context.Out.Html($" {name}=\"");
        Pieces(element, name, address, scope, BodyPlace.Percent);
        context.Out.Html("\"");
    }

    private static string? Scheme(string address)
    {
        var colon = address.IndexOf(':');
        return colon < 0 || address.AsSpan(0, colon).ContainsAny('/', '?', '#')
            ? null
            : address[..colon].Trim().ToLowerInvariant();
    }

    private static bool IsGood(IElement element, string name, string scheme) =>
        name == "href" && element.LocalName is "a" or "area"
            ? scheme is "http" or "https" or "mailto" or "tel"
            : scheme is "http" or "https" || (scheme == "data" && name == "src" && element.LocalName == "img");

    /// <summary>Words with values between them.</summary>
    private void Pieces(IElement element, string name, string text, BodyScope scope, BodyPlace place)
    {
        var at = 0;
        foreach (var hole in Hole().Matches(text).Where(_ => scope.Columns.Count > 0))
        {
            context.Out.Words(text[at..hole.Index]);
            at = hole.Index + hole.Length;
            if (place == BodyPlace.Percent && !HasFixedHost(text[..hole.Index]))
                context.Misplace(
                    element,
                    $"{hole.Value} may not choose where the link leads.",
                    "Write scheme and host as they are."
                );
            else if (context.Field(element, name, hole.Groups[1].Value, scope) is { } column)
                context.Out.Add(new BodyStep.Value(column with { Link = null }, place));
        }

        context.Out.Words(text[at..]);
    }

    private static bool HasFixedHost(string before) =>
        before.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase)
        || before.StartsWith("tel:", StringComparison.OrdinalIgnoreCase)
        || (before.IndexOf("://", StringComparison.Ordinal) is > 0 and var host && before.IndexOf('/', host + 3) > 0)
        || (before.StartsWith('/') && !before.StartsWith("//", StringComparison.Ordinal));

    [GeneratedRegex(@"\{([\p{L}_][\w.]*)\}")]
    private static partial Regex Hole();
}
