using System.Collections.Concurrent;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// Keyset paging: the windows of a list as range queries that an index can serve, without an OR. The rows after (a, b, key) are,
/// in order: those equal in a and b with a greater key; those equal in a with a greater b, then those without b; those with a
/// greater a, then those without a. Each of these is one query; reading stops when the window is full. Backwards, the order is
/// reversed, and the rows come last one first.
/// </summary>
public sealed class ListWindows
{
    private readonly ISource _source;
    private readonly RecordQuery _basis;
    private readonly int _offset;
    private readonly ConcurrentDictionary<Shape, IPreparedQuery> _prepared = [];
    private readonly ConcurrentDictionary<(NeighbourPlan Plan, int EmptyMask), IPreparedQuery> _around = [];
    private IPreparedQuery? _place;

    /// <param name="basis">The list's query without order and place.</param>
    /// <param name="keys">The order, ending with the record's key.</param>
    /// <param name="offset">The number of arguments of the basis. Those of a place come after them.</param>
    public ListWindows(ISource source, RecordQuery basis, IReadOnlyList<OrderKey> keys, int offset)
    {
        _source = source;
        _basis = basis;
        _offset = offset;
        Keys = keys;
        Width = basis.Width;
    }

    /// <summary>The columns of the order, the last of which tell each row apart.</summary>
    public IReadOnlyList<OrderKey> Keys { get; }

    /// <summary>The number of cells in each row.</summary>
    public int Width { get; }

    /// <summary>The queries of the first window or, backwards, of the last. They are run in turn until it is full.</summary>
    /// <param name="arguments">The arguments of the basis.</param>
    public IEnumerable<WindowQuery> End(IReadOnlyList<TypedValue> arguments, bool backwards) =>
        EndShapes(backwards).Select(shape => new WindowQuery(Prepared(shape), arguments));

    /// <summary>The queries of the window after a row with these values in its order columns.</summary>
    public IEnumerable<WindowQuery> Behind(IReadOnlyList<TypedValue> arguments, IReadOnlyList<TypedValue> values)
    {
        IReadOnlyList<TypedValue> all = [.. arguments, .. values];
        return BehindShapes(MaskOf(values)).Select(shape => new WindowQuery(Prepared(shape), all));
    }

    /// <summary>The queries of the window before such a row, backwards.</summary>
    public IEnumerable<WindowQuery> Before(IReadOnlyList<TypedValue> arguments, IReadOnlyList<TypedValue> values)
    {
        IReadOnlyList<TypedValue> all = [.. arguments, .. values];
        return BeforeShapes(MaskOf(values)).Select(shape => new WindowQuery(Prepared(shape), all));
    }

    /// <summary>One query for the rows directly after such a row (search 0) and directly before it (search 1).</summary>
    /// <param name="plan">Says which columns are read.</param>
    public WindowQuery Around(IReadOnlyList<TypedValue> arguments, IReadOnlyList<TypedValue> values, NeighbourPlan plan)
    {
        var mask = MaskOf(values);
        if (!_around.TryGetValue((plan, mask), out var around))
            around = _around.GetOrAdd((plan, mask), key => _source.Prepare(
                    new CombinedQuery([
                        [.. BehindShapes(key.EmptyMask).Select(Read)],
                        [.. BeforeShapes(key.EmptyMask).Select(Read)],
                    ])
                ));
        return new WindowQuery(around, arguments.Count == 0 ? values : [.. arguments, .. values]);

        RecordQuery Read(Shape shape) => plan.Read(Compile(shape), Keys);
    }

    /// <summary>The query for the order columns of one row by its key: its place in the list.</summary>
    public WindowQuery PlaceOf(
        IReadOnlyList<TypedValue> arguments,
        IReadOnlyList<ColumnRef> columns,
        IReadOnlyList<(TypedValue Value, FieldType Type)> key
    )
    {
        _place ??= _source.Prepare(
            _basis with
            {
                Columns = [.. Keys.Select(order => _basis.Columns[order.Ordinal])],
                Where =
                [
                    .. columns.Select((column, i) => new Condition.Equal(column, new Operand.Argument(_offset + i, key[i].Type))),
                ],
                Limit = 1,
            }
        );
        return new WindowQuery(_place, [.. arguments, .. key.Select(part => part.Value)]);
    }

