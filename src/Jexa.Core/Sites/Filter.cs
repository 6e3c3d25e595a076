using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// A condition of a page that may depend on parameters. The values of a visit make a condition of it, or none if its parameters
/// are absent. So an absent optional filter does not change the query.
/// </summary>
public abstract record Filter
{
    private Filter() { }

    /// <summary>
    /// The condition; null if there is nothing to compare with. The same shape of values makes the same condition.
    /// </summary>
    public abstract Condition? Apply(ParameterValues values, ArgumentList arguments);

    /// <summary>The conditions that hold whatever the address says.</summary>
    /// <param name="parameters">The number of the page's parameters.</param>
    public static List<Condition> Standing(IEnumerable<Filter> filters, int parameters = 0) =>
        Standing(filters, new ArgumentList(), parameters);

    /// <inheritdoc cref="Standing(IEnumerable{Filter}, int)"/>
    /// <param name="arguments">Gets the values that they compare with.</param>
    public static List<Condition> Standing(IEnumerable<Filter> filters, ArgumentList arguments, int parameters)
    {
        var none = ParameterValues.NoneOf(parameters);
        return [.. filters.Select(filter => filter.Apply(none, arguments)).OfType<Condition>()];
    }

    /// <summary>What in the values changes the condition, besides which parameters are given and how often.</summary>
    public virtual string ShapeOf(ParameterValues values) => "";

    /// <summary>A condition without parameters.</summary>
    public sealed record Fixed(Condition Condition) : Filter
    {
        /// <inheritdoc/>
        public override Condition Apply(ParameterValues values, ArgumentList arguments) => Condition;
    }

    /// <summary>Compares a column with a parameter.</summary>
    public sealed record ByParameter(int Parameter, Func<Operand, Condition> Test, FieldType Type) : Filter
    {
        /// <inheritdoc/>
        public override Condition? Apply(ParameterValues values, ArgumentList arguments) =>
            values.Has(Parameter) ? Test(arguments.Add(values.One(Parameter), Type)) : null;
    }

    /// <summary>Compares a column with the values of a parameter.</summary>
    public sealed record OneOf(int Parameter, ColumnRef Column, FieldType Type) : Filter
    {
        /// <inheritdoc/>
        public override Condition? Apply(ParameterValues values, ArgumentList arguments) =>
            values.Has(Parameter)
                ? new Condition.OneOf(Column, [.. values.Values[Parameter].Select(value => arguments.Add(value, Type))])
                : null;
    }

    /// <summary>Whether a column is empty or filled, as a parameter says.</summary>
    public sealed record Emptiness(int Parameter, ColumnRef Column) : Filter
    {
        /// <inheritdoc/>
        public override Condition? Apply(ParameterValues values, ArgumentList arguments) =>
            !values.Has(Parameter) ? null
            : IsEmpty(values) ? new Condition.IsEmpty(Column)
            : new Condition.IsFilled(Column);

        /// <inheritdoc/>
        public override string ShapeOf(ParameterValues values) =>
            values.Has(Parameter)
                ? IsEmpty(values)
                    ? "e"
                    : "f"
                : "";

        private bool IsEmpty(ParameterValues values) => values.One(Parameter) is TypedValue.Text { Value: "empty" };
    }

    /// <summary>
    /// A date or moment within days from parameters or the app file: a half-open range, so that an index can be used.
    /// </summary>
    /// <param name="Range">The first day, and the day after the last or null for no end; null if a parameter is absent.</param>
    public sealed record Days(
        ColumnRef Column,
        FieldType Type,
        Conventions Conventions,
        Func<ParameterValues, (DateOnly? From, DateOnly? To)?> Range
    ) : Filter
    {
        /// <inheritdoc/>
        public override Condition? Apply(ParameterValues values, ArgumentList arguments)
        {
            if (Range(values) is not var (from, to))
                return null;
            var ends = new List<Condition>();
            if (from is { } first)
                ends.Add(new Condition.Compare(Column, Comparison.AtLeast, arguments.Add(Edge(first), Type)));
            if (to is { } behind)
                ends.Add(new Condition.Compare(Column, Comparison.Less, arguments.Add(Edge(behind), Type)));

            // After the last of all days there is nothing to compare with. Empty fields are still outside of the range.
            return ends.Count == 0 ? new Condition.IsFilled(Column) : new Condition.All(ends);
        }

        private TypedValue Edge(DateOnly day) =>
            Type == FieldType.Timestamp ? new TypedValue.Moment(Conventions.Kept(day)) : new TypedValue.Date(day);
    }

    /// <summary>Several filters, of which all or any must hold.</summary>
    public sealed record Group(bool IsAny, IReadOnlyList<Filter> Parts) : Filter
    {
        /// <inheritdoc/>
        public override Condition? Apply(ParameterValues values, ArgumentList arguments)
        {
            var parts = Parts.Select(part => part.Apply(values, arguments)).OfType<Condition>().ToList();
            return parts.Count == 0 ? null
                : parts.Count == 1 ? parts[0]
                : IsAny ? new Condition.Any(parts)
                : new Condition.All(parts);
        }

        /// <inheritdoc/>
        public override string ShapeOf(ParameterValues values) => string.Concat(Parts.Select(part => part.ShapeOf(values)));
    }
}
