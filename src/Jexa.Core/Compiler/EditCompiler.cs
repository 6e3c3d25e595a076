using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the pages that change records: edit, new and delete.</summary>
internal sealed class EditCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    IReadOnlyList<SiteRecord> kinds,
    IReadOnlyDictionary<string, DescribedSource?> sources,
    FilterCompiler filters,
    LinkCompiler links,
    RowCompiler rows,
    TrailCompiler trails,
    ParentCompiler parents,
    DetailCompiler details,
    FormCompiler forms,
    ChangeCompiler changes,
    BodyLinks bodies,
    FindingList findings
)
{
    public EditPage Edit(PageHead head)
    {
        changes.CanWrite(head);
        var record = head.Record;
        var load = new Projections(record);
        var form = forms.Compile(head, load);
        var title = Titled("Edit ", head, load);
        List<StoredColumn> columns =
        [
            .. record.Fields.Select(field => new StoredColumn(field, load.AddStored(field)) { Shown = load.Add(field) }),
        ];
        var placed = rows.Place(head.Definition.Links, [], load, isList: false);
        var own = LinkCompiler.ToOwn(head, load, head.LinkText);
        var cancel = links.PageOf(record) is { } detail ? LinkCompiler.ToOwn(detail, load, detail.LinkText) : null;
        var then = head.Definition.Then is { } word
            ? links.Compile(new LinkDefinition(word, null, null, false, head.Definition.ThenWith, []), load)
            : null;
        bodies.Bind(head, "", [], load, [own, cancel, .. placed.Apart]);
        var lookup = Lookup(head, load);
        return new EditPage(
            head,
            form,
            lookup,
            own,
            title,
            columns,
            changes.Compile(record, head),
            placed.Apart,
            cancel,
            Back(record),
            MissingPages.Of(pages, head.Definition.Ids, trails.ListOf(record), "an ID", findings),
            [
                .. PageLinks.Of(placed, [], LinkReason.Written),
                .. bodies.PageLinks(head),
                .. cancel is null ? [] : new[] { new PageLink(cancel, null, LinkReason.Back) },
            ]
        )
        {
            Samples = details.Samples(head),
            Then = then,
        };
    }

    public NewPage New(PageHead head)
    {
        changes.CanWrite(head);
        var record = head.Record;
        var form = forms.Compile(head, null);
        var title = head.Definition.Title?.Value ?? $"New {record.One}";
        var named = parents.Of(head);
        var back = Back(record);
        var missing =
            head.Parameters.FirstOrDefault(parameter => parameter.Required) is null ? null
            : named.Count > 0 ? trails.ListOf(named[^1].Record)
            : trails.ListOf(record);
        return new NewPage(
            head,
            form,
            title,
            named,
            changes.Compile(record, head),
            back,
            missing,
            back is null ? [] : [new PageLink(new LinkPlan(back.Page, back.Text, back.Address), null, LinkReason.Back)]
        )
        {
            Samples = head.AddressWithoutParameters is not null || named.Count == 0 ? null : ParentSamples(head, named),
        };
    }

    public DeletePage Delete(PageHead head)
    {
        changes.CanWrite(head);
        var record = head.Record;
        var load = new Projections(record);
        var shown = rows.Shown(head.Definition.Show, record, all: true);
        var placed = rows.Place(head.Definition.Links, shown, load, isList: false);
        var columns = rows.Columns(shown, placed, load);
        var title = Titled("Delete ", head, load);
        List<StoredColumn> stored =
        [
            .. record.Fields.Select(field => new StoredColumn(field, load.AddStored(field)) { Shown = load.Add(field) }),
        ];
        var own = LinkCompiler.ToOwn(head, load, head.LinkText);
        var cancel = links.PageOf(record) is { } detail ? LinkCompiler.ToOwn(detail, load, detail.LinkText) : null;
        var shape = new DetailShape(title, columns, record.One, own, placed.Apart, Back(record));
        bodies.Bind(head, "", [], load, [own, cancel, .. placed.Apart, .. BodyLinks.On(columns)]);
        return new DeletePage(
            head,
            shape,
            Lookup(head, load),
            stored,
            Dependents(record, stored),
            changes.Compile(record, head),
            cancel,
            MissingPages.Of(pages, head.Definition.Ids, trails.ListOf(record), "an ID", findings),
            [
                .. PageLinks.Of(placed, columns, LinkReason.Written),
                .. bodies.PageLinks(head),
                .. cancel is null ? [] : new[] { new PageLink(cancel, null, LinkReason.Back) },
            ]
        )
        {
            Samples = details.Samples(head),
        };
    }

    /// <summary>The title in the app file, else what happens to the record and its label.</summary>
    private TextPlan Titled(string verb, PageHead head, Projections load) =>
        head.Definition.Title is not null ? details.Title(head.Definition, head.Record, load)
        : load.Label(head.Record, 0) is var label ? new TextPlan([TextPiece.Of(verb), .. label.Pieces])
        : label;

    /// <summary>Finds the record by its address, if it is visible and meets the page's own conditions.</summary>
    private RecordLookup Lookup(PageHead head, Projections load)
    {
        var key = head
            .Parameters.Select(parameter => LookupPart.Of(parameter.Key, parameter.Path ?? FieldPath.Own(parameter.Field), load))
            .ToList();
        var narrowed = Filter.Standing(filters.Compile(head.Definition.Where, load, _ => -1));
        filters.RequireValues(head.Definition.Where, head.Record);
        return Lookups.Compile(head.Record, load, key, [.. head.Record.Visible, .. narrowed]);
    }

    private PlainLink? Back(SiteRecord record) =>
        trails.ListOf(record) is { } list ? new PlainLink(list.Name, list.Heading, list.OpenAddress!) : null;

    /// <summary>To try a page for a new record, an address with an existing parent is needed.</summary>
    private static SamplePlan? ParentSamples(PageHead head, List<ParentPlan> named)
    {
        var parent = named[^1];
        if (
            head
                .Parameters.Select((parameter, i) => (parameter, i))
                .Any(pair => pair.parameter.Required && !parent.Parameters.Contains(pair.i))
        )
            return null;
        var load = new Projections(parent.Record);
        var ordinals = head
            .Parameters.Select(
                (_, i) =>
                    parent.Parameters.ToList().IndexOf(i) is >= 0 and var place
                        ? load.Add(parent.Record.Key.Count > place ? parent.Record.Key[place] : parent.Record.Key[0])
                        : -1
            )
            .ToList();
        return new SamplePlan(
            parent.Record.Source.Prepare(
                new RecordQuery(
                    parent.Record.Seen,
                    load.Joins,
                    load.Columns,
                    [],
                    null,
                    SampleCompiler.ByKey(parent.Record),
                    SamplePlan.MostRows
                )
            ),
            ordinals
        );
    }

    /// <summary>Everything in the source that refers to records of a kind.</summary>
    private List<DependentPlan> Dependents(SiteRecord record, List<StoredColumn> stored)
    {
        var dependents = new List<DependentPlan>();
        foreach (var table in sources.GetValueOrDefault(record.SourceName)?.Schema.Tables ?? [])
        {
            foreach (
                var key in table.ForeignKeys.Where(key =>
                    key.Table == record.Table.Name
                    && key.References.All(column => stored.Exists(one => one.Field.Column.Name == column))
                )
            )
            {
                var kind = kinds.FirstOrDefault(one =>
                    one.Source == record.Source && one.Query is null && one.Table.Name == table.Name
                );
                var where = key.Columns.Select(
                    (column, i) => (Condition)new Condition.Equal(ColumnRef.Own(column), new Operand.Argument(i, FieldType.Any))
                );
                var count = record.Source.Prepare(
                    new CountQuery(
                        kind?.Seen ?? RecordRows.Whole(RowOrigin.Of(table.Name)),
                        [],
                        [.. where],
                        DependentPlan.CountLimit + 1
                    )
                );
                var one = kind?.One ?? "other record";
                dependents.Add(
                    new DependentPlan(
                        one,
                        kind?.Many ?? Labels.Plural(one),
                        count,
                        [.. key.References.Select(column => stored.First(other => other.Field.Column.Name == column).Ordinal)],
                        key.OnDelete
                    )
                );
            }
        }

        return dependents;
    }
}