    private IEnumerable<Shape> EndShapes(bool backwards)
    {
        if (!Keys[0].MayBeEmpty)
            return [new Shape(0, 0, Range.All, backwards)];
        Shape[] ends = [new Shape(0, 0, Range.Filled, backwards), new Shape(0, 0, Range.Empty, backwards)];
        return backwards ? [ends[1], ends[0]] : ends;
    }

    private IEnumerable<Shape> BehindShapes(int mask)
    {
        for (var level = Keys.Count - 1; level >= 0; level--)
        {
            // After a row with an empty value here, no other value can come: empty ones come last.
            if ((mask & (1 << level)) != 0)
                continue;
            yield return new Shape(level, Below(mask, level), Range.Behind, false);
            if (Keys[level].MayBeEmpty)
                yield return new Shape(level, Below(mask, level), Range.Empty, false);
        }
    }

    private IEnumerable<Shape> BeforeShapes(int mask)
    {
        for (var level = Keys.Count - 1; level >= 0; level--)
        {
            // Before a row with an empty value here come all rows with a value.
            var range = (mask & (1 << level)) != 0 ? Range.Filled : Range.Behind;
            yield return new Shape(level, Below(mask, level), range, true);
        }
    }

    private static int Below(int mask, int level) => mask & ((1 << level) - 1);

    private static int MaskOf(IReadOnlyList<TypedValue> values)
    {
        var mask = 0;
        for (var i = 0; i < values.Count; i++)
            if (values[i] is TypedValue.Empty)
                mask |= 1 << i;
        return mask;
    }

    private IPreparedQuery Prepared(Shape shape) => _prepared.GetOrAdd(shape, made => _source.Prepare(Compile(made)));

    private RecordQuery Compile(Shape shape)
    {
        var where = new List<Condition>(_basis.Where);
        for (var i = 0; i < shape.Level; i++)
            where.Add(
                (shape.EmptyMask & (1 << i)) != 0
                    ? new Condition.IsEmpty(Keys[i].Column)
                    : new Condition.Equal(Keys[i].Column, new Operand.Argument(_offset + i, FieldType.Any))
            );
        var key = Keys[shape.Level];
        if (shape.Range == Range.Behind)
            where.Add(
                new Condition.Compare(
                    key.Column,
                    key.Descending != shape.Backwards ? Comparison.Less : Comparison.Greater,
                    new Operand.Argument(_offset + shape.Level, FieldType.Any)
                )
            );
        if (shape.Range == Range.Filled)
            where.Add(new Condition.IsFilled(key.Column));
        if (shape.Range == Range.Empty)
            where.Add(new Condition.IsEmpty(key.Column));

        var order = new List<Ordering>();
        for (var i = shape.Range == Range.Empty ? shape.Level + 1 : shape.Level; i < Keys.Count; i++)
        {
            var known = !Keys[i].MayBeEmpty || (i == shape.Level && shape.Range is Range.Behind or Range.Filled);
            order.Add(
                new Ordering.ByColumn(
                    Keys[i].Column,
                    Keys[i].Descending != shape.Backwards,
                    known ? null
                        : shape.Backwards ? EmptyPlace.First
                        : EmptyPlace.Last
                )
            );
        }

        return _basis with
        {
            Where = where,
            Order = order,
        };
    }

    private enum Range
    {
        All,
        Filled,
        Empty,
        Behind,
    }

    /// <param name="Level">The order column of the range. The columns before it are equal.</param>
    /// <param name="EmptyMask">Which of the columns before it are empty.</param>
    /// <param name="Backwards">Whether the order is reversed.</param>
    private readonly record struct Shape(int Level, int EmptyMask, Range Range, bool Backwards);
}
