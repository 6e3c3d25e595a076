using System.Diagnostics;
using Jexa.Core.Definitions;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles how records are changed.</summary>
internal sealed class ChangeCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    LinkCompiler links,
    TrailCompiler trails,
    IReadOnlyDictionary<string, DescribedSource?> sources,
    IReadOnlyList<RecordDefinition> records,
    string home,
    FindingList findings
)
{
    /// <summary>Whether a page's records can be changed at all. If not, the reason is reported.</summary>
    public bool CanWrite(PageHead head)
    {
        var record = head.Record;
        var at = head.Definition.Record;
        var reason =
            record.Query is not null ? "they come from a query"
            : !record.Table.IsWritable ? $"{record.Table.Name} is a view"
            : record.UniqueAssumed && !record.Table.IsUnique([.. record.Key.Select(field => field.Column.Name)])
                ? "nothing keeps their key unique, so that a change could reach another record"
            : sources.GetValueOrDefault(record.SourceName)?.Schema.ReadOnlyBecause is { } why ? why
            : sources.GetValueOrDefault(record.SourceName)?.Schema is { } schema && !schema.CanFillForms(record.Table)
                ? $"{record.Table.Name} has {record.Table.Columns.Count:N0} columns, and a form reads each of them twice: more "
                    + $"than the {schema.MostCells:N0} that the source gives at a time"
            : !record.Table.May.HasFlag(Act(head))
                ? $"the user of the connection may not {Act(head).ToString().ToLowerInvariant()} rows of {record.Table.Name}"
            : null;
        if (reason is null)
            return true;
        findings.Add(
            FindingCodes.CannotWrite,
            at.At,
            $"The {record.Many} of “{head.Name}” cannot be changed: {reason}.",
            "Remove the page, or make it a page over a table that can be written to.",
            found: at.Value,
            expected: "a record over a table with a key"
        );
        return false;
    }

    private static RowActs Act(PageHead head) =>
        head.Definition.Kind.Calls switch
        {
            PageCalls.Add => RowActs.Insert,
            PageCalls.Delete => RowActs.Delete,
            PageCalls.Edit => RowActs.Update,
            var other => throw new UnreachableException($"A page of kind {head.Definition.Kind} ({other}) changes nothing."),
        };

    /// <param name="head">The page; null for changes that no page makes.</param>
    public ChangePlan Compile(SiteRecord record, PageHead? head)
    {
        var load = new Projections(record);
        List<StoredColumn> columns = [.. record.Fields.Select(field => new StoredColumn(field, load.AddStored(field)))];
        var label = load.Label(record, 0);
        var own = links.PageOf(record);
        var (then, otherwise) = After(record, head, own, load);
        var id = own is null ? null : LinkCompiler.ToOwn(own, load, "");
        var scopes = Scopes(record, load);
        var key = record.Key.Select(field => columns.First(column => column.Field == field)).ToList();
        var where = key.Select(
                (column, i) =>
                    (Condition)
                        new Condition.Equal(ColumnRef.Own(column.Field.Column.Name), new Operand.Argument(i, FieldType.Any))
            )
            .ToList();
        var flag = record.Visible.Count > 0 ? record.Visible : null;
        var query = new RecordQuery(RecordRows.Whole(record.Rows), load.Joins, load.Columns, where, flag, [], 2);
        return new ChangePlan(
            record,
            record.Source.Prepare(query),
            flag is null ? -1 : load.Columns.Count,
            columns,
            key,
            label,
            id,
            then,
            otherwise,
            scopes,
            Kept(record)
        )
        {
            ScopeColumns = links
                .PagesOf(record)
                .Where(page => KeyScope.NameOf(page) is not null)
                .SelectMany(page => page.Parameters)
                .Select(parameter => parameter.Field.Column.Name)
                .ToHashSet(),
        };
    }

    /// <summary>Where a save leads: to a page about the record, or otherwise to a page without parameters.</summary>
    private (LinkPlan? Then, PlainLink Otherwise) After(SiteRecord record, PageHead? head, PageHead? own, Projections load)
    {
        var list = trails.ListOf(record);
        var otherwise = list is null ? new PlainLink("", "", home) : new PlainLink(list.Name, list.Heading, list.OpenAddress!);
        if (head?.Definition.Then is not { } word)
        {
            var shown = own ?? (list is null ? EditOf(record) : null);
            return head?.Definition.Kind == PageKind.Delete || shown is null
                ? (null, otherwise)
                : (LinkCompiler.ToOwn(shown, load, shown.LinkText), otherwise);
        }

        // The target is a link like any other: what is wrong with it is reported in the same way.
        var then = links.Compile(new LinkDefinition(word, null, null, false, head.Definition.ThenWith, []), load);
        var target = pages.GetValueOrDefault(word.Value);
        if (then is { Fillers.Count: 0 } && target?.AddressWithoutParameters is { } alone)
            otherwise = new PlainLink(word.Value, then.Text, alone);
        if (head.Definition.Kind != PageKind.Delete || target is not { Definition.HasId: true } || target.Kind != record)
            return (then, otherwise);
        findings.Add(
            FindingCodes.PageNeedsParameters,
            word.At,
            $"A deleted {record.One} has no page: “{word}” cannot be shown after.",
            "Name a list.",
            found: word.Value,
            expected: "a list"
        );
        return (null, otherwise);
    }

    /// <summary>The page that edits a record, if the record has no other page: it shows what was saved.</summary>
    private PageHead? EditOf(SiteRecord record) =>
        links.PagesOf(record).FirstOrDefault(page => page.Definition.Kind == PageKind.Edit);

    /// <summary>The fields that Jexa fills.</summary>
    public IReadOnlyList<KeptField> Kept(SiteRecord record) =>
        [
            .. (records.FirstOrDefault(definition => definition.Name.Value == record.Name)?.Fields ?? [])
                .Where(field => field.Input.Kept is not null && record.Find(field.Name.Value) is not null)
                .Select(field => (said: field.Input.Kept!, field: record.Find(field.Name.Value)!))
                .Where(pair => Enum.TryParse<KeptKind>(pair.said.Value, ignoreCase: true, out _))
                .Where(pair => Suits(pair.said, pair.field))
                .Select(pair => new KeptField(Enum.Parse<KeptKind>(pair.said.Value, ignoreCase: true), pair.field)),
        ];

    private bool Suits(Written said, SiteField field)
    {
        var fits =
            said.Value == "version" ? field.Type == FieldType.Integer : field.Type is FieldType.Date or FieldType.Timestamp;
        if (fits)
            return true;
        findings.Add(
            FindingCodes.ValueOfOtherType,
            said.At,
            $"{field.Name} is {field.Type.Word()} and cannot keep “{said}”.",
            said.Value == "version" ? "A version is a whole number." : "A time is kept in a date or timestamp.",
            found: field.Type.Word(),
            expected: said.Value == "version" ? "integer" : "date or timestamp"
        );
        return false;
    }

    private List<KeyScope> Scopes(SiteRecord record, Projections load) =>
        [
            .. links
                .PagesOf(record)
                .Where(head => KeyScope.NameOf(head) is not null)
                .GroupBy(head => KeyScope.NameOf(head)!)
                .Select(group => new KeyScope(
                    group.Key,
                    [
                        .. group
                            .First()
                            .Parameters.OrderBy(parameter => parameter.Field.Name, StringComparer.Ordinal)
                            .Select(parameter => (parameter.Key, load.AddHeld(FieldPath.Own(parameter.Field)))),
                    ]
                )),
        ];
}
