using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>Compiles what a page shows: its columns, links, title and the queries of its main load.</summary>
internal sealed class PageCompiler(IReadOnlyDictionary<string, PageHead?> pages, LinkCompiler links, FindingList findings)
{
    /// <summary>Counting a list's records stops here.</summary>
    public const int CountLimit = 100_000;

    private const int DefaultColumns = 6;
    private const int MaxOrder = 16;

    public Page Compile(PageHead head) => head.Definition.Kind == PageKind.List ? List(head) : Detail(head);

    private ListPage List(PageHead head)
    {
        var record = head.Record;
        var page = head.Definition;
        var load = new Projections(record);
        var shown = Shown(page, record, page.Kind);
        CheckListTitle(page);
        var stated = StatedLinks(page, shown, load);
        var own = links.PageOf(record);
        if (own is not null && page.Links.Count == 0 && shown.Count > 0) stated[LinkColumn(record, shown)] = [LinkCompiler.ToOwn(own, load, LinkCompiler.PageText(own))];

        var columns = Columns(shown, stated, load);
        var keys = Order(page, record, load);
        var recordLink = own is null ? null : LinkCompiler.ToOwn(own, load, LinkCompiler.PageText(own));
        var query = new RecordQuery(record.Table.Name, load.Joins, load.Columns, record.Visible, null, [], ListPage.WindowSize + 1);
        var shape = new ListShape(LinkCompiler.ListHeading(head), head.Builder.Fixed!, columns, record.One, record.Many, recordLink);
        return new ListPage(head, shape, new ListWindows(record.Source, query, keys),
            record.Source.Prepare(new CountQuery(record.Table.Name, record.Visible, CountLimit + 1)), CountLimit,
            Standing(stated, columns, page.Links.Count == 0 ? LinkReason.Record : LinkReason.Written));
    }

    private DetailPage Detail(PageHead head)
    {
        var record = head.Record;
        var page = head.Definition;
        var load = new Projections(record);
        var shown = Shown(page, record, page.Kind);
        var stated = StatedLinks(page, shown, load);
        var columns = Columns(shown, stated, load);
        var title = Title(page, record, load);
        var keyOrdinals = head.Parameters.Select(parameter => load.Add(parameter.Field)).ToList();
        var own = LinkCompiler.ToOwn(head, load, LinkCompiler.PageText(head));
        var list = pages.Values.OfType<PageHead>()
            .FirstOrDefault(other => other.Record == record && other.Definition.Kind == PageKind.List && other.Parameters.Count == 0);
        var back = list is null ? null : new PlainLink(list.Name, LinkCompiler.ListHeading(list), list.Builder.Fixed!);
        var shape = new DetailShape(title, columns, record.One, own, stated.TryGetValue("", out var loose) ? loose : [], back);
        var flag = record.Visible.Count > 0 ? record.Visible : null;
        var standing = Standing(stated, columns, LinkReason.Written);
        var query = new RecordQuery(record.Table.Name, load.Joins, load.Columns, Where(head), flag, Preference(head, flag is not null), 2);
        return new DetailPage(head, shape, record.Source.Prepare(query), keyOrdinals, flag is null ? -1 : load.Columns.Count,
            record.Source.Prepare(Samples(head)), back is null ? standing : [.. standing, new PageLink(new LinkPlan(back.Page, back.Text, back.Address), null, LinkReason.Back)],
            list, MissingPage(page, list));
    }

    /// <summary>Every link that stands on a page: those on columns, those of their own, and those that foreign keys make.</summary>
    private static List<PageLink> Standing(Dictionary<string, List<LinkPlan>> stated, List<ViewColumn> columns, LinkReason reason) =>
    [
        .. stated.SelectMany(group => group.Value.Select(link => new PageLink(link, group.Key.Length == 0 ? null : group.Key, reason))),
        .. columns.Where(column => column.Reference?.Link is not null && column.Link is null)
            .Select(column => new PageLink(column.Reference!.Link!, column.Name, LinkReason.Reference)),
    ];

    private static RecordQuery Samples(PageHead head) => new(
        head.Record.Table.Name, [], [.. head.Parameters.Select(parameter => new Projection(ColumnRef.Own(parameter.Field.Column.Name), parameter.Field.Type))],
        head.Record.Visible, null, [], Visits.Samples.MostRows);

    private static List<Condition> Where(PageHead head) =>
        [.. head.Parameters.Select((parameter, i) => new Condition.Equal(ColumnRef.Own(parameter.Field.Column.Name), new Operand.Argument(i, parameter.Key.Type)))];

    /// <summary>
    /// Which of several rows to read: none needed where the source keeps the ID unique. A UUID can stand there in several
    /// spellings though its column is unique.
    /// </summary>
    private static List<Ordering> Preference(PageHead head, bool flagged)
    {
        if (!head.Parameters.Any(parameter => parameter.Key is UuidKey) && head.Record.Table.IsUnique([.. head.Parameters.Select(parameter => parameter.Field.Column.Name)])) return [];
        var order = new List<Ordering>();
        for (var i = 0; i < head.Parameters.Count; i++)
            if (head.Parameters[i].Key is TextKey { FoldsCase: true }) order.Add(new Ordering.ExactFirst(ColumnRef.Own(head.Parameters[i].Field.Column.Name), i));
        if (flagged) order.Add(new Ordering.FlaggedFirst());
        return order;
    }

