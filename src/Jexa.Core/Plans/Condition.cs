namespace Jexa.Core.Plans;

/// <summary>What a row must satisfy. Comparisons with an empty field: equal is false, differs is true.</summary>
public abstract record Condition
{
    private Condition() { }

    public sealed record Equal(ColumnRef Column, Operand Value) : Condition;

    public sealed record Differs(ColumnRef Column, Operand Value) : Condition;

    public sealed record OneOf(ColumnRef Column, IReadOnlyList<Operand> Values) : Condition;

    public sealed record IsEmpty(ColumnRef Column) : Condition;

    public sealed record IsFilled(ColumnRef Column) : Condition;

    /// <summary>Where the value stands to another in the column's own order. Never true of an empty field.</summary>
    public sealed record Compare(ColumnRef Column, Comparison Comparison, Operand Value) : Condition;

    /// <summary>A text holds another anywhere; letters of ASCII match in either case.</summary>
    public sealed record Contains(ColumnRef Column, Operand Value) : Condition;

    /// <summary>A text begins with another, compared as the column compares; an index on the column serves it.</summary>
    public sealed record StartsWith(ColumnRef Column, Operand Value) : Condition;

    /// <summary>There is such a row of another table, by pairs of an own column and one of that table.</summary>
    public sealed record Exists(RecordRows Rows, IReadOnlyList<(ColumnRef Own, string Other)> On) : Condition;

    public sealed record All(IReadOnlyList<Condition> Conditions) : Condition;

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
