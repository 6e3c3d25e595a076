using System.Collections.Concurrent;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>
/// A side list: the distinct values of a field with how many records have each, each leading to the list of those records.
/// Counted is what that list shows, whatever else the visitor has narrowed it by.
/// </summary>
/// <param name="group">Its query but for the conditions: the value first, then what its label needs.</param>
/// <param name="filters">The conditions of the list that it leads to.</param>
/// <param name="search">Fields that a search on that list looks in; empty where it is another list.</param>
public sealed class SidePlan(string title, SiteRecord record, GroupQuery group, IReadOnlyList<Filter> filters, IReadOnlyList<ColumnRef> search, TextPlan label, KeyType key)
{
    /// <summary>Values shown at most.</summary>
    public const int MaxGroups = 200;

    private const int MaxVariants = 200;

    private readonly ConcurrentDictionary<string, IPreparedQuery> _prepared = [];

    public string Title => title;

    /// <summary>What one value is called.</summary>
    public TextPlan Label => label;

    /// <summary>How a value is written into an address.</summary>
    public KeyType Key => key;

    /// <summary>The field whose values are listed, as the app file says it.</summary>
    public required string Field { get; init; }

    /// <summary>The list that a value leads to.</summary>
    public required PageHead Target { get; init; }

    /// <summary>The parameter of that list which the value fills.</summary>
    public required int Parameter { get; init; }

    /// <summary>For each of that list's parameters, the number of this page's that fills it; -1 for none.</summary>
    public required IReadOnlyList<int> Carried { get; init; }

    /// <summary>Whether that list is this very page.</summary>
    public required bool IsSelf { get; init; }

    /// <summary>The list of all values; null where there is none.</summary>
    public required PageHead? All { get; init; }

    /// <summary>Where the count stands in a row.</summary>
    public int CountOrdinal => group.Columns.Count;

    public int Width => group.Columns.Count + 1;

    /// <param name="values">Those of the list that it leads to, without the one that a value fills.</param>
    public WindowQuery For(ParameterValues values, IReadOnlyList<string> words)
    {
        var arguments = new ArgumentList();
        var where = new List<Condition>();
        where.AddRange(filters.Select(filter => filter.Apply(values, arguments)).OfType<Condition>());
        if (search.Count > 0)
        {
            foreach (var word in words)
            {
                var operand = arguments.Add(new Constant.Text(word), FieldType.Text);
                where.Add(new Condition.Any([.. search.Select(column => new Condition.Contains(column, operand))]));
            }
        }

        var shape = $"{(search.Count > 0 ? words.Count : 0)} {string.Join(',', values.Values.Select(v => v.Count))} {string.Concat(filters.Select(f => f.ShapeOf(values)))}";
        if (!_prepared.TryGetValue(shape, out var query))
        {
            if (_prepared.Count >= MaxVariants) _prepared.Clear();
            query = _prepared.GetOrAdd(shape, _ => record.Source.Prepare(group with { Where = where }));
        }

        return new WindowQuery(query, arguments.Values);
    }
}
