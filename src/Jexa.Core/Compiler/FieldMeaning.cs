using Jexa.Core.Definitions;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>
/// What the values of fields mean: of which record they are the key, or to which record they refer. Two fields of the same type
/// can still mean different things: the number of a region is not that of a light.
/// </summary>
internal sealed class FieldMeaning(RecordGraph graph, FindingList findings)
{
    /// <summary>The longest chain of foreign keys to follow.</summary>
    private const int MostSteps = 8;

    /// <summary>A column that identifies the rows of its table, alone or together with others.</summary>
    private readonly record struct KeyColumn(string Table, string Column, string Of);

    /// <param name="Keys">The keys that the value can be; empty for a plain value.</param>
    /// <param name="IsKnown">False for columns of queries and views, whose meaning is not declared.</param>
    /// <param name="IsWhole">False if it refers to a table without a record kind: that table may refer to others.</param>
    /// <param name="IsPart">Whether it is a key only together with others.</param>
    private sealed record Meaning(
        IReadOnlyCollection<KeyColumn> Keys,
        bool IsKnown = true,
        bool IsWhole = true,
        bool IsPart = false
    )
    {
        public static Meaning Unknown { get; } = new([], IsKnown: false);
    }

    /// <summary>Reports a field that is joined with one of another meaning.</summary>
    /// <param name="joins">The beginning of the message: what joins the two.</param>
    public void Check(Place at, string joins, SiteField from, SiteRecord fromRecord, SiteField to, SiteRecord toRecord)
    {
        if (fromRecord.Source != toRecord.Source || (from == to && fromRecord == toRecord))
            return;
        var (given, needed) = (Of(fromRecord, from), Of(toRecord, to));
        if (!given.IsKnown || !needed.IsKnown || (given.Keys.Count == 0 && needed.Keys.Count == 0))
            return;
        if (given.Keys.Count > 0 && needed.Keys.Count > 0)
        {
            if (
                !given.IsWhole
                || !needed.IsWhole
                || given.Keys.Any(key => needed.Keys.Any(other => (key.Table, key.Column) == (other.Table, other.Column)))
            )
                return;
            findings.Add(
                FindingCodes.OtherMeaning,
                at,
                $"{joins} {from.Name}, which is {Shown(given)}; {to.Name} of “{toRecord.Name}” is {Shown(needed)}.",
                $"Use a field that holds {Shown(needed)}.",
                found: $"{from.Name}: {Shown(given)}",
                expected: Shown(needed)
            );
            return;
        }

        var key = given.Keys.Count > 0 ? given : needed;
        if (key.IsPart)
            return;
        var (plain, of) = given.Keys.Count > 0 ? (to, toRecord) : (from, fromRecord);
        var target = graph.RecordOver(of, key.Keys.First().Table)?.Name;
        findings.Add(
            FindingCodes.PlainMeaning,
            at,
            given.Keys.Count > 0
                ? $"{joins} {from.Name}, which is {Shown(given)}; {to.Name} of “{toRecord.Name}” is a plain {Word(to)}."
                : $"{joins} {from.Name}, which is a plain {Word(from)}; {to.Name} of “{toRecord.Name}” is {Shown(needed)}.",
            target is null
                ? $"Use a field that holds {Shown(key)}."
                : $"Use a field that holds {Shown(key)}; if {plain.Name} does, say so in the record “{of.Name}”: "
                    + $"fields: {{ {plain.Name}: {{ refers_to: {target} }} }}",
            found: $"{plain.Name}: a plain {Word(plain)}",
            expected: Shown(key)
        );
    }

    private static string Word(SiteField field) =>
        field.Type is FieldType.Integer or FieldType.Decimal or FieldType.Real ? "number" : field.Type.Word();

    private static string Shown(Meaning meaning) =>
        meaning.Keys.First() is var key
            ? $"{(key.Of.Length > 0 && "aeiou".Contains(char.ToLowerInvariant(key.Of[0])) ? "an" : "a")} {key.Of}’s {key.Column}"
            : "";

    private Meaning Of(SiteRecord record, SiteField field)
    {
        var column = field.Column.Name;
        var keys = new List<KeyColumn>();
        var isWhole = Follow(record, column, keys, 0);
        if (keys.Count > 0)
            return new Meaning(keys, IsWhole: isWhole);
        if (record.Query is not null || record.Table.Kind == TableKind.View)
            return Meaning.Unknown;
        if (record.Key.Contains(field))
            return new Meaning([Own(record, column)], IsPart: record.Key.Count > 1);
        return record.Table.IsUnique([column]) ? new Meaning([Own(record, column)]) : new Meaning([]);
    }

    /// <summary>Adds the columns at the ends of a column's foreign keys. False if one leads out of the app's records.</summary>
    private bool Follow(SiteRecord record, string column, List<KeyColumn> keys, int steps)
    {
        var isWhole = true;
        foreach (var reference in record.References.Where(reference => reference.Columns.Contains(column)))
        {
            var far = reference.References[reference.Columns.ToList().IndexOf(column)];
            var other = graph.RecordOver(record, reference.Table);
            if (other is null || steps == MostSteps)
            {
                keys.Add(new KeyColumn(reference.Table, far, reference.Table));
                isWhole = false;
                continue;
            }

            var before = keys.Count;
            isWhole &= (other.Table.Name == record.Table.Name && far == column) || Follow(other, far, keys, steps + 1);
            if (keys.Count == before)
                keys.Add(Own(other, far));
        }

        return isWhole;
    }

    private static KeyColumn Own(SiteRecord record, string column) => new(record.Table.Name, column, record.One);
}
