using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles conditions: checks fields, types and values, and makes filters. On a page with parameters, <c>"{name}"</c> stands for
/// one.
/// </summary>
internal sealed class FilterCompiler(RecordGraph graph, Conventions conventions, FindingList findings)
{
    /// <summary>The parameters in conditions, each with the field that it is compared with.</summary>
    public IEnumerable<ParameterUse> Uses(IEnumerable<ConditionDefinition> conditions, SiteRecord record, bool isTop = true)
    {
        foreach (var condition in conditions)
        {
            if (condition.Kind is ConditionKind.All or ConditionKind.Any)
            {
                foreach (var use in Uses(condition.Parts, record, isTop && condition.Kind == ConditionKind.All))
                    yield return use;
                continue;
            }

            for (var i = 0; i < condition.Values.Count; i++)
            {
                if (NameOf(condition.Values[i]) is not { } name || Find(condition.Field, record) is not { } path)
                    continue;
                var kind = condition.Kind == ConditionKind.Month && i == 1 ? ConditionKind.Year : condition.Kind;
                if (KeyOf(kind, path, condition.Values[i]) is { } key)
                    yield return new ParameterUse(
                        name,
                        path,
                        key,
                        kind,
                        isTop && kind == ConditionKind.Equal,
                        condition.Values[i]
                    );
            }
        }
    }

    /// <summary>The filters of a page; all must hold.</summary>
    /// <param name="numberOf">
    /// The number of a parameter; -1 if the page has none of this name, which is reported elsewhere.
    /// </param>
    public IReadOnlyList<Filter> Compile(
        IEnumerable<ConditionDefinition> conditions,
        Projections load,
        Func<string, int> numberOf
    ) => [.. conditions.Select(condition => Compile(condition, load, numberOf)).OfType<Filter>()];

    /// <summary>Conditions without parameters, on a record's own fields.</summary>
    /// <param name="onLoaded">
    /// Whether they are checked on loaded rows, which are traced: secret fields are then not allowed.
    /// </param>
    public static IReadOnlyList<Condition> Static(
        IEnumerable<ConditionDefinition> conditions,
        IReadOnlyList<SiteField> fields,
        Conventions conventions,
        bool onLoaded,
        FindingList findings
    )
    {
        var compiler = new FilterCompiler(new RecordGraph([]), conventions, findings);
        return Filter.Standing(
            conditions
                .Select(condition =>
                    compiler.Compile(
                        condition,
                        name => Own(name, fields, onLoaded, findings),
                        path => ColumnRef.Own(path.Field.Column.Name),
                        null
                    )
                )
                .OfType<Filter>()
        );
    }

    /// <summary>The names of all parameters in conditions, valid or not.</summary>
    public static IEnumerable<string> Names(IEnumerable<ConditionDefinition> conditions) =>
        conditions.SelectMany(condition => condition.Values.Select(NameOf).OfType<string>().Concat(Names(condition.Parts)));

    /// <summary>The name in <c>{name}</c>; null for other texts.</summary>
    public static string? NameOf(Written value) => value.Value is ['{', .. var name, '}'] ? name.Trim() : null;

    private static FieldPath? Own(Written name, IReadOnlyList<SiteField> fields, bool onLoaded, FindingList findings)
    {
        if (onLoaded)
            return FieldUse.Find(name, fields, "part of a condition on what is shown", findings) is { } open
                ? FieldPath.Own(open)
                : null;
        if (fields.FirstOrDefault(field => field.Name == name.Value) is { } field)
            return FieldPath.Own(field);
        findings.AddUnknown(FindingCodes.UnknownField, name, "field called", fields.Select(f => f.Name));
        return null;
    }

    private FieldPath? Find(Written name, SiteRecord record) => graph.Find(name, record, "part of a filter", findings);

    /// <summary>Reports conditions that name parameters. On a record's page all parameters are its ID.</summary>
    public void RequireValues(IReadOnlyList<ConditionDefinition> where, SiteRecord record)
    {
        foreach (var use in Uses(where, record))
            findings.Add(
                FindingCodes.UnboundParameter,
                use.At.At,
                $"“{use.At}” stands for a parameter; on a record's page all parameters are its ID.",
                "Write a value, or use “by”.",
                found: use.At.Value,
                expected: "a value"
            );
    }

    private Filter? Compile(ConditionDefinition condition, Projections load, Func<string, int> numberOf) =>
        Compile(condition, name => Find(name, load.Record), load.Ref, numberOf);

