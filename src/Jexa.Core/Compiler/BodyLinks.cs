using AngleSharp.Dom;
using Jexa.Core.Bodies;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>
/// The bodies of all pages, and the links in them. A link is compiled with the query of the record that it stands in, like the
/// links of the app file: so it is checked and built in the same way.
/// </summary>
internal sealed class BodyLinks(
    AppDefinition definition,
    IReadOnlyDictionary<string, PageHead?> pages,
    LinkCompiler links,
    FindingList findings
)
{
    private readonly BodyReader _reader = new(definition, findings);
    private readonly Dictionary<string, BodyDocument?> _documents = [];
    private readonly Dictionary<IElement, (LinkPlan? Plan, string After)> _plans = [];
    private readonly Dictionary<string, List<LinkPlan>> _ofPages = [];

    /// <summary>Reads the HTML files, and knows which.</summary>
    public BodyReader Reader => _reader;

    /// <summary>The body of a page; null if it has none, or none that can be read.</summary>
    public BodyDocument? Of(PageHead head)
    {
        if (head.Definition.Body is not { } named)
            return null;
        if (!_documents.TryGetValue(head.Name, out var document))
            _documents[head.Name] = document = _reader.Read(named);
        return document;
    }

    /// <summary>The links of a page's body, for its own list of links.</summary>
    public IEnumerable<PageLink> PageLinks(PageHead head) =>
        _ofPages.GetValueOrDefault(head.Name)?.Select(plan => new PageLink(plan, null, LinkReason.Written)) ?? [];

    /// <summary>The link that an element is. False if its record has not been bound: it stands in no record.</summary>
    public bool TryGet(IElement element, out (LinkPlan? Plan, string After) link) => _plans.TryGetValue(element, out link);

    /// <summary>Compiles the links in the rows of a list.</summary>
    public void BindRows(PageHead head, Projections load, IEnumerable<LinkPlan?> known) =>
        Bind(head, head.Record.Name, [head.Record.Name], load, known);

    /// <summary>Compiles the links in one scope of a body.</summary>
    /// <param name="scope">The name of the block, or of a list's record; empty for the page's own record.</param>
    /// <param name="names">The names of all blocks of the page, and of a list's record.</param>
    /// <param name="known">The links that the records have anyway.</param>
    public void Bind(
        PageHead head,
        string scope,
        IReadOnlyCollection<string> names,
        Projections load,
        IEnumerable<LinkPlan?> known
    )
    {
        if (Of(head) is not { } body)
            return;
        var plans = known.OfType<LinkPlan>().ToList();
        foreach (var element in body.Main.QuerySelectorAll("a[href], area[href]"))
        {
            var (own, way) = ScopeOf(element, body.Main, names);
            if (own != scope || PageAddress.Of(element.GetAttribute("href")) is not { } address)
                continue;
            var link = Compile(body.Text(element, "href", address.Page), address, way, load, plans);
            _plans[element] = link;
            if (link.Plan is null)
                continue;
            if (!_ofPages.TryGetValue(head.Name, out var all))
                _ofPages[head.Name] = all = [];
            all.Add(link.Plan);
        }
    }

    /// <summary>The links on columns, those to related records included.</summary>
    public static IEnumerable<LinkPlan?> On(IEnumerable<ViewColumn> columns) =>
        columns.SelectMany(column => new[] { column.Link, column.Reference?.Link });

    /// <summary>The links that rows have.</summary>
    public static IEnumerable<LinkPlan?> Of(ListShape shape) =>
        [shape.RecordLink, shape.RowLink, .. shape.Actions, .. On(shape.Columns)];

    /// <summary>
    /// The scope that an element stands in, and the way from its record to a related one, with a point at its end.
    /// </summary>
    private static (string Scope, string Way) ScopeOf(IElement element, IElement main, IReadOnlyCollection<string> names)
    {
        var way = "";
        for (var at = element; at is not null && at != main; at = at.ParentElement)
        {
            if (!at.HasAttribute("itemscope") || at.GetAttribute("itemprop") is not { Length: > 0 } name || at == element)
                continue;
            if (names.Contains(name))
                return (name, way);
            way = $"{name}.{way}";
        }

        return ("", way);
    }

    private (LinkPlan? Plan, string After) Compile(
        Written to,
        PageAddress address,
        string way,
        Projections load,
        List<LinkPlan> known
    )
    {
        var target = pages.GetValueOrDefault(address.Page);
        var passes = new List<PassDefinition>();
        var rest = "";
        foreach (var (name, value) in address.Pairs)
        {
            if (PageAddress.FieldOf(value) is { } field)
                passes.Add(new PassDefinition(to with { Value = name }, to with { Value = way + field }));
            else if (Fixed(to, name, value, target))
                rest += $"&{Uri.EscapeDataString(name)}={Uri.EscapeDataString(value)}";
        }

        if (passes.Count == 0 && way.Length == 0 && known.Find(plan => plan.Page == address.Page) is { } there)
            return (there, rest + address.Fragment);
        if (way.Length > 0 && target is not null)
            passes.AddRange(
                target
                    .Parameters.Where(parameter =>
                        parameter is { Required: true, Path: null }
                        && passes.TrueForAll(pass => pass.Parameter.Value != parameter.Name)
                    )
                    .Select(parameter => new PassDefinition(
                        to with
                        {
                            Value = parameter.Name,
                        },
                        to with
                        {
                            Value = way + parameter.Field.Name,
                        }
                    ))
            );
        return (links.Compile(new LinkDefinition(to, null, null, false, passes, []), load), rest + address.Fragment);
    }

    /// <summary>Whether a fixed value fits the parameter or control of the page that it is for.</summary>
    public bool Fixed(Written to, string name, string value, PageHead? target)
    {
        if (target is null)
            return false;
        var controls = target.Definition.Kind == PageKind.List ? ListControlNames.Open : [];
        if (target.Parameters.FirstOrDefault(parameter => parameter.Name == name) is { } parameter)
        {
            if (parameter.Segment < 0 && parameter.Key.Read(value) is { Fault: KeyFault.None, Value: not null })
                return true;
            findings.Add(
                FindingCodes.BodyMisplaced,
                to.At,
                $"“{value}” cannot stand for {name} of the page “{target.Name}”.",
                parameter.Segment < 0 ? $"Write {parameter.Key.Looks}." : $"Write {name}={{FIELD}}.",
                found: value,
                expected: parameter.Key.Looks
            );
            return false;
        }

        if (controls.Contains(name))
            return true;
        findings.AddUnknown(
            FindingCodes.UnknownParameter,
            to with
            {
                Value = name,
            },
            $"parameter of the page {target.Name} called",
            target.Parameters.Select(one => one.Name)
        );
        return false;
    }
}
