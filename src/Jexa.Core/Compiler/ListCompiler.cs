using Jexa.Core.Definitions;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles list pages.</summary>
internal sealed class ListCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    RecordGraph graph,
    FilterCompiler filters,
    LinkCompiler links,
    RowCompiler rows,
    TrailCompiler trails,
    ParentCompiler parentCompiler,
    BodyLinks bodies,
    FindingList findings
)
{
    /// <summary>Counting stops at this number.</summary>
    public const int CountLimit = 100_000;

    private readonly OrderCompiler _orders = new(graph, findings);

    public ListPage Compile(PageHead head)
    {
        CheckCanList(head);
        var page = head.Definition;
        var load = new Projections(head.Record);
        var shown = rows.Shown(page.Show, head.Record, all: false);
        var own = links.PageOf(head.Record);
        var placed = rows.Place(page.Links, shown, load, isList: true, own);
        var recordLink = RecordLink(page, own, shown, placed, load);
        var orders = new List<OrderChoice>();
        var columns = rows.Columns(shown, placed, load)
            .Zip(shown, (column, path) => column with { OrderName = _orders.Name(path, load, orders) })
            .ToList();
        bodies.BindRows(head, load, [recordLink, placed.OnRow, .. placed.Apart, .. BodyLinks.On(columns)]);
        var plan = Plan(head, load, orders);
        var shape = Shape(head, columns, recordLink, placed, plan.Label);
        Contradiction.Check(findings, head, Filter.Standing(plan.Filters, head.Parameters.Count));
        var parents = parentCompiler.Of(head);
        var sides = page
            .Side.Select(side => new SideCompiler(pages, graph, filters, trails, findings).Compile(head, side))
            .OfType<SidePlan>()
            .ToList();
        var all = trails.ListOf(head.Record);
        return new ListPage(
            head,
            shape,
            plan.List,
            new HeadingCompiler(findings).Compile(head, parents),
            parents,
            sides,
            page.Size ?? ListPage.WindowSize,
            [.. Standing(placed, columns, page, sides, parents), .. bodies.PageLinks(head)],
            all
        )
        {
            Add = Add(head),
            NeighboursMaker = NeighbourCompiler.Compile,
            MissingPage = MissingPages.Of(pages, page.Ids, all?.Name == head.Name ? null : all, "a parameter", findings),
            Rows = RowSets.Of(
                "",
                load,
                plan.Filters,
                head.Parameters.Count,
                columns,
                [recordLink, placed.OnRow, .. placed.Apart]
            ),
            Samples = head.AddressWithoutParameters is null
                ? SampleCompiler.Compile(head, [], new Projections(head.Record))
                : null,
        };
    }

    private static ListShape Shape(
        PageHead head,
        List<ViewColumn> columns,
        LinkPlan? recordLink,
        PlacedLinks placed,
        TextPlan label
    ) =>
        new(
            head.Heading,
            LookOf(head.Definition.Look),
            columns,
            head.Record.One,
            head.Record.Many,
            recordLink,
            placed.OnRow,
            placed.Apart,
            label
        );

    /// <summary>The queries of the list, and the label of its records.</summary>
    private (ListPlan List, TextPlan Label, List<Filter> Filters) Plan(PageHead head, Projections load, List<OrderChoice> orders)
    {
        var order = _orders.Compile(head.Definition.Order, head.Record, load, orders);
        var key = head.Record.Key.Select(field => OrderCompiler.Choice(FieldPath.Own(field), load, orders)).ToList();
        var label = load.Label(head.Record, 0);
        var compiled = Filters(head, filters, load);
        var search = Searched(head.Definition, load);
        return (
            new ListPlan(
                head.Record,
                head.Name,
                load.Columns,
                load.Joins,
                Rows(head),
                compiled,
                search,
                orders,
                order,
                key,
                CountLimit
            ),
            label,
            compiled
        );
    }

    private void CheckCanList(PageHead head)
    {
        if (!head.Record.Table.CanList)
            findings.Add(
                FindingCodes.CannotList,
                head.Definition.Record.At,
                $"The page “{head.Name}” lists {head.Record.Many}, whose source gives them one by one only.",
                "Say the endpoint's list, or remove the page.",
                found: head.Record.Name,
                expected: "a record whose endpoint has a list"
            );
    }

    /// <summary>The link to a record's own page. It is on its label, unless the app file says otherwise.</summary>
    /// <param name="own">The page; null for none.</param>
    private static LinkPlan? RecordLink(
        PageDefinition page,
        PageHead? own,
        List<FieldPath> shown,
        PlacedLinks placed,
        Projections load
    )
    {
        if (own is null)
            return null;
        var link = LinkCompiler.ToOwn(own, load, own.LinkText);
        var isWritten = page.Links.Any(written => written.To.Value == own.Name) || placed.OnRow is not null;
        if (!isWritten && shown.Count > 0)
            placed.OnColumns.TryAdd(RowCompiler.LinkColumn(load.Record, shown), link);
        return link;
    }

    /// <summary>The columns that a search searches.</summary>
    private List<ColumnRef> Searched(PageDefinition page, Projections load) =>
        [
            .. page
                .Search.Select(name => (Name: name, Path: graph.Find(name, load.Record, "searched", findings)))
                .Where(one => one.Path is { } path && IsSearchable(path, one.Name))
                .Select(one => load.Ref(one.Path!)),
        ];

    private bool IsSearchable(FieldPath path, Written name)
    {
        if (path.Field.Type is FieldType.Text or FieldType.Any or FieldType.Integer)
            return true;
        findings.Add(
            FindingCodes.FilterOfOtherType,
            name.At,
            $"{path.Name} is {path.Field.Type.Word()}: it cannot be searched.",
            "Search in texts.",
            found: path.Field.Type.Word(),
            expected: "a text field"
        );
        return false;
    }

    /// <summary>The conditions of a list: those in the app file, and those that follow from its parameters' names.</summary>
    public static List<Filter> Filters(PageHead head, FilterCompiler filters, Projections load) =>
        [.. filters.Compile(head.Definition.Where, load, name => NumberOf(head, name)), .. Implied(head, load)];

    public static ListLook LookOf(Written? look) =>
        look?.Value switch
        {
            "cards" => ListLook.Cards,
            "bullets" => ListLook.Bullets,
            _ => ListLook.Table,
        };

    private static int NumberOf(PageHead head, string name) =>
        head.Parameters.ToList().FindIndex(parameter => parameter.Name == name);

    /// <summary>The filters of parameters without a condition: the field of the same name equals them.</summary>
    private static IEnumerable<Filter> Implied(PageHead head, Projections load)
    {
        var named = FilterCompiler.Names(head.Definition.Where).ToHashSet();
        for (var i = 0; i < head.Parameters.Count; i++)
        {
            var parameter = head.Parameters[i];
            if (!parameter.IsEqual || named.Contains(parameter.Name))
                continue;
            var column = load.Ref(parameter.Path ?? FieldPath.Own(parameter.Field));
            yield return parameter.Many
                ? new Filter.OneOf(i, column, parameter.Field.Type)
                : new Filter.ByParameter(i, operand => new Condition.Equal(column, operand), parameter.Field.Type);
        }
    }

    /// <summary>Where the rows are read from. Parameters of a query are filled by the page's of the same name.</summary>
    private static Func<ParameterValues, ArgumentList, RecordRows> Rows(PageHead head)
    {
        var record = head.Record;
        if (record.QueryParameters.Count == 0)
        {
            var seen = record.Seen;
            return (_, _) => seen;
        }

        return (values, arguments) =>
            record.SeenOf(name =>
                NumberOf(head, name) is >= 0 and var number && values.Has(number)
                    ? arguments.Add(values.One(number), head.Parameters[number].Field.Type)
                    : null
            );
    }

    /// <summary>
    /// The page that adds a record: the one in the app file, or the first for this record kind that the list's parameters can
    /// fill.
    /// </summary>
    private AddPlan? Add(PageHead head)
    {
        var word = head.Definition.Add;
        if (word is { Value: "none" })
            return null;
        if (word is not null && !pages.ContainsKey(word.Value))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, word, "page", [.. pages.Keys, "none"]);
            return null;
        }

        foreach (
            var page in links
                .PagesOf(head.Record)
                .Where(page => page.Definition.Kind == PageKind.New && (word is null || word.Value == page.Name))
        )
        {
            List<int> from =
            [
                .. page.Parameters.Select(parameter =>
                    head.Parameters.ToList()
                        .FindIndex(own => own is { IsEqual: true, Many: false, Path: null } && own.Field == parameter.Field)
                ),
            ];
            if (from.Where((number, i) => number < 0 && page.Parameters[i].Required).Any())
                continue;
            return new AddPlan(page, page.LinkText, from);
        }

        if (word is not null && pages.GetValueOrDefault(word.Value) is not null)
            findings.Add(
                FindingCodes.PageNeedsParameters,
                word.At,
                $"The list “{head.Name}” cannot lead to “{word}” for a new {head.Record.One}.",
                $"Name a new page of {head.Record.Many} whose parameters this list has.",
                found: word.Value,
                expected: $"a new page of {head.Record.Many}, or none"
            );
        return null;
    }

    /// <summary>All links on a list.</summary>
    private static List<PageLink> Standing(
        PlacedLinks placed,
        List<ViewColumn> columns,
        PageDefinition page,
        List<SidePlan> sides,
        List<ParentPlan> parents
    )
    {
        return
        [
            .. PageLinks
                .Of(placed, columns, LinkReason.Written)
                .Select(link =>
                    link.Reason == LinkReason.Written && page.Links.All(written => written.To.Value != link.Plan.Page)
                        ? link with
                        {
                            Reason = LinkReason.Record,
                        }
                        : link
                ),
            .. sides.Select(side => new PageLink(
                new LinkPlan(
                    side.Target.Name,
                    side.Title,
                    side.Target.Builder,
                    side.Target.Parameters.Select(
                        (p, i) => i == side.Parameter ? (LinkFiller?)new LinkFiller(side.Key, 0, side.Field) : null
                    ),
                    null
                ),
                null,
                LinkReason.Part
            )),
            .. parents
                .SelectMany(parent => parent.Trail.Steps)
                .Where(step => step.Link is not null)
                .DistinctBy(step => step.Link!.Page)
                .Select(step => new PageLink(step.Link!, null, LinkReason.Part)),
        ];
    }
}