    private Filter? Compile(
        ConditionDefinition condition,
        Func<Written, FieldPath?> find,
        Func<FieldPath, ColumnRef> refer,
        Func<string, int>? numberOf
    )
    {
        if (condition.Kind is ConditionKind.All or ConditionKind.Any)
            return new Filter.Group(
                condition.Kind == ConditionKind.Any,
                [.. condition.Parts.Select(part => Compile(part, find, refer, numberOf)).OfType<Filter>()]
            );
        if (find(condition.Field) is not { } path)
            return null;
        var column = refer(path);
        switch (condition.Kind)
        {
            case ConditionKind.Empty:
                return new Filter.Fixed(new Condition.IsEmpty(column));
            case ConditionKind.Filled:
                return new Filter.Fixed(new Condition.IsFilled(column));
            case ConditionKind.OneOf when condition.Values is not [var only] || NameOf(only) is null:
                var values = condition.Values.Select(value => Value(value, path.Field)).OfType<Operand>().ToList();
                return values.Count == condition.Values.Count ? new Filter.Fixed(new Condition.OneOf(column, values)) : null;
        }

        var numbers = condition.Values.Select(value => Number(value, numberOf)).OfType<int>().ToList();
        if (numbers.Count < condition.Values.Count)
            return null;
        return IsOfDays(condition.Kind, path.Field.Type)
            ? Days(condition, path, column, numbers)
            : Single(condition, path, column, numbers[0]);
    }

    /// <summary>
    /// The number of the parameter that a value stands for; -1 if it stands for itself. Null, and reported, if there is no such
    /// parameter.
    /// </summary>
    private int? Number(Written value, Func<string, int>? numberOf)
    {
        if (NameOf(value) is not { } name)
            return -1;
        if (numberOf is not null)
            return numberOf(name) is >= 0 and var number ? number : null;
        findings.Add(
            FindingCodes.UnboundParameter,
            value.At,
            $"“{value}” stands for a parameter, and this condition belongs to no page.",
            "Write a value.",
            found: value.Value,
            expected: "a value"
        );
        return null;
    }

    private Filter? Single(ConditionDefinition condition, FieldPath path, ColumnRef column, int parameter)
    {
        if (!Suits(condition.Kind, path, condition.Values[0]))
            return null;
        if (parameter >= 0 && condition.Kind == ConditionKind.OneOf)
            return new Filter.OneOf(parameter, column, path.Field.Type);
        if (parameter >= 0 && condition.Kind == ConditionKind.Is)
            return new Filter.Emptiness(parameter, column);
        Condition Test(Operand operand) =>
            condition.Kind switch
            {
                ConditionKind.Equal => new Condition.Equal(column, operand),
                ConditionKind.Not => new Condition.Differs(column, operand),
                ConditionKind.From => new Condition.Compare(column, Comparison.AtLeast, operand),
                ConditionKind.To => new Condition.Compare(column, Comparison.AtMost, operand),
                ConditionKind.Above => new Condition.Compare(column, Comparison.Greater, operand),
                ConditionKind.Below => new Condition.Compare(column, Comparison.Less, operand),
                ConditionKind.Contains => new Condition.Contains(column, operand),
                _ => new Condition.StartsWith(column, operand),
            };
        if (parameter >= 0)
            return new Filter.ByParameter(parameter, Test, path.Field.Type);
        return Value(condition.Values[0], path.Field) is { } value ? new Filter.Fixed(Test(value)) : null;
    }

    /// <summary>A range of whole days: of a year, of a month, from or to a day.</summary>
    private Filter.Days? Days(ConditionDefinition condition, FieldPath path, ColumnRef column, List<int> parameters)
    {
        if (!Suits(condition.Kind, path, condition.Values[0]))
            return null;
        var given = new List<TypedValue?>();
        for (var i = 0; i < parameters.Count; i++)
        {
            if (parameters[i] >= 0)
            {
                given.Add(null);
                continue;
            }

            var kind = condition.Kind == ConditionKind.Month && i == 1 ? ConditionKind.Year : condition.Kind;
            var key = KeyOf(kind, path, condition.Values[i]);
            if (key?.Read(condition.Values[i].Value) is not { Fault: KeyFault.None, Value: { } value })
            {
                findings.Add(
                    FindingCodes.ValueOfOtherType,
                    condition.Values[i].At,
                    $"“{condition.Values[i]}” is not {key?.Looks ?? "a day"}.",
                    "Write one, or a parameter in braces and quotes.",
                    found: condition.Values[i].Value,
                    expected: key?.Looks ?? "a day"
                );
                return null;
            }

            given.Add(value);
        }

        return new Filter.Days(column, path.Field.Type, conventions, values =>
        {
            var said = new TypedValue[parameters.Count];
            for (var i = 0; i < said.Length; i++)
            {
                if (given[i] is null && !values.Has(parameters[i]))
                    return null;
                said[i] = given[i] ?? values.One(parameters[i]);
            }

            return RangeOf(condition.Kind, said);
        });
    }

