using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>
/// Collects the columns and joins that one page's main load reads, each once, and says where in a row each of them stands.
/// </summary>
/// <param name="joins">Joins that are there already: conditions made with them keep their meaning.</param>
internal sealed class Projections(SiteRecord record, IReadOnlyList<Join>? joins = null)
{
    private readonly List<Projection> _columns = [];
    private readonly List<Join> _joins = [.. joins ?? []];

    public SiteRecord Record => record;

    public IReadOnlyList<Projection> Columns => _columns;

    public IReadOnlyList<Join> Joins => _joins;

    /// <summary>The ordinal of an own field, read as its type.</summary>
    public int Add(SiteField field) => Add(0, record, field);

    /// <summary>The ordinal of a field of one of the tables, read as its type.</summary>
    /// <param name="table">0 for the page's own record, otherwise a joined one's number.</param>
    /// <param name="owner">The record kind that the table holds.</param>
    public int Add(int table, SiteRecord owner, SiteField field) => Add(Ref(table, owner, field), field.Type);

    /// <summary>The ordinal of a column, read as the given type.</summary>
    public int Add(ColumnRef column, FieldType type)
    {
        var projection = Of(column, type);
        var known = _columns.IndexOf(projection);
        if (known >= 0)
            return known;
        _columns.Add(projection);
        return _columns.Count - 1;
    }

    /// <summary>The ordinal of a field however far away, read as its type.</summary>
    public int Add(FieldPath path) => Add(Ref(path), path.Field.Type);

    /// <summary>The ordinal of a field that is read already; -1 for one that is not.</summary>
    public int Find(FieldPath path) => _columns.IndexOf(Of(Ref(path), path.Field.Type));

    /// <summary>The ordinal of an own field as it is stored.</summary>
    public int AddStored(SiteField field) => Add(ColumnRef.Own(field.Column.Name), FieldType.Any);

    private Projection Of(ColumnRef column, FieldType type) =>
        new(column, type, column.Table == 0 && record.Find(column.Name)?.Secret == true);

    /// <summary>The column of a field however far away; joins what leads there.</summary>
    public ColumnRef Ref(FieldPath path) => Ref(TableOf(path.Steps), path.Owner(record), path.Field);

    /// <summary>
    /// The column of a field. That of a foreign key to a record that may be hidden is read from the record itself: there it is
    /// empty if the record may not be seen.
    /// </summary>
    private ColumnRef Ref(int table, SiteRecord owner, SiteField field)
    {
        if (!owner.WithheldBy.TryGetValue(field.Column.Name, out var step))
            return new ColumnRef(table, field.Column.Name);
        return new ColumnRef(Join(table, step), step.Key.References[step.Key.Columns.ToList().IndexOf(field.Column.Name)]);
    }

    /// <summary>
    /// The ordinal of a field as its own record holds it, also if it leads to a hidden record: never to be shown.
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

    /// <summary>The number of the joined table that a step leads to.</summary>
    /// <param name="from">The table that has the foreign key.</param>
    public int Join(int from, FieldStep step)
    {
        var on = step.Key.Columns.Zip(step.Key.References, (own, theirs) => (own, theirs)).ToList();
        var known = _joins.FindIndex(join =>
            join.From == from && join.Table.Name == step.Other.Rows.Name && join.On.SequenceEqual(on)
        );
        if (known >= 0)
            return known + 1;
        _joins.Add(new Join(from, step.Other.Seen, on));
        return _joins.Count;
    }

    /// <summary>A text over a record's fields, compiled for this load.</summary>
    /// <param name="table">0 for the page's own record, otherwise the joined one's number.</param>
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

    /// <summary>What a record is called; where its label is blank, its kind and key.</summary>
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