    private List<SiteField> Shown(PageDefinition page, SiteRecord record, PageKind kind)
    {
        if (page.Show.Count > 0)
            return [.. page.Show.Select(name => FieldUse.Find(name, record.Fields, "shown", findings)).OfType<SiteField>().Distinct()];
        var open = record.Fields.Where(field => !field.Secret).ToList();
        if (kind == PageKind.Detail) return open;
        var labels = record.Label.Where(hole => hole.Field is not null).Select(hole => record.Find(hole.Field!.Value)).OfType<SiteField>();
        return [.. labels.Concat(open).Distinct().Take(DefaultColumns)];
    }

    /// <summary>The page's own links by the column they stand on; those that stand on none under the empty name.</summary>
    private Dictionary<string, List<LinkPlan>> StatedLinks(PageDefinition page, List<SiteField> shown, Projections load)
    {
        var stated = new Dictionary<string, List<LinkPlan>>();
        foreach (var definition in page.Links)
        {
            var column = "";
            if (definition.Column is { } name)
            {
                column = name.Value;
                if (shown.TrueForAll(field => field.Name != name.Value))
                    findings.AddUnknown(FindingCodes.LinkColumnNotShown, name, "column on this page called", shown.Select(field => field.Name));
            }

            if (links.Compile(definition, load) is not { } link) continue;
            if (column.Length == 0 && page.Kind == PageKind.List && shown.Count > 0) column = LinkColumn(load.Record, shown);
            if (!stated.TryGetValue(column, out var group)) stated[column] = group = [];
            if (column.Length > 0 && group.Count > 0)
                findings.Add(FindingCodes.LinkColumnTaken, definition.Column?.At ?? definition.To.At, $"A link to “{group[0].Page}” stands on the column {column} already.",
                    "Put this link on another shown column.", found: column, expected: string.Join(", ", shown.Select(field => field.Name).Where(name => !stated.ContainsKey(name))));
            group.Add(link);
        }

        return stated;
    }

    /// <summary>The column a link stands on where the app file names none: the label, or the first one.</summary>
    private static string LinkColumn(SiteRecord record, List<SiteField> shown) =>
        (shown.Find(field => record.Label.Any(hole => hole.Field?.Value == field.Name)) ?? shown[0]).Name;

    private List<ViewColumn> Columns(List<SiteField> shown, Dictionary<string, List<LinkPlan>> stated, Projections load) =>
        [
            .. shown.Select(field =>
            {
                var reference = links.Reference(field, load);
                var link = stated.TryGetValue(field.Name, out var group) ? group[0] : null;
                var label = field.Label ?? (reference is null ? Labels.OfField(field.Name) : Labels.OfReference(field.Name));
                var isId = load.Record.Key.Contains(field) || load.Record.Table.ForeignKeys.Any(key => key.Columns.Contains(field.Column.Name));
                return new ViewColumn(field.Name, label, field.Type, load.Add(field), isId, reference, link, link is null ? null : load.Label(load.Record, 0));
            }),
        ];

    private List<OrderKey> Order(PageDefinition page, SiteRecord record, Projections load)
    {
        var keys = new List<OrderKey>();
        foreach (var order in page.Order.Take(MaxOrder))
            if (FieldUse.Find(order.Field, record.Fields, "an order", findings) is { } field) Add(field, order.Descending);
        if (page.Order.Count > MaxOrder)
            findings.Add(FindingCodes.WrongShape, page.Order[MaxOrder].Field.At, $"The list is ordered by more than {MaxOrder} fields.",
                "Remove those that no longer decide.", expected: $"at most {MaxOrder} fields");

        // The key decides last, in the direction of the last column, so that one index can serve the whole order.
        var last = keys.Count > 0 && keys[^1].Descending;
        foreach (var field in record.Key) Add(field, last);
        return keys;

        void Add(SiteField field, bool descending)
        {
            var column = ColumnRef.Own(field.Column.Name);
            if (keys.Exists(key => key.Column == column)) return;

            // The place in a list is made of values as they are stored; these types are read so in any case.
            var stored = field.Type is FieldType.Integer or FieldType.Text or FieldType.Real or FieldType.Bytes ? field.Type : FieldType.Any;
            keys.Add(new OrderKey(column, descending, field.Column.Nullable, load.Add(column, stored)));
        }
    }

    private TextPlan Title(PageDefinition page, SiteRecord record, Projections load)
    {
        if (page.Title is not { } title || TextHoles.Read(title, findings) is not { } holes) return load.Label(record, 0);
        var known = holes.Where(hole => hole.Field is null || FieldUse.Find(hole.Field, record.Fields, "a title", findings) is not null);
        return load.Text(record, [.. known], 0, load.Label(record, 0));
    }

    private void CheckListTitle(PageDefinition page)
    {
        if (page.Title is { } title && title.Value.AsSpan().ContainsAny('{', '}'))
            findings.Add(FindingCodes.BadText, title.At, "The title of a list has no record to take a field from.", "Write it without braces.",
                found: title.Value, expected: "a text without holes");
    }

    private PageHead? MissingPage(PageDefinition page, PageHead? list)
    {
        if (page.Ids.MissingPage is not { } name) return page.Ids.MissingStatus is null ? list : null;
        if (!pages.TryGetValue(name.Value, out var target))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, name, "page", [.. pages.Keys, "400", "404"]);
            return null;
        }

        if (target is null || target.Parameters.Count == 0) return target;
        findings.Add(FindingCodes.PageNeedsParameters, name.At, $"A visitor without an ID cannot be led to “{name}”: it needs one itself.",
            "Name a list, or write 404.", found: name.Value, expected: "a page without parameters, 400 or 404");
        return null;
    }
}