    private static (DateOnly? From, DateOnly? To) RangeOf(ConditionKind kind, TypedValue[] said)
    {
        if (kind == ConditionKind.Year)
        {
            var year = (int)((TypedValue.Whole)said[0]).Value;
            return (new DateOnly(year, 1, 1), new DateOnly(year + 1, 1, 1));
        }

        if (kind == ConditionKind.Month)
        {
            var first = new DateOnly((int)((TypedValue.Whole)said[1]).Value, (int)((TypedValue.Whole)said[0]).Value, 1);
            return (first, first.AddMonths(1));
        }

        var day = ((TypedValue.Date)said[0]).Value;
        DateOnly? next = day == DateOnly.MaxValue ? null : day.AddDays(1);
        return kind switch
        {
            ConditionKind.From => (day, null),
            ConditionKind.To => (null, next),
            ConditionKind.Above => next is null ? (day, day) : (next, null),
            ConditionKind.Below => (null, day),
            _ => (day, next),
        };
    }

    /// <summary>Whether a condition is a range of days. For moments every comparison is, since visitors name days.</summary>
    private static bool IsOfDays(ConditionKind kind, FieldType type) =>
        kind is ConditionKind.Year or ConditionKind.Month
        || (
            type is FieldType.Timestamp
            && kind is ConditionKind.Equal or ConditionKind.From or ConditionKind.To or ConditionKind.Above or ConditionKind.Below
        )
        || (
            type is FieldType.Date && kind is ConditionKind.From or ConditionKind.To or ConditionKind.Above or ConditionKind.Below
        );

    /// <summary>The key type of a parameter that a field is compared with; null, and reported, if that is not possible.</summary>
    private KeyType? KeyOf(ConditionKind kind, FieldPath path, Written at)
    {
        if (!Suits(kind, path, at))
            return null;
        return kind switch
        {
            ConditionKind.Year => DatePartKey.Year,
            ConditionKind.Month => DatePartKey.Month,
            ConditionKind.Is => WordKey.Emptiness,
            ConditionKind.Contains or ConditionKind.StartsWith => TextKey.Exact,
            _ => path.Field.Type switch
            {
                FieldType.Timestamp => DateKey.Instance,
                FieldType.Real or FieldType.Decimal => NumberKey.Instance,
                _ => KeyType.For(path.Field.Column, path.Field.Type, path.Field.Form) ?? TextKey.Exact,
            },
        };
    }

    private bool Suits(ConditionKind kind, FieldPath path, Written at)
    {
        var type = path.Field.Type;
        var (suits, expected) = kind switch
        {
            ConditionKind.Year or ConditionKind.Month => (type is FieldType.Date or FieldType.Timestamp, "a date or a moment"),
            ConditionKind.Contains or ConditionKind.StartsWith => (type is FieldType.Text, "a text"),
            ConditionKind.From or ConditionKind.To or ConditionKind.Above or ConditionKind.Below => (
                type is not (FieldType.Boolean or FieldType.Uuid or FieldType.Bytes or FieldType.Any),
                "a field that has an order"
            ),
            ConditionKind.Is => (true, ""),
            ConditionKind.Not or ConditionKind.OneOf when NameOf(at) is not null && type is FieldType.Timestamp => (
                false,
                "a field that is no moment: a visitor names days"
            ),
            _ => (
                type is not FieldType.Bytes && (type is not FieldType.Any || NameOf(at) is null),
                "a field whose type is known"
            ),
        };
        if (!suits)
            findings.Add(
                FindingCodes.FilterOfOtherType,
                at.At,
                $"{path.Name} is {type.Word()}: it cannot be compared so.",
                "Compare another field, or say the field's type in its record.",
                found: type.Word(),
                expected: expected
            );
        return suits;
    }

    /// <summary>A value of the app file with the type of its field, so that a text is never compared with a number.</summary>
    private Operand.Written? Value(Written text, SiteField field)
    {
        if (TypedValues.Read(text.Value, field.Type) is { } value)
            return new Operand.Written(value);
        findings.Add(
            FindingCodes.ValueOfOtherType,
            text.At,
            $"“{text}” is not a value of {field.Name}, which is {field.Type.Word()}.",
            "Write a value of the field's type.",
            found: text.Value,
            expected: TypedValues.Expected(field.Type)
        );
        return null;
    }
}
