using System.Collections.Concurrent;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// A side list: the distinct values of a field, the number of records for each, and a link to the list of those records. It
/// counts what that list shows, whatever else the visitor has filtered by.
/// </summary>
/// <param name="group">Its query without conditions: the value first, then what its label needs.</param>
/// <param name="filters">The conditions of the target list.</param>
/// <param name="search">Fields that a search on that list searches; empty if it is another list.</param>
public sealed class SidePlan(
    string title,
    SiteRecord record,
    GroupQuery group,
    IReadOnlyList<Filter> filters,
    IReadOnlyList<ColumnRef> search,
    TextPlan label,
    KeyType key
)
{
    /// <summary>The most values to show.</summary>
    public const int MaxGroups = 200;

    private const int MaxVariants = 200;

    private readonly ConcurrentDictionary<string, IPreparedQuery> _prepared = [];

    /// <summary>The side list's title.</summary>
    public string Title => title;

    /// <summary>The label of a value.</summary>
    public TextPlan Label => label;

    /// <summary>How a value is written into an address.</summary>
    public KeyType Key => key;

    /// <summary>The field with the values, as the app file says it.</summary>
    public required string Field { get; init; }

    /// <summary>The target list of a value.</summary>
    public required PageHead Target { get; init; }

    /// <summary>The parameter of that list that the value fills.</summary>
    public required int Parameter { get; init; }

    /// <summary>For each of that list's parameters, the number of this page's parameter that fills it; -1 for none.</summary>
    public required IReadOnlyList<int> Carried { get; init; }

    /// <summary>Whether that list is this page.</summary>
    public required bool IsSelf { get; init; }

    /// <summary>The list of all values; null for none.</summary>
    public required PageHead? All { get; init; }

    /// <summary>The cell with the count.</summary>
    public int CountOrdinal => group.Columns.Count;

    /// <summary>The number of columns of its query: its own, and the count.</summary>
    public int Width => group.Columns.Count + 1;

    /// <summary>
    /// For years and months of moments: the app's zone. Sources do not know it, so each year or month is counted as a range of
    /// moments.
    /// </summary>
    public Conventions? Clocks { get; init; }

    /// <summary>Whether it lists months, those of the chosen year.</summary>
    public bool IsMonths => group.Part == GroupPart.Month;

    /// <summary>Whether the greatest value comes first.</summary>
    public bool Descending => group.Descending;

    /// <param name="values">The values of the target list's parameters, without the one that a value fills.</param>
    public WindowQuery For(ParameterValues values, IReadOnlyList<string> words) =>
        Prepared("", values, words, null, where => record.Source.Prepare(group with { Where = where }));

    /// <summary>The first or the last moment: one row with one cell, or no row if there is none.</summary>
    public WindowQuery Edge(ParameterValues values, IReadOnlyList<string> words, bool last) =>
        Prepared(last ? "last" : "first", values, words, null, where =>
            record.Source.Prepare(
                new RecordQuery(
                    group.Rows,
                    group.Joins,
                    [new Projection(group.By, FieldType.Timestamp)],
                    [.. where, new Condition.IsFilled(group.By)],
                    null,
                    [new Ordering.ByColumn(group.By, last, null)],
                    1
                )
            )
        );

    /// <summary>The number of stored moments in a range: one row with one cell.</summary>
    public WindowQuery Between(ParameterValues values, IReadOnlyList<string> words, DateTime from, DateTime to) =>
        Prepared("between", values, words, (from, to), where =>
            record.Source.Prepare(new CountQuery(group.Rows, group.Joins, where, int.MaxValue))
        );

    private WindowQuery Prepared(
        string kind,
        ParameterValues values,
        IReadOnlyList<string> words,
        (DateTime From, DateTime To)? range,
        Func<IReadOnlyList<Condition>, IPreparedQuery> prepare
    )
    {
        var arguments = new ArgumentList();
        var where = new List<Condition>();
        where.AddRange(filters.Select(filter => filter.Apply(values, arguments)).OfType<Condition>());
        if (search.Count > 0)
        {
            foreach (var word in words)
            {
                var operand = arguments.Add(new TypedValue.Text(word), FieldType.Text);
                where.Add(new Condition.Any([.. search.Select(column => new Condition.Contains(column, operand))]));
            }
        }

        if (range is var (from, to))
        {
            where.Add(
                new Condition.Compare(
                    group.By,
                    Comparison.AtLeast,
                    arguments.Add(new TypedValue.Moment(from), FieldType.Timestamp)
                )
            );
            where.Add(
                new Condition.Compare(group.By, Comparison.Less, arguments.Add(new TypedValue.Moment(to), FieldType.Timestamp))
            );
        }

        var shape =
            $"{kind} {(search.Count > 0 ? words.Count : 0)} "
            + $"{string.Join(',', values.Values.Select(v => v.Count))} "
            + $"{string.Concat(filters.Select(f => f.ShapeOf(values)))}";
        if (!_prepared.TryGetValue(shape, out var query))
        {
            if (_prepared.Count >= MaxVariants)
                _prepared.Clear();
            query = _prepared.GetOrAdd(shape, _ => prepare(where));
        }

        return new WindowQuery(query, arguments.Values);
    }
}
