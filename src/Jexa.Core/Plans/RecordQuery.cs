using Jexa.Core.Values;

namespace Jexa.Core.Plans;

/// <summary>A column of the query's own table (0) or of one of its joins (1 and up).</summary>
public readonly record struct ColumnRef(int Table, string Name)
{
    public static ColumnRef Own(string name) => new(0, name);
}

/// <summary>One column of the result. <see cref="FieldType.Any"/> gives the value as it is stored.</summary>
/// <param name="Secret">No trace may hold it.</param>
public sealed record Projection(ColumnRef Column, FieldType Type, bool Secret = false);

/// <summary>A value in a condition: written in the app file, or given by the visit.</summary>
public abstract record Operand
{
    private Operand() { }

    public sealed record Written(Constant Value) : Operand;

    /// <summary>The visit's argument of this number, from 0.</summary>
    /// <param name="Type">What it is: an engine may have to look for a UUID under each spelling a column can hold.</param>
    public sealed record Argument(int Number, FieldType Type) : Operand;
}

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

/// <summary>Where one value stands to another.</summary>
public enum Comparison
{
    Less,
    AtMost,
    AtLeast,
    Greater,
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
    private Ordering() { }

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
/// <param name="From">The table that has the foreign key: 0 for the query's own, else an earlier join's number.</param>
/// <param name="On">Pairs of a column of that table and the joined table's column.</param>
/// <param name="Rows">What is joined: rows that may not be seen are not.</param>
public sealed record Join(int From, RecordRows Rows, IReadOnlyList<(string Own, string Other)> On)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>What the joined row must satisfy; their columns are its own.</summary>
    public IReadOnlyList<Condition> Conditions => Rows.Visible;
}

/// <summary>What rows are read from: a table or view by name, or a query of the developer's own.</summary>
/// <param name="Name">The table; for a query, what it is called in traces.</param>
/// <param name="Query">The developer's query; null for a table.</param>
/// <param name="Values">What fills the query's named parameters.</param>
public sealed record RowOrigin(string Name, string? Query, IReadOnlyList<(string Name, Operand Value)> Values)
{
    public static RowOrigin Of(string table) => new(table, null, []);
}

/// <summary>
/// One bounded query over one record kind: what every engine compiles in its own way. Immutable; made once by the
/// compiler and run by many visits with different arguments.
/// </summary>
/// <param name="Where">All of these hold for each row besides.</param>
/// <param name="Flag">Where not null, one more column at the end of each row: 1 if all of these hold, else 0.</param>
/// <param name="Limit">The most rows to read.</param>
/// <param name="CountLimit">
/// Where not null, one more column at the end of each row: how many rows satisfy the conditions, counting no further than this.
/// </param>
public sealed record RecordQuery(
    RecordRows Rows,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<Projection> Columns,
    IReadOnlyList<Condition> Where,
    IReadOnlyList<Condition>? Flag,
    IReadOnlyList<Ordering> Order,
    int Limit,
    int? CountLimit = null
)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];

    /// <summary>Cells in each row of the result.</summary>
    public int Width => Columns.Count + (Flag is null ? 0 : 1) + (CountLimit is null ? 0 : 1);

    /// <summary>What each cell is called: the column, behind its table's name where it is a joined one.</summary>
    public IReadOnlyList<string> CellNames =>
        [
            .. Columns.Select(projection =>
                projection.Column.Table == 0
                    ? projection.Column.Name
                    : $"{Joins[projection.Column.Table - 1].Table.Name}.{projection.Column.Name}"
            ),
            .. Flag is null ? [] : new[] { "(visible)" },
            .. CountLimit is null ? [] : new[] { "(count)" },
        ];
}

/// <summary>
/// How many rows satisfy the conditions, counting no further than <paramref name="Limit"/>. One row, one integer.
/// </summary>
public sealed record CountQuery(RecordRows Rows, IReadOnlyList<Join> Joins, IReadOnlyList<Condition> Where, int Limit)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}

/// <summary>What rows are put together by.</summary>
public enum GroupPart
{
    /// <summary>The value as it is.</summary>
    Whole,

    /// <summary>A date's year.</summary>
    Year,

    /// <summary>A date's month, from 1.</summary>
    Month,
}

/// <summary>
/// The distinct values of a column with how many rows have each: columns of one row of each group, then the count. In the
/// order of the values, empty ones last.
/// </summary>
public sealed record GroupQuery(
    RecordRows Rows,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<Projection> Columns,
    IReadOnlyList<Condition> Where,
    ColumnRef By,
    GroupPart Part,
    bool Descending,
    int Limit
)
{
    public RowOrigin Table => Rows.Origin;

    /// <summary>All that holds for each row.</summary>
    public IReadOnlyList<Condition> Conditions => [.. Rows.Visible, .. Where];
}

/// <summary>
/// Searches for one row each, asked at once: of each search the first row of the first of its queries that has any. All queries
/// read the same columns; a row ends with its search's number, from 0. A search that finds nothing has no row.
/// </summary>
public sealed record CombinedQuery(IReadOnlyList<IReadOnlyList<RecordQuery>> Searches);
