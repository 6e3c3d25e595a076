using Jexa.Core.Values;

namespace Jexa.Core.Plans;

/// <summary>A column of the query's own table (0) or of one of its joins (1 and up).</summary>
public readonly record struct ColumnRef(int Table, string Name)
{
    public static ColumnRef Own(string name) => new(0, name);
}

/// <summary>One column of the result. <see cref="FieldType.Any"/> gives the value as it is stored.</summary>
public sealed record Projection(ColumnRef Column, FieldType Type);

/// <summary>A value in a condition: written in the app file, or given by the visit.</summary>
public abstract record Operand
{
    private Operand()
    {
    }

    public sealed record Written(Constant Value) : Operand;

    /// <summary>The visit's argument of this number, from 0.</summary>
    /// <param name="Type">What it is: an engine may have to look for a UUID under each spelling a column can hold.</param>
    public sealed record Argument(int Number, FieldType Type) : Operand;
}

/// <summary>What a row must satisfy. Comparisons with an empty field: equal is false, differs is true.</summary>
public abstract record Condition
{
    private Condition()
    {
    }

    public sealed record Equal(ColumnRef Column, Operand Value) : Condition;

    public sealed record Differs(ColumnRef Column, Operand Value) : Condition;

    public sealed record OneOf(ColumnRef Column, IReadOnlyList<Operand> Values) : Condition;

    public sealed record IsEmpty(ColumnRef Column) : Condition;

    public sealed record IsFilled(ColumnRef Column) : Condition;

    /// <summary>Strictly behind a value in an order: greater, or smaller where the order descends. Never an empty field.</summary>
    public sealed record Behind(ColumnRef Column, Operand Value, bool Descending) : Condition;
}

/// <summary>Where rows without a value come in an order, whatever its direction.</summary>
public enum EmptyPlace
{
    First,
    Last,
}

/// <summary>One step of an order.</summary>
public abstract record Ordering
{
    private Ordering()
    {
    }

    /// <summary>By a column.</summary>
    /// <param name="Empties">Where rows without a value come; null where there can be none.</param>
    public sealed record ByColumn(ColumnRef Column, bool Descending, EmptyPlace? Empties) : Ordering;

    /// <summary>Rows that equal an argument code unit by code unit first, whatever the column's collation.</summary>
    public sealed record ExactFirst(ColumnRef Column, int Argument) : Ordering;

    /// <summary>Rows that meet the query's flag first.</summary>
    public sealed record FlaggedFirst : Ordering;
}

/// <summary>
/// Another table whose row a foreign key leads to, at most one for each row; where none is found, or none that meets the
/// conditions, its columns are empty.
/// </summary>
/// <param name="On">Pairs of an own column and the other table's column.</param>
/// <param name="Conditions">What the other row must satisfy; their columns are the other table's own.</param>
public sealed record Join(string Table, IReadOnlyList<(string Own, string Other)> On, IReadOnlyList<Condition> Conditions);

/// <summary>
/// One bounded query over one record kind: what every engine compiles in its own way. Immutable; made once by the
/// compiler and run by many visits with different arguments.
/// </summary>
/// <param name="Where">All of these hold for each row.</param>
/// <param name="Flag">Where not null, one more column at the end of each row: 1 if all of these hold, else 0.</param>
/// <param name="Limit">The most rows to read.</param>
public sealed record RecordQuery(
    string Table,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<Projection> Columns,
    IReadOnlyList<Condition> Where,
    IReadOnlyList<Condition>? Flag,
    IReadOnlyList<Ordering> Order,
    int Limit)
{
    /// <summary>Cells in each row of the result.</summary>
    public int Width => Columns.Count + (Flag is null ? 0 : 1);

    /// <summary>What each cell is called: the column, behind its table's name where it is a joined one.</summary>
    public IReadOnlyList<string> CellNames =>
    [
        .. Columns.Select(projection => projection.Column.Table == 0
            ? projection.Column.Name
            : $"{Joins[projection.Column.Table - 1].Table}.{projection.Column.Name}"),
        .. Flag is null ? [] : new[] { "(visible)" },
    ];
}

/// <summary>How many rows satisfy the conditions, counting no further than <paramref name="Limit"/>. One row, one integer.</summary>
public sealed record CountQuery(string Table, IReadOnlyList<Condition> Where, int Limit);
