using Jexa.Core.Definitions;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Finds conditions on one column that no row can meet together, as far as values in the app file tell.</summary>
internal static class Contradiction
{
    /// <summary>Reports a page whose conditions, with those of its record, hold for no row.</summary>
    /// <param name="where">The page's conditions that do not depend on its address.</param>
    public static void Check(FindingList findings, PageHead head, IEnumerable<Condition> where)
    {
        var all = where.SelectMany(Parts).ToList();
        if (all.Count == 0)
            return;
        var hidden = head.Record.Visible.SelectMany(Parts).Select(one => one.Column).ToHashSet();
        foreach (var column in all.Concat(head.Record.Visible.SelectMany(Parts)).ToLookup(one => one.Column))
        {
            var least = column.Select(one => one.Allowed).OfType<IReadOnlyList<TypedValue>>().ToList();
            if (
                least.Count == 0
                || least[0]
                    .Any(value =>
                        least.TrueForAll(values => values.Contains(value))
                        && column.All(one => one.Refused is null || !one.Refused.Equals(value))
                    )
            )
                continue;
            findings.Add(
                FindingCodes.ShowsNothing,
                head.Definition.Name.At,
                $"The page “{head.Name}” can show no {head.Record.One}: what it asks of {column.Key.Name} "
                    + (hidden.Contains(column.Key) ? "is hidden by visible: of the record." : "cannot hold at once."),
                $"Correct where: of the page{(hidden.Contains(column.Key) ? ", or visible: of the record" : "")}.",
                found: column.Key.Name
            );
        }
    }

    private static IEnumerable<Part> Parts(Condition condition) =>
        condition switch
        {
            Condition.Equal { Value: Operand.Written only } one => [new Part(one.Column, [only.Value], null)],
            Condition.Differs { Value: Operand.Written only } one => [new Part(one.Column, null, only.Value)],
            Condition.OneOf one when one.Values.All(value => value is Operand.Written) =>
            [
                new Part(one.Column, [.. one.Values.OfType<Operand.Written>().Select(value => value.Value)], null),
            ],
            Condition.All all => all.Conditions.SelectMany(Parts),
            _ => [],
        };

    /// <param name="Allowed">The only values that the column can have; null for any.</param>
    /// <param name="Refused">A value that it cannot have; null for none.</param>
    private sealed record Part(ColumnRef Column, IReadOnlyList<TypedValue>? Allowed, TypedValue? Refused);
}
