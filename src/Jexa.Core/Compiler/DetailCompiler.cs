using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles detail pages.</summary>
internal sealed class DetailCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    RecordGraph graph,
    FilterCompiler filters,
    RowCompiler rows,
    TrailCompiler trails,
    BlockCompiler blocks,
    BodyLinks bodies,
    FindingList findings
)
{
    public DetailPage Compile(PageHead head)
    {
        var (record, page) = (head.Record, head.Definition);
        var load = new Projections(record);
        var shown = rows.Shown(page.Show, record, all: true);
        var placed = rows.Place(page.Links, shown, load, isList: false);
        var columns = rows.Columns(shown, placed, load);
        var title = Title(page, record, load);
        var key = head
            .Parameters.Select(parameter => LookupPart.Of(parameter.Key, parameter.Path ?? FieldPath.Own(parameter.Field), load))
            .ToList();
        var own = LinkCompiler.ToOwn(head, load, head.LinkText);
        var list = trails.ListOf(record);
        var back = list is null ? null : new PlainLink(list.Name, list.Heading, list.OpenAddress!);
        var trail = trails.Above(record, 0, load, itself: false);
        bodies.Bind(head, "", BlockNames(page), load, [own, .. placed.Apart, .. BodyLinks.On(columns)]);
        var related = Related(head, load);
        var stored = page.NeighboursHidden ? [] : Stored(list, record, load);
        var conditions = filters.Compile(page.Where, load, _ => -1);
        var narrowed = Filter.Standing(conditions);
        var shape = new DetailShape(title, columns, record.One, own, placed.Apart, back) { PlaysOn = page.PlaysOn };
        CheckPlaysOn(page, columns);
        var lookup = Lookups.Compile(record, load, key, [.. record.Visible, .. narrowed], name => Filler(head, name));
        filters.RequireValues(page.Where, record);
        Contradiction.Check(findings, head, narrowed);
        CheckFilled(head);
        return new DetailPage(
            head,
            shape,
            lookup,
            stored,
            trail,
            related,
            [.. Standing(placed, columns, back, trail, related), .. bodies.PageLinks(head)],
            list,
            MissingPages.Of(pages, page.Ids, list, "an ID", findings),
            Beside(page, record)
        )
        {
            Samples = Samples(head),
            Rows =
            [
                .. RowSets.Of("", load, conditions, head.Parameters.Count, columns, LinksOf(placed, trail, related)),
                .. related.SelectMany(block => block.Rows),
            ],
        };
    }

    /// <summary>The links that depend on the page's own record.</summary>
    private static IEnumerable<LinkPlan?> LinksOf(PlacedLinks placed, TrailPlan trail, List<BlockPlan> related) =>
        [
            .. placed.Apart,
            .. trail.Steps.Select(step => step.Link),
            .. related.SelectMany(block => new[] { block.All, block.Add }),
        ];

    /// <summary>Reports a page that is to play on and cannot.</summary>
    private void CheckPlaysOn(PageDefinition page, IReadOnlyList<ViewColumn> columns)
    {
        if (!page.PlaysOn)
            return;
        if (!columns.Any(column => column.Style.Form.IsRecording()))
            findings.Add(
                FindingCodes.KeyOfOtherPageKind,
                page.Name.At,
                $"“{page.Name}” is to play on, and shows no recording.",
                "Show a field with as: video or as: audio, or remove “play_on”.",
                found: "play_on",
                expected: "a recording among the fields it shows"
            );
        if (page.NeighboursHidden)
            findings.Add(
                FindingCodes.KeyOfOtherPageKind,
                page.Name.At,
                $"“{page.Name}” is to play on, and has no way to the next record.",
                "Remove neighbours: hidden, or remove “play_on”.",
                found: "neighbours: hidden"
            );
    }

    private List<BlockPlan> Related(PageHead head, Projections load)
    {
        var page = head.Definition;
        var names = BlockNames(page);
        return page
            .Related.Select(
                (definition, i) =>
                    blocks.Compile(definition, load, head, (shape, rows) =>
                        bodies.Bind(head, names[i], names, rows, BodyLinks.Of(shape))
                    )
                        is { } block
                        ? block with
                        {
                            Name = names[i],
                            Rows = [.. block.Rows.Select(rows => rows with { Part = names[i] })],
                        }
                        : null
            )
            .OfType<BlockPlan>()
            .ToList();
    }

    /// <summary>The names of a page's blocks: those of their records, and a number for another one of the same.</summary>
    private static List<string> BlockNames(PageDefinition page)
    {
        var names = new List<string>();
        foreach (var name in page.Related.Select(block => block.Record?.Value ?? "notice"))
        {
            var same = names.Count(other => other == name || other.StartsWith($"{name}-", StringComparison.Ordinal));
            names.Add(same == 0 ? name : $"{name}-{same + 1}");
        }

        return names;
    }

    /// <summary>
    /// The page's parameter that fills a parameter of the record's query, by the same name; null for the default.
    /// </summary>
    private static Operand? Filler(PageHead head, string name)
    {
        var number = head.Parameters.ToList().FindIndex(parameter => parameter.Name == name);
        return number < 0 ? null : new Operand.Argument(number, head.Parameters[number].Key.Type);
    }

    /// <summary>
    /// Reports parameters of the record's query that the page does not fill, or fills with values of another type.
    /// </summary>
    private void CheckFilled(PageHead head)
    {
        var page = head.Definition;
        foreach (var parameter in head.Record.QueryParameters)
        {
            if (head.Parameters.FirstOrDefault(one => one.Name == parameter.Name) is not { } own)
            {
                if (parameter.Default is not null)
                    continue;
                findings.Add(
                    FindingCodes.UnboundParameter,
                    page.Record.At,
                    $"The query of “{page.Record}” has the parameter :{parameter.Name}; the path of “{page.Name}” "
                        + "has none of this name.",
                    $"If :{parameter.Name} is the ID, remove its condition from the query: Jexa adds it. Otherwise "
                        + $"write {{{parameter.Name}}} into the path, "
                        + $"or give it a default: parameters: {{ {parameter.Name}: {{ type: {parameter.Type.Word()}, "
                        + "default: VALUE } }",
                    found: $":{parameter.Name}",
                    expected: $"a path with {{{parameter.Name}}}, or a default"
                );
            }
            else if (own.Key.Type != parameter.Type)
            {
                findings.Add(
                    FindingCodes.FilterOfOtherType,
                    page.Path.At,
                    $"The parameter {own.Name} is {parameter.Type.Word()} in the query, and {own.Key.Type.Word()} as "
                        + $"the field {own.Field.Name}.",
                    $"Say one type for both: parameters: {{ {own.Name}: {own.Key.Type.Word()} }}",
                    found: own.Key.Type.Word(),
                    expected: parameter.Type.Word()
                );
            }
        }
    }

    private static List<PageLink> Standing(
        PlacedLinks placed,
        List<ViewColumn> columns,
        PlainLink? back,
        TrailPlan trail,
        List<BlockPlan> related
    ) =>
        [
            .. PageLinks.Of(placed, columns, LinkReason.Written),
            .. back is null
                ? []
                : new[] { new PageLink(new LinkPlan(back.Page, back.Text, back.Address), null, LinkReason.Back) },
            .. trail.Steps.Where(step => step.Link is not null).Select(step => new PageLink(step.Link!, null, LinkReason.Part)),
            .. related
                .SelectMany(block =>
                    new[] { block.All, block.Add, block.Shape.Rows?.RecordLink }.Concat(block.Shape.Rows?.Actions ?? [])
                )
                .OfType<LinkPlan>()
                .Select(link => new PageLink(link, null, LinkReason.Part)),
        ];

    public SamplePlan? Samples(PageHead head)
    {
        // Nobody knows which values a query's own parameter can have.
        if (head.Record.QueryParameters.Any(parameter => parameter.Default is null))
            return null;
        var load = new Projections(head.Record);
        return SampleCompiler.Compile(head, Filter.Standing(filters.Compile(head.Definition.Where, load, _ => -1)), load);
    }

    /// <summary>
    /// The stored order columns of the record's list, so that its neighbours are found without another query. An order by another
    /// record's label needs that query.
    /// </summary>
    private static Dictionary<ColumnRef, int> Stored(PageHead? list, SiteRecord record, Projections load)
    {
        var orders = new List<OrderChoice>();
        var own = list?.Definition.Order.Select(order => order.Field) ?? [];
        var shown = list?.Definition.Show.Where(name => !record.References.Any(key => key.Columns.Contains(name.Value))) ?? [];
        foreach (var name in own.Concat(shown))
            if (record.Find(name.Value) is { Secret: false, Type: not FieldType.Bytes } field)
                OrderCompiler.Choice(FieldPath.Own(field), load, orders);
        foreach (var field in record.Key)
            OrderCompiler.Choice(FieldPath.Own(field), load, orders);
        return orders
            .Where(order => order.Column.Table == 0)
            .ToDictionary(order => order.Column, order => load.Add(order.Column, order.Stored));
    }

    public TextPlan Title(PageDefinition page, SiteRecord record, Projections load)
    {
        if (page.Title is not { } title || TextHoles.Read(title, findings) is not { } holes)
            return load.Label(record, 0);
        var pieces = new List<TextPiece>();
        foreach (var hole in holes)
        {
            if (hole.Literal is { } literal)
                pieces.Add(TextPiece.Of(literal));
            else if (graph.Find(hole.Field!, record, "a title", findings) is { } path)
                pieces.Add(
                    TextPiece.Of(load.Add(path), path.Field.Type, path.Owner(record).Key.Contains(path.Field), path.Field.Style)
                );
        }

        return new TextPlan(pieces, load.Label(record, 0));
    }

    private PageHead? Beside(PageDefinition page, SiteRecord record)
    {
        if (page.Beside is not { } name)
            return null;
        if (!pages.TryGetValue(name.Value, out var target))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, name, "page", pages.Keys);
            return null;
        }

        if (
            target is null
            || (target.Definition.Kind == PageKind.List && target.Kind == record && target.AddressWithoutParameters is not null)
        )
            return target;
        findings.Add(
            FindingCodes.NoSuchList,
            name.At,
            $"“{name}” cannot stand beside a {record.One}.",
            $"Name a list of {record.Many} that can be opened by itself.",
            found: name.Value,
            expected: $"a list of {record.Many} whose parameters are optional"
        );
        return null;
    }
}
