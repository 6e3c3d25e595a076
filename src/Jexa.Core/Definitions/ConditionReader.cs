namespace Jexa.Core.Definitions;

/// <summary>
/// Reads conditions: <c>field: value</c>, <c>field: { from: …, to: … }</c>, and <c>any:</c> or <c>all:</c> over lists of them.
/// </summary>
internal static class ConditionReader
{
    private static readonly (string Key, ConditionKind Kind)[] Comparisons =
    [
        ("not", ConditionKind.Not),
        ("from", ConditionKind.From),
        ("to", ConditionKind.To),
        ("above", ConditionKind.Above),
        ("below", ConditionKind.Below),
        ("contains", ConditionKind.Contains),
        ("starts_with", ConditionKind.StartsWith),
    ];

    /// <summary>The conditions under a key; all must hold. Empty if the key is absent.</summary>
    public static IReadOnlyList<ConditionDefinition> Read(MappingReader owner, string key, FindingList findings) =>
        owner.Value(key) is { } node ? Group(node, $"“{key}”", findings) : [];

    private static List<ConditionDefinition> Group(Node node, string what, FindingList findings)
    {
        var conditions = new List<ConditionDefinition>();
        if (MappingReader.Of(node, what, findings) is not { } group)
            return conditions;
        foreach (var (name, value) in group.Named)
        {
            if (name.Value is "any" or "all")
                conditions.Add(Several(name, value, findings));
            else
                conditions.AddRange(Of(name, value, findings));
        }

        return conditions;
    }

    private static ConditionDefinition Several(Written name, Node value, FindingList findings)
    {
        var kind = name.Value == "any" ? ConditionKind.Any : ConditionKind.All;
        if (value is not SequenceNode list)
        {
            findings.Add(
                FindingCodes.WrongShape,
                value.At,
                $"“{name}” must be a list of conditions.",
                $"Write {name}: [{{ field: value }}, {{ other: value }}].",
                found: value.Shape,
                expected: "a list"
            );
            return new ConditionDefinition(name, kind, [], []);
        }

        // Each item is a mapping of conditions that must all hold.
        var parts = list
            .Items.Select(item => Group(item, $"a part of “{name}”", findings))
            .Select(group => group.Count == 1 ? group[0] : new ConditionDefinition(name, ConditionKind.All, [], group));
        return new ConditionDefinition(name, kind, [], [.. parts]);
    }

    private static IEnumerable<ConditionDefinition> Of(Written field, Node value, FindingList findings)
    {
        if (value is SequenceNode list)
            return
            [
                ConditionDefinition.Of(
                    field,
                    ConditionKind.OneOf,
                    [.. list.Items.Select(item => MappingReader.AsText(item, field.Value, findings)).OfType<Written>()]
                ),
            ];
        if (value is not MappingNode)
            return MappingReader.AsText(value, field.Value, findings) is { } equal
                ? [ConditionDefinition.Of(field, ConditionKind.Equal, equal)]
                : [];
        var reader = MappingReader.Of(value, $"the condition on “{field}”", findings)!;
        var conditions = new List<ConditionDefinition>();
        foreach (var (key, kind) in Comparisons)
            if (reader.Text(key) is { } operand)
                conditions.Add(ConditionDefinition.Of(field, kind, operand));
        if (reader.Texts("one_of") is { Count: > 0 } oneOf)
            conditions.Add(ConditionDefinition.Of(field, ConditionKind.OneOf, oneOf));
        if (reader.Text("is") is { } state)
            conditions.AddRange(State(field, state, findings));
        var saysMonth = reader.Has("month");
        conditions.AddRange(OfDate(field, reader, findings));
        reader.Finish();
        if (conditions.Count == 0 && !saysMonth)
            findings.Add(
                FindingCodes.WrongShape,
                reader.At,
                $"The condition on “{field}” says nothing.",
                "Write one of not, one_of, is, from, to, above, below, contains, starts_with, year.",
                expected: "a comparison"
            );
        return conditions;
    }

    /// <summary>A year, or a month of a year.</summary>
    private static IEnumerable<ConditionDefinition> OfDate(Written field, MappingReader reader, FindingList findings)
    {
        var (year, month) = (reader.Text("year"), reader.Text("month"));
        if (month is not null && year is null)
            findings.Add(
                FindingCodes.MissingKey,
                month.At,
                $"The condition on “{field}” says a month but no year.",
                "Add year: to it: a month of every year is no range that an index could serve.",
                expected: "year and month"
            );
        else if (month is not null)
            yield return ConditionDefinition.Of(field, ConditionKind.Month, month, year!);
        if (year is not null)
            yield return ConditionDefinition.Of(field, ConditionKind.Year, year);
    }

    private static IEnumerable<ConditionDefinition> State(Written field, Written state, FindingList findings)
    {
        if (state.Value is "empty" or "filled")
            return [ConditionDefinition.Of(field, state.Value == "empty" ? ConditionKind.Empty : ConditionKind.Filled)];
        if (state.Value.StartsWith('{'))
            return [ConditionDefinition.Of(field, ConditionKind.Is, state)];
        findings.AddUnknown(FindingCodes.UnknownWord, state, "state called", ["empty", "filled"]);
        return [];
    }
}
