using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the orders of lists and blocks: those of the app file, and those that visitors can choose.</summary>
internal sealed class OrderCompiler(RecordGraph graph, FindingList findings)
{
    private const int MaxOrder = 16;

    /// <summary>The order of a page or block.</summary>
    public List<OrderStep> Compile(
        IReadOnlyList<OrderDefinition> definitions,
        SiteRecord record,
        Projections load,
        List<OrderChoice> orders
    )
    {
        var steps = new List<OrderStep>();
        FieldPath? first = null;
        foreach (var order in definitions.Take(MaxOrder))
            if (graph.Find(order.Field, record, "an order", findings) is { } path)
            {
                first ??= path;
                steps.Add(new OrderStep(Choice(path, load, orders), order.Descending));
            }

        if (definitions.Count > MaxOrder)
            findings.Add(
                FindingCodes.WrongShape,
                definitions[MaxOrder].Field.At,
                $"The list is ordered by more than {MaxOrder} fields.",
                "Remove those that no longer decide.",
                expected: $"at most {MaxOrder} fields"
            );
        if (definitions.Count > 0 && steps.Count > 0 && record.Table.IsLarge && !IsServed(record, orders[steps[0].Choice]))
            findings.Add(
                FindingCodes.SlowOrder,
                definitions[0].Field.At,
                $"No index of {record.Table.Name} begins with {definitions[0].Field}, and it has about "
                    + $"{record.Table.AboutRows:N0} rows.",
                first is { IsOwn: true }
                    ? IndexCheck.Remedy(record.Table.Name, [first.Field.Column.Name])
                    : "Order by a field of its own that an index begins with.",
                found: definitions[0].Field.Value,
                expected: "a field of its own that an index begins with"
            );
        return steps;
    }

    /// <summary>The number of a column among the list's orders. It is added if it is not there.</summary>
    public static int Choice(FieldPath path, Projections load, List<OrderChoice> orders)
    {
        var column = load.Ref(path);
        var known = orders.FindIndex(order => order.Column == column);
        if (known >= 0)
            return known;

        // Places in a list are made of stored values, which these types need not be converted for.
        var stored = path.Field.Type is FieldType.Integer or FieldType.Text or FieldType.Real or FieldType.Bytes
            ? path.Field.Type
            : FieldType.Any;

        // If visitors order by a foreign key, they order by its label. The list's own order by it has no name.
        var name = orders.Exists(order => order.Name == path.Name) ? "" : path.Name;
        orders.Add(
            new OrderChoice(
                name,
                path.Field.Label ?? Labels.OfField(path.Field.Name),
                column,
                stored,
                path.MayBeEmpty || column.Table > 0
            )
        );
        return orders.Count - 1;
    }

    /// <summary>A foreign key is shown as a label. An order by its key would look like no order.</summary>
    private int Orderable(FieldPath path, Projections load, List<OrderChoice> orders)
    {
        if (path.Field.Type == FieldType.Bytes || path.Field.Style.Form == FieldForm.Picture)
            return -1;
        var step = graph
            .Steps(path.Owner(load.Record))
            .FirstOrDefault(step => step.Key.Columns is [var only] && only == path.Field.Column.Name);
        if (step is null)
            return Choice(path, load, orders);
        if (
            step.Other.Label.Where(hole => hole.Field is not null).ToList() is not [{ Field: { } label }]
            || step.Other.Find(label.Value) is not { } field
        )
            return -1;
        var named = new FieldPath(path.Name, [.. path.Steps, step], field);
        return Choice(named, load, orders);
    }

    private static bool IsServed(SiteRecord record, OrderChoice order) =>
        order.Column.Table == 0 && record.Table.IsIndexed([order.Column.Name]);

    /// <summary>
    /// The name by which visitors can order by a column; null if they cannot. Ordering a large table without an index would take
    /// seconds for each visitor.
    /// </summary>
    public string? Name(FieldPath path, Projections load, List<OrderChoice> orders)
    {
        var table = load.Record.Table;
        var isOffered = !table.IsLarge || (path.IsOwn && table.IsIndexed([path.Field.Column.Name]));
        return isOffered && Orderable(path, load, orders) >= 0 ? path.Name : null;
    }
}
