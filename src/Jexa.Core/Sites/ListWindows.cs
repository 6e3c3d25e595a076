using System.Collections.Concurrent;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>One column a list is ordered by.</summary>
/// <param name="Ordinal">Where its stored value stands in a row.</param>
public sealed record OrderKey(ColumnRef Column, bool Descending, bool MayBeEmpty, int Ordinal);

/// <summary>One range query of a window, with its arguments.</summary>
public readonly record struct WindowQuery(IPreparedQuery Query, IReadOnlyList<Constant> Arguments);

/// <summary>
/// Keyset paging: the windows of a list as range queries that an index serves, never an OR across them. The rows behind
/// (a, b, key) are, in order: those equal in a and b with a greater key; those equal in a with a greater b, then those
/// with no b; those with a greater a, then those with no a. Each is one query; reading stops when the window is full.
/// Backwards it is the same over the order turned round, and the rows come last one first.
/// </summary>
public sealed class ListWindows
{
    private readonly ISource _source;
    private readonly RecordQuery _basis;
    private readonly ConcurrentDictionary<Shape, IPreparedQuery> _prepared = [];

    /// <param name="basis">The list's query without order and without a place to begin.</param>
    /// <param name="keys">The order, ending with the record's key.</param>
    public ListWindows(ISource source, RecordQuery basis, IReadOnlyList<OrderKey> keys)
    {
        _source = source;
        _basis = basis;
        Keys = keys;
        Width = basis.Width;
        First = Ends(backwards: false);
        Last = Ends(backwards: true);
    }

    public IReadOnlyList<OrderKey> Keys { get; }

    /// <summary>Cells in each row.</summary>
    public int Width { get; }

    /// <summary>The queries of the first window, to be run in turn until it is full.</summary>
    public IReadOnlyList<WindowQuery> First { get; }

    /// <summary>The queries of the last window, backwards.</summary>
    public IReadOnlyList<WindowQuery> Last { get; }

    /// <summary>The queries of the window behind a row whose order columns have these values.</summary>
    public IEnumerable<WindowQuery> Behind(IReadOnlyList<Constant> values)
    {
        for (var level = Keys.Count - 1; level >= 0; level--)
        {
            // Among rows with no value here nothing is behind another; the rows with none come last.
            if (values[level] is Constant.Empty) continue;
            var emptyMask = EmptyMask(values, level);
            yield return Query(new Shape(level, emptyMask, Range.Behind, false), values);
            if (Keys[level].MayBeEmpty) yield return Query(new Shape(level, emptyMask, Range.Empty, false), values);
        }
    }

    /// <summary>The queries of the window before such a row, backwards.</summary>
    public IEnumerable<WindowQuery> Before(IReadOnlyList<Constant> values)
    {
        for (var level = Keys.Count - 1; level >= 0; level--)
        {
            // Before a row with no value here are all that have one.
            var range = values[level] is Constant.Empty ? Range.Filled : Range.Behind;
            yield return Query(new Shape(level, EmptyMask(values, level), range, true), values);
        }
    }

    /// <summary>A text that differs between lists of other names or orders, so that a place in one is none in another.</summary>
    public string Signature(string page) =>
        page + "\n" + string.Join('\n', Keys.Select(key => $"{(key.Descending ? '-' : '+')}{key.Column.Name}"));

    private IReadOnlyList<WindowQuery> Ends(bool backwards)
    {
        if (!Keys[0].MayBeEmpty) return [Query(new Shape(0, 0, Range.All, backwards), [])];
        WindowQuery[] ends = [Query(new Shape(0, 0, Range.Filled, backwards), []), Query(new Shape(0, 0, Range.Empty, backwards), [])];
        return backwards ? [ends[1], ends[0]] : ends;
    }

    private static int EmptyMask(IReadOnlyList<Constant> values, int level)
    {
        var mask = 0;
        for (var i = 0; i < level; i++)
            if (values[i] is Constant.Empty) mask |= 1 << i;
        return mask;
    }

    private WindowQuery Query(Shape shape, IReadOnlyList<Constant> values) =>
        new(_prepared.GetOrAdd(shape, made => _source.Prepare(Compile(made))), values);

    private RecordQuery Compile(Shape shape)
    {
        var where = new List<Condition>(_basis.Where);
        for (var i = 0; i < shape.Level; i++)
            where.Add((shape.EmptyMask & (1 << i)) != 0 ? new Condition.IsEmpty(Keys[i].Column)
                : new Condition.Equal(Keys[i].Column, new Operand.Argument(i, FieldType.Any)));
        var key = Keys[shape.Level];
        if (shape.Range == Range.Behind)
            where.Add(new Condition.Behind(key.Column, new Operand.Argument(shape.Level, FieldType.Any), key.Descending != shape.Backwards));
        if (shape.Range == Range.Filled) where.Add(new Condition.IsFilled(key.Column));
        if (shape.Range == Range.Empty) where.Add(new Condition.IsEmpty(key.Column));

        var order = new List<Ordering>();
        for (var i = shape.Range == Range.Empty ? shape.Level + 1 : shape.Level; i < Keys.Count; i++)
        {
            var known = !Keys[i].MayBeEmpty || (i == shape.Level && shape.Range is Range.Behind or Range.Filled);
            order.Add(new Ordering.ByColumn(Keys[i].Column, Keys[i].Descending != shape.Backwards,
                known ? null : shape.Backwards ? EmptyPlace.First : EmptyPlace.Last));
        }

        return _basis with { Where = where, Order = order };
    }

    private enum Range
    {
        All,
        Filled,
        Empty,
        Behind,
    }

    /// <param name="Level">The order column that the range is over; those before it are equal.</param>
    /// <param name="EmptyMask">Which of those before it are equally empty.</param>
    /// <param name="Backwards">Over the order turned round.</param>
    private readonly record struct Shape(int Level, int EmptyMask, Range Range, bool Backwards);
}
