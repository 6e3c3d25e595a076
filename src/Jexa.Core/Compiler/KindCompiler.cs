using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what a sweep reads of each record kind: all of its records, with all that is not secret.</summary>
internal sealed class KindCompiler(RecordGraph graph, RowCompiler rows, LinkCompiler links)
{
    /// <summary>The record kinds that have pages.</summary>
    public IReadOnlyList<KindRows> Compile() => [.. graph.Kinds.Where(kind => links.PagesOf(kind).Any()).SelectMany(Of)];

    private List<KindRows> Of(SiteRecord kind)
    {
        var load = new Projections(kind);
        var fields = kind.Fields.Where(IsWorthReading).Select(FieldPath.Own).ToList();
        var columns = rows.Columns(fields, new PlacedLinks([], null, []), load);
        var own = links.PagesOf(kind).Where(IsOfRecord).Select(page => LinkCompiler.ToOwn(page, load, page.LinkText)).ToList();
        var references = graph.Steps(kind).OrderBy(step => step.Key.Columns.Count).Select(step => Reference(step, load)).ToList();
        var label = load.Text(kind, kind.Label, 0, null);
        return
        [
            .. RowSets.Of("", load, [], 0, columns, []).Select(set => new KindRows(set with { Links = own }, label, references)),
        ];
    }

    /// <summary>Whether values of a field can be wrong in a way that a sweep finds.</summary>
    private static bool IsWorthReading(SiteField field) =>
        !field.Secret
        && field.Type != FieldType.Bytes
        && (
            field.Type is not (FieldType.Text or FieldType.Any)
            || field.Form != TextForm.Any
            || field.Style.Choices.Count > 0
            || field.Style.Files is not null
            || field.Style.Form is FieldForm.Web or FieldForm.Markdown
        );

    /// <summary>Whether a page is about one record, whose own fields its addresses name.</summary>
    private static bool IsOfRecord(PageHead page) => page.Definition.Kind.HasId && page.Parameters.Count > 0;

    private static ReferenceCells Reference(FieldStep step, Projections load)
    {
        var own = step
            .Key.Columns.Select(column => load.Record.Fields.First(field => field.Column.Name == column))
            .Select(field => (Column: ColumnRef.Own(field.Column.Name), field.Type))
            .ToList();
        var filled = own.Select(part => (Condition)new Condition.IsFilled(part.Column)).ToList();
        return new ReferenceCells(
            step,
            [.. own.Select(part => load.Add(part.Column, part.Type))],
            LinkCompiler.Presence(step, load.Join(0, step), load),
            LinkCompiler.Presence(step, There(step, load), load),
            Query(load.Record, step, (_, there) => [.. filled, new Condition.IsEmpty(there)]),
            Query(load.Record, step, (seen, there) => [.. filled, new Condition.IsEmpty(seen), new Condition.IsFilled(there)])
        );
    }

    /// <summary>The other record, whether it may be seen or not.</summary>
    private static int There(FieldStep step, Projections load) =>
        step.Other.Visible.Count == 0 ? load.Join(0, step) : load.JoinWhole(0, step);

    /// <summary>The keys of some rows, as a query of their own that somebody may want to read.</summary>
    private static RecordQuery Query(
        SiteRecord record,
        FieldStep step,
        Func<ColumnRef, ColumnRef, IReadOnlyList<Condition>> where
    )
    {
        var load = new Projections(record);
        foreach (var field in record.Key)
            load.Add(ColumnRef.Own(field.Column.Name), field.Type);
        ColumnRef In(int table) => new(table, step.Key.References[0]);
        var (there, isHiding) = (There(step, load), step.Other.Visible.Count > 0);
        var seen = isHiding ? load.Join(0, step) : there;
        return new RecordQuery(record.Seen, load.Joins, load.Columns, where(In(seen), In(there)), null, [], RowSets.MostShown);
    }
}
