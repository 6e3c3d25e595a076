using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the blocks beside a record: related records, other lists, notices.</summary>
internal sealed class BlockCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    IReadOnlyDictionary<string, SiteRecord?> records,
    RecordGraph graph,
    FilterCompiler filters,
    LinkCompiler links,
    RowCompiler rows,
    OrderCompiler orders,
    FindingList findings
)
{
    /// <summary>The block; null, and reported, if it cannot be made.</summary>
    /// <param name="main">The load of the page. The block's arguments are read with it.</param>
    /// <param name="page">The page that it stands on.</param>
    /// <param name="bind">Adds to the query of the rows what else is needed of them.</param>
    public BlockPlan? Compile(RelatedDefinition block, Projections main, PageHead page, Action<ListShape, Projections> bind)
    {
        var written = page.Definition.Links;
        if (block.Notice is { } notice)
            return new BlockPlan(new BlockShape("notice", block.Title?.Value ?? "", null, notice.Value), null, [], 0, null);
        if (RecordOf(block) is not { } record || TiesOf(block, record, main.Record) is not { } ties)
            return null;
        var load = new Projections(record);
        var shape = Shape(block, ties, load);
        bind(shape, load);
        var choice = Choice(block, shape, load, page, main);
        var size = block.Size ?? (choice is null ? BlockPlan.UsualSize : BlockPlan.ChoiceSize);
        var conditions = Conditions(block, load);
        var where = Filter.Standing(conditions);
        var order = Order(block, record, load);
        var fillers = ties.Select(tie => new LinkFiller(tie.Key, main.Add(tie.From), tie.From.Name)).ToList();
        var tied = ties.Select(
            (tie, i) => (Condition)new Condition.Equal(ColumnRef.Own(tie.Column), new Operand.Argument(i, tie.Key.Type))
        );
        var query = new RecordQuery(
            record.Seen,
            load.Joins,
            load.Columns,
            [.. tied, .. where],
            null,
            order,
            size,
            BlockPlan.CountLimit + 1
        );
        var title = block.Title?.Value ?? Labels.Capital(ties.Exists(tie => tie.IsOurs) ? record.One : record.Many);
        return new BlockPlan(
            new BlockShape(record.Name, title, shape, null) { Choice = choice },
            record.Source.Prepare(query),
            fillers,
            size,
            All(block, record, ties, main)
        )
        {
            Record = record,
            TiedAt = block.Tied.Count > 0 ? block.Tied[0].Field.At : null,
            Rows = RowSets.Of("", load, conditions, 0, shape.Columns, [shape.RecordLink, .. shape.Actions]),
            Add = Add(record, ties, main, written),
        };
    }

    /// <summary>The record kind of a block; null, and reported, if it cannot be listed.</summary>
    private SiteRecord? RecordOf(RelatedDefinition block)
    {
        if (!records.TryGetValue(block.Record!.Value, out var record))
        {
            findings.AddUnknown(FindingCodes.UnknownRecord, block.Record, "record", records.Keys);
            return null;
        }

        if (record is null || record.Table.CanList)
            return record;
        findings.Add(
            FindingCodes.CannotList,
            block.Record.At,
            $"The source of “{record.Name}” gives its records one by one only, so none can be looked for.",
            "Say the endpoint's list.",
            found: record.Name,
            expected: "a record whose endpoint has a list"
        );
        return null;
    }

    /// <summary>What connects the block's records with the page's; null, and reported, if nothing does.</summary>
    private List<Tie>? TiesOf(RelatedDefinition block, SiteRecord record, SiteRecord main)
    {
        var ties = block.IsUnrelated ? [] : Ties(block, record, main);
        if (ties is not null)
            IndexCheck.Check(
                findings,
                block.Record!.At,
                record,
                [.. ties.Select(tie => tie.Column)],
                $"{main.One} that is shown"
            );
        return ties;
    }

    private ListShape Shape(RelatedDefinition block, List<Tie> ties, Projections load)
    {
        var record = load.Record;
        var shown = rows.Shown(block.Show, record, all: false);
        if (block.Show.Count == 0)
            shown.RemoveAll(path => ties.Exists(tie => tie.Column == path.Field.Column.Name) && shown.Count > 1);
        var placed = rows.Place([], shown, load, isList: true);
        var own = links.PageOf(record);
        var recordLink = own is null ? null : LinkCompiler.ToOwn(own, load, own.LinkText);
        var columns = rows.Columns(shown, placed, load);

        // Rows that only connect two records link to the other record; they can be deleted.
        var isTying = columns.Count > 0 && columns.TrueForAll(column => column.Reference?.Link is not null);
        if (recordLink is not null && shown.Count > 0 && !isTying)
        {
            placed.OnColumns[RowCompiler.LinkColumn(record, shown)] = recordLink;
            columns = rows.Columns(shown, placed, load);
        }

        var removing = isTying ? links.PagesOf(record).FirstOrDefault(page => page.Definition.Kind == PageKind.Delete) : null;
        return new ListShape(
            "",
            ListCompiler.LookOf(block.Look),
            columns,
            record.One,
            record.Many,
            recordLink,
            null,
            removing is null ? [] : [LinkCompiler.ToOwn(removing, load, "Remove")],
            load.Label(record, 0)
        );
    }

    /// <summary>How one of the block's records is chosen; null if all are shown, or if none can be told by a name.</summary>
    private ChoiceShape? Choice(RelatedDefinition block, ListShape shape, Projections load, PageHead page, Projections main)
    {
        if (block.Choose is not { } name)
            return null;
        var why =
            !AppFileReader.IsName(name.Value) || name.Value == ListControlNames.From ? "it cannot be the name of a parameter"
            : page.Template.Parameters.Contains(name.Value) ? "the path of the page has a parameter of this name"
            : page.Definition.Related.Count(other => other.Choose?.Value == name.Value) > 1
                ? "another block is chosen by this name"
            : load.Record.Key.Count != 1 ? $"the key of a {load.Record.One} is not one field"
            : null;
        var key = why is null ? load.Record.Key[0] : null;
        if (key is null || KeyType.For(key.Column, key.Type, key.Form) is not { } type)
        {
            findings.Add(
                FindingCodes.WrongShape,
                name.At,
                $"No {load.Record.One} can be chosen by “{name}”: {why ?? "no address can hold its key"}.",
                "Write another name, such as the record's, or remove “choose”.",
                found: name.Value
            );
            return null;
        }

        var own = LinkCompiler.ToOwn(page, main, page.LinkText);
        return new ChoiceShape(
            name.Value,
            new LinkFiller(type, load.Add(FieldPath.Own(key)), key.Name),
            new DetailShape(shape.Title, shape.Columns, load.Record.One, shape.RecordLink ?? own, [], null),
            own
        );
    }

    /// <summary>The block's own conditions. A block has no parameters.</summary>
    private List<Filter> Conditions(RelatedDefinition block, Projections load)
    {
        foreach (var use in filters.Uses(block.Where, load.Record))
            findings.Add(
                FindingCodes.UnboundParameter,
                use.At.At,
                $"“{use.At}” stands for a parameter, and a block has none.",
                "Write a value.",
                found: use.At.Value,
                expected: "a value"
            );
        return [.. filters.Compile(block.Where, load, _ => -1)];
    }

    /// <summary>The page that adds a record to the block; null for none, or if the page has such a link already.</summary>
    private LinkPlan? Add(SiteRecord record, List<Tie> ties, Projections main, IReadOnlyList<LinkDefinition> written)
    {
        if (ties.Count == 0 || ties.Exists(tie => tie.IsOurs))
            return null;
        foreach (
            var page in links
                .PagesOf(record)
                .Where(page => page.Definition.Kind == PageKind.New && written.All(link => link.To.Value != page.Name))
        )
        {
            if (FilledBy(ties, page, main, page.LinkText) is { } link)
                return link;
        }

        return null;
    }

    private List<Ordering> Order(RelatedDefinition block, SiteRecord record, Projections load)
    {
        var choices = new List<OrderChoice>();
        var steps = orders.Compile(block.Order, record, load, choices);
        var descending = steps.Count > 0 && steps[^1].Descending;
        foreach (var field in record.Key)
            steps.Add(new OrderStep(OrderCompiler.Choice(FieldPath.Own(field), load, choices), descending));
        return
        [
            .. steps
                .DistinctBy(step => step.Choice)
                .Select(step => new Ordering.ByColumn(
                    choices[step.Choice].Column,
                    step.Descending,
                    choices[step.Choice].MayBeEmpty ? EmptyPlace.Last : null
                )),
        ];
    }

    /// <summary>
    /// The pairs of columns that connect the block's records with the page's; null, and reported, if there are none or several
    /// ways.
    /// </summary>
    private List<Tie>? Ties(RelatedDefinition block, SiteRecord record, SiteRecord main)
    {
        if (block.Tied.Count > 0)
            return TiedBy(block, record, main);
        if (Way(block, record, main) is not var (tying, areTheirs))
            return null;
        var ties = new List<Tie>();
        foreach (var (own, other) in tying.Columns.Zip(tying.References))
        {
            var (column, from) = areTheirs
                ? (own, main.Fields.First(field => field.Column.Name == other))
                : (other, main.Fields.First(field => field.Column.Name == own));
            if (KeyType.For(from.Column, from.Type, TextForm.Any) is not { } key)
            {
                findings.Add(
                    FindingCodes.NotRelated,
                    block.Record!.At,
                    $"{from.Name} is {from.Type}, by which no records can be looked up.",
                    "Tie them by a whole number, a text, a date or a UUID."
                );
                return null;
            }

            ties.Add(new Tie(column, from, key, !areTheirs));
        }

        return ties;
    }

    /// <summary>
    /// The one foreign key between the block's records and the page's: theirs to this record, or this record's to them. Null, and
    /// reported, if there are none or several.
    /// </summary>
    private (ForeignKeySchema Key, bool IsTheirs)? Way(RelatedDefinition block, SiteRecord record, SiteRecord main)
    {
        var ways = record
            .References.Where(key => graph.Other(record, key) == main)
            .Select(key => (key, theirs: true))
            .Concat(main.References.Where(key => graph.Other(main, key) == record).Select(key => (key, theirs: false)))
            .ToList();
        if (block.By is { } by)
            ways = [.. ways.Where(way => way.key.Columns.Contains(by.Value))];
        if (record == main)
            ways = [.. ways.Where(way => way.theirs)];
        if (ways.Count == 1)
            return ways[0];
        findings.Add(
            FindingCodes.NotRelated,
            block.By?.At ?? block.Record!.At,
            ways.Count == 0
                ? $"No foreign key ties {record.Many} to {main.Many}{(block.By is null ? "" : $" by {block.By}")}."
                : $"{Labels.Capital(record.Many)} are tied to {main.Many} by "
                    + $"{string.Join(" and by ", ways.Select(way => string.Join(" with ", way.key.Columns)))}.",
            ways.Count == 0 ? "Declare a foreign key in the source, or refers_to in the record." : "Say which: by: FIELD.",
            found: block.By?.Value ?? block.Record!.Value,
            expected: ways.Count == 0
                ? "a record that refers to this one, or that this one refers to"
                : string.Join(" or ", ways.Select(way => way.key.Columns[0]))
        );
        return null;
    }

    /// <summary>The pairs in the app file, for records of another source, which have no foreign key.</summary>
    private List<Tie>? TiedBy(RelatedDefinition block, SiteRecord record, SiteRecord main)
    {
        var ties = new List<Tie>();
        foreach (var pair in block.Tied)
        {
            if (
                FieldUse.Find(pair.Parameter, record.Fields, "a tie", findings) is not { } theirs
                || FieldUse.Find(pair.Field, main.Fields, "a tie", findings) is not { } ours
            )
                return null;
            if (theirs.Type == ours.Type && KeyType.For(ours.Column, ours.Type, TextForm.Any) is { } key)
            {
                new FieldMeaning(graph, findings).Check(
                    pair.Field.At,
                    $"The block of {record.Many} is tied by",
                    ours,
                    main,
                    theirs,
                    record
                );
                ties.Add(new Tie(theirs.Column.Name, ours, key, false));
                continue;
            }

            findings.Add(
                FindingCodes.NotRelated,
                pair.Field.At,
                $"{theirs.Name} of “{record.Name}” is {theirs.Type.Word()}, and {ours.Name} of “{main.Name}” "
                    + $"{ours.Type.Word()}: they cannot be tied.",
                "Tie fields of one type: whole numbers, texts, dates or UUIDs.",
                found: ours.Type.Word(),
                expected: theirs.Type.Word()
            );
            return null;
        }

        return ties;
    }

    /// <summary>The list of all records of the block: its parameters are the connecting columns. Null for none.</summary>
    private LinkPlan? All(RelatedDefinition block, SiteRecord record, List<Tie> ties, Projections main)
    {
        IEnumerable<PageHead> candidates = links.PagesOf(record);
        if (block.All is { } named)
        {
            if (!pages.TryGetValue(named.Value, out var page))
                findings.AddUnknown(FindingCodes.UnknownPage, named, "page", pages.Keys);
            candidates = page is null ? [] : [page];
        }

        foreach (
            var page in candidates
                .Where(page => page.Kind == record && page.Definition.Kind == PageKind.List)
                .OrderByDescending(page => page.Parameters.Count(p => p.Required))
        )
        {
            if (FilledBy(ties, page, main, page.Heading) is { } link)
                return link;
        }

        if (block.All is { } lacking && pages.ContainsKey(lacking.Value))
            findings.Add(
                FindingCodes.NoSuchList,
                lacking.At,
                $"“{lacking}” does not list the {record.Many} of one record.",
                "Name a list whose parameters are the foreign key.",
                found: lacking.Value,
                expected: $"a list with where: {{ {string.Join(", ", ties.Select(tie => $"{tie.Column}: \"{{…}}\""))} }}"
            );
        return null;
    }

    /// <summary>
    /// The link to a page whose parameters are the connecting columns; null if it does not have them all, or requires more.
    /// </summary>
    private static LinkPlan? FilledBy(List<Tie> ties, PageHead page, Projections main, string text)
    {
        var slots = page
            .Parameters.Select(parameter =>
                parameter is { IsEqual: true, Path: null } ? ties.Find(tie => tie.Column == parameter.Field.Column.Name) : null
            )
            .ToList();
        if (
            ties.Exists(tie => !slots.Contains(tie))
            || page.Parameters.Where((parameter, i) => parameter.Required && slots[i] is null).Any()
        )
            return null;
        return new LinkPlan(
            page.Name,
            text,
            page.LinkBuilder,
            slots.Select(
                (tie, i) =>
                    tie is null ? (LinkFiller?)null : new LinkFiller(page.Parameters[i].Key, main.Add(tie.From), tie.From.Name)
            ),
            page.OwnsLink
        );
    }

    /// <param name="Column">The block's column.</param>
    /// <param name="From">The page's field that the column equals.</param>
    /// <param name="IsOurs">Whether the page's record has the foreign key, so that there is at most one record.</param>
    private sealed record Tie(string Column, SiteField From, KeyType Key, bool IsOurs);
}
