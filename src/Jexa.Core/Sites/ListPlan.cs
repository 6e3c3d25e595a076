using System.Collections.Concurrent;
using System.Globalization;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// The queries of a list. Each combination of filters, order and number of words is compiled when it is first asked for, and
/// kept.
/// </summary>
/// <param name="columns">The columns of a row of the page.</param>
/// <param name="joins">The joins that they are read by.</param>
/// <param name="rows">Where the rows are read from. Parameters of a query are filled like filters.</param>
/// <param name="orders">The columns that the list can be ordered by, including its own order and its key.</param>
/// <param name="ownOrder">The order if the visitor asks for none.</param>
/// <param name="key">The record's key among the orders. It comes last in every order.</param>
public sealed class ListPlan(
    SiteRecord record,
    string page,
    IReadOnlyList<Projection> columns,
    IReadOnlyList<Join> joins,
    Func<ParameterValues, ArgumentList, RecordRows> rows,
    IReadOnlyList<Filter> filters,
    IReadOnlyList<ColumnRef> search,
    IReadOnlyList<OrderChoice> orders,
    IReadOnlyList<OrderStep> ownOrder,
    IReadOnlyList<int> key,
    int countLimit
)
{
    /// <summary>The most words of a search; more are refused.</summary>
    public const int MaxWords = 8;

    private const int MaxVariants = 500;

    private readonly ConcurrentDictionary<string, (ListWindows Windows, IPreparedQuery Count)> _variants = [];

    /// <summary>The records that are listed.</summary>
    public SiteRecord Record => record;

    /// <summary>The orders that a visitor can choose.</summary>
    public IReadOnlyList<OrderChoice> Orders => orders;

    /// <summary>The order if the visitor chooses none.</summary>
    public IReadOnlyList<OrderStep> OwnOrder => ownOrder;

    /// <summary>The joins that the columns and filters need.</summary>
    public IReadOnlyList<Join> Joins => joins;

    /// <summary>Whether the list has a search field.</summary>
    public bool CanSearch => search.Count > 0;

    /// <summary>Counting stops at this number.</summary>
    public int CountLimit => countLimit;

    /// <summary>The query of one window of the list.</summary>
    public ListQuery For(ListRequest request)
    {
        var arguments = new ArgumentList();
        var origin = rows(request.Values, arguments);
        var where = Where(request, arguments);
        var shape = ShapeOf(request);
        if (!_variants.TryGetValue(shape, out var variant))
        {
            if (_variants.Count >= MaxVariants)
                _variants.Clear();
            variant = _variants.GetOrAdd(shape, _ => Compile(request, origin, where, arguments.Values.Count));
        }

        return new ListQuery(
            variant.Windows,
            variant.Count,
            arguments.Values,
            request.Size,
            Signature(variant.Windows, arguments)
        );
    }

    private List<Condition> Where(ListRequest request, ArgumentList arguments)
    {
        var where = new List<Condition>();
        where.AddRange(filters.Select(filter => filter.Apply(request.Values, arguments)).OfType<Condition>());
        foreach (var word in request.Words)
        {
            var operand = arguments.Add(new TypedValue.Text(word), FieldType.Text);
            where.Add(new Condition.Any([.. search.Select(column => new Condition.Contains(column, operand))]));
        }

        return where;
    }

    /// <summary>Everything in a request that changes the text of its queries.</summary>
    private string ShapeOf(ListRequest request)
    {
        if (request.Values.Values.Count == 0 && request.Words.Count == 0 && request.Order is null)
            return request.Size.ToString(CultureInfo.InvariantCulture);
        var counts = string.Join(',', request.Values.Values.Select(values => values.Count));
        return $"{request.Size} {request.Words.Count} "
            + $"{request.Order?.Choice}{(request.Order?.Descending == true ? "-" : "")} {counts} "
            + $"{string.Concat(filters.Select(f => f.ShapeOf(request.Values)))}";
    }

    private (ListWindows Windows, IPreparedQuery Count) Compile(
        ListRequest request,
        RecordRows origin,
        IReadOnlyList<Condition> where,
        int arguments
    )
    {
        var load = columns.ToList();
        var keys = Keys(request.Order, load);
        var query = new RecordQuery(origin, joins, load, where, null, [], request.Size + 1);
        return (
            new ListWindows(record.Source, query, keys, arguments),
            record.Source.Prepare(new CountQuery(origin, joins, where, countLimit + 1))
        );
    }

    private List<OrderKey> Keys(OrderStep? asked, List<Projection> load)
    {
        var keys = new List<OrderKey>();
        foreach (var step in asked is { } only ? [only] : ownOrder)
            Add(step.Choice, step.Descending);

        // The key comes last, in the direction of the last column, so that one index can serve the whole order.
        var last = keys.Count > 0 && keys[^1].Descending;
        foreach (var choice in key)
            Add(choice, last);
        return keys;

        void Add(int choice, bool descending)
        {
            var order = orders[choice];
            if (keys.Exists(known => known.Column == order.Column))
                return;
            var projection = new Projection(order.Column, order.Stored);
            var ordinal = load.IndexOf(projection);
            if (ordinal < 0)
            {
                ordinal = load.Count;
                load.Add(projection);
            }

            keys.Add(new OrderKey(order.Column, descending, order.MayBeEmpty, ordinal));
        }
    }

    private string Signature(ListWindows windows, ArgumentList arguments) =>
        ArgumentKey.Of(windows.Keys.Select(k => $"{(k.Descending ? '-' : '+')}{k.Column.Table}.{k.Column.Name}").Prepend(page))
        + (arguments.Values.Count == 0 ? "" : $"\n{ArgumentKey.Of(arguments.Values)}");
}
