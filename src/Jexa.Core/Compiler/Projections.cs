using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Collects the columns and joins of a page's main query, each once, and knows the cell of each column.</summary>
/// <param name="joins">Existing joins, so that conditions with them keep their meaning.</param>
internal sealed class Projections(SiteRecord record, IReadOnlyList<Join>? joins = null)
{
    private readonly List<Projection> _columns = [];
    private readonly List<Join> _joins = [.. joins ?? []];

    public SiteRecord Record => record;

    public IReadOnlyList<Projection> Columns => _columns;

    public IReadOnlyList<Join> Joins => _joins;

    /// <summary>The cell of a field of the page's record, read as its type.</summary>
    public int Add(SiteField field) => Add(0, record, field);

    /// <summary>The cell of a field of one of the tables, read as its type.</summary>
    /// <param name="table">0 for the page's own record, else the number of a join.</param>
    /// <param name="owner">The record kind that the table holds.</param>
    public int Add(int table, SiteRecord owner, SiteField field) => Add(Ref(table, owner, field), field.Type);

    /// <summary>The cell of a column, read as the given type.</summary>
    public int Add(ColumnRef column, FieldType type)
    {
        var projection = Of(column, type);
        var known = _columns.IndexOf(projection);
        if (known >= 0)
            return known;
        _columns.Add(projection);
        return _columns.Count - 1;
    }

    /// <summary>The cell of a field at the end of a path, read as its type.</summary>
    public int Add(FieldPath path) => Add(Ref(path), path.Field.Type);

    /// <summary>The cell of a field that is read already; -1 if it is not.</summary>
    public int Find(FieldPath path) => _columns.IndexOf(Of(Ref(path), path.Field.Type));

    /// <summary>The cell of a field of the page's record, as it is stored.</summary>
    public int AddStored(SiteField field) => Add(ColumnRef.Own(field.Column.Name), FieldType.Any);

    private Projection Of(ColumnRef column, FieldType type) =>
        new(column, type, column.Table == 0 && record.Find(column.Name)?.Secret == true);

    /// <summary>The column of a field at the end of a path. Adds the joins on the way.</summary>
    public ColumnRef Ref(FieldPath path) => Ref(TableOf(path.Steps), path.Owner(record), path.Field);

    /// <summary>
    /// The column of a field. A foreign key to a record that may be hidden is read from that record, where it is empty if the
    /// record may not be seen.
    /// </summary>
    private ColumnRef Ref(int table, SiteRecord owner, SiteField field)
    {
        if (!owner.WithheldBy.TryGetValue(field.Column.Name, out var step))
            return new ColumnRef(table, field.Column.Name);
        return new ColumnRef(Join(table, step), step.Key.References[step.Key.Columns.ToList().IndexOf(field.Column.Name)]);
    }

    /// <summary>
    /// The cell of a field as its own record holds it, even if it refers to a hidden record. It must never be shown.
    /// </summary>
    public int AddHeld(FieldPath path) => Add(new ColumnRef(TableOf(path.Steps), path.Field.Column.Name), path.Field.Type);

    /// <summary>The number of the table at the end of some steps.</summary>
    public int TableOf(IReadOnlyList<FieldStep> steps)
    {
        var table = 0;
        foreach (var step in steps)
            table = Join(table, step);
        return table;
    }

    /// <summary>The number of the join for a step.</summary>
    /// <param name="from">The table with the foreign key.</param>
    public int Join(int from, FieldStep step) => Join(from, step, step.Other.Seen);

    /// <summary>The number of the join for a step to a record that may be hidden. Only for what is never shown.</summary>
    public int JoinWhole(int from, FieldStep step) => Join(from, step, RecordRows.Whole(step.Other.Rows));

    private int Join(int from, FieldStep step, RecordRows rows)
    {
        var on = step.Key.Columns.Zip(step.Key.References, (own, theirs) => (own, theirs)).ToList();
        var known = _joins.FindIndex(join =>
            join.From == from
            && join.Table.Name == rows.Origin.Name
            && join.Conditions.Count == rows.Visible.Count
            && join.On.SequenceEqual(on)
        );
        if (known >= 0)
            return known + 1;
        _joins.Add(new Join(from, rows, on));
        return _joins.Count;
    }

    /// <summary>A text over a record's fields, compiled for this query.</summary>
    /// <param name="table">0 for the page's own record, else the number of a join.</param>
    public TextPlan Text(SiteRecord of, IReadOnlyList<TextHole> holes, int table, TextPlan? fallback)
    {
        var pieces = holes
            .Where(hole =>
                hole.Literal is not null || of.LabelPaths.ContainsKey(hole.Field!.Value) || of.Find(hole.Field.Value) is not null
            )
            .Select(hole =>
            {
                if (hole.Literal is { } literal)
                    return TextPiece.Of(literal);
                if (of.LabelPaths.TryGetValue(hole.Field!.Value, out var path))
                {
                    var owner = path.Owner(of);
                    return TextPiece.Of(
                        Add(path.Steps.Aggregate(table, Join), owner, path.Field),
                        path.Field.Type,
                        owner.Key.Contains(path.Field),
                        path.Field.Style
                    );
                }

                var field = of.Find(hole.Field.Value)!;
                return TextPiece.Of(Add(table, of, field), field.Type, of.Key.Contains(field), field.Style);
            });
        return new TextPlan([.. pieces], fallback);
    }

    /// <summary>The label of a record; if it is blank, its kind and key.</summary>
    public TextPlan Label(SiteRecord of, int table)
    {
        var pieces = new List<TextPiece> { TextPiece.Of(Labels.Capital(of.One)) };
        foreach (var field in of.Key)
        {
            pieces.Add(TextPiece.Of(" "));
            pieces.Add(TextPiece.Of(Add(table, of, field), field.Type, isId: true));
        }

        return Text(of, of.Label, table, new TextPlan(pieces));
    }
}
