namespace Jexa.Core.Plans;

/// <summary>A condition on rows. If a field is empty, <c>equal</c> is false and <c>differs</c> is true.</summary>
public abstract record Condition
{
    private Condition() { }

    /// <summary>The column has the value.</summary>
    public sealed record Equal(ColumnRef Column, Operand Value) : Condition;

    /// <summary>The column has another value, or none.</summary>
    public sealed record Differs(ColumnRef Column, Operand Value) : Condition;

    /// <summary>The column has one of the values.</summary>
    public sealed record OneOf(ColumnRef Column, IReadOnlyList<Operand> Values) : Condition;

    /// <summary>The column is null or empty text.</summary>
    public sealed record IsEmpty(ColumnRef Column) : Condition;

    /// <summary>The column is neither null nor empty text.</summary>
    public sealed record IsFilled(ColumnRef Column) : Condition;

    /// <summary>How the value compares with another one in the order of the column. Never true for an empty field.</summary>
    public sealed record Compare(ColumnRef Column, Comparison Comparison, Operand Value) : Condition;

    /// <summary>A text contains another one. ASCII letters match in either case.</summary>
    public sealed record Contains(ColumnRef Column, Operand Value) : Condition;

    /// <summary>A text begins with another one, compared as the column compares. An index on the column can serve it.</summary>
    public sealed record StartsWith(ColumnRef Column, Operand Value) : Condition;

    /// <summary>Another table has a row whose columns equal columns of this row.</summary>
    public sealed record Exists(RecordRows Rows, IReadOnlyList<(ColumnRef Own, string Other)> On) : Condition;

    /// <summary>All conditions hold.</summary>
    public sealed record All(IReadOnlyList<Condition> Conditions) : Condition;

    /// <summary>At least one condition holds.</summary>
    public sealed record Any(IReadOnlyList<Condition> Conditions) : Condition;

    /// <summary>The columns that the condition reads.</summary>
    public IEnumerable<ColumnRef> Columns =>
        this switch
        {
            Equal c => [c.Column],
            Differs c => [c.Column],
            OneOf c => [c.Column],
            IsEmpty c => [c.Column],
            IsFilled c => [c.Column],
            Compare c => [c.Column],
            Contains c => [c.Column],
            StartsWith c => [c.Column],
            Exists c => c.On.Select(pair => pair.Own),
            All c => c.Conditions.SelectMany(part => part.Columns),
            Any c => c.Conditions.SelectMany(part => part.Columns),
            _ => [],
        };
}
