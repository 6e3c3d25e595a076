using System.Text;
using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>
/// Writes the query model as SQL. Names are quoted, values of a visit are parameters. The only literals come from the app file;
/// they are typed and quoted here. Derived classes write what an engine says differently. One object writes one text.
/// </summary>
internal abstract class SqlText
{
    private readonly List<int> _arguments = [];
    private List<RowOrigin> _origins = [];

    /// <summary>The values to show in place of parameters in a text for people; null in a text that is run.</summary>
    public IReadOnlyList<TypedValue>? Shown { get; init; }

    public SqlStatement Write(RecordQuery query) => Made(Select(query));

    public SqlStatement Write(CountQuery query) =>
        Made("SELECT " + Count(query.Table, query.Joins, query.Conditions, query.Limit));

    public SqlStatement Write(CombinedQuery query) => Made(Combined(query));

    public SqlStatement Write(GroupQuery query)
    {
        Begin(query.Table, query.Joins);
        var group = Group(query.By, query.Part);
        List<string> columns =
        [
            .. query.Columns.Select(projection =>
                projection.Column == query.By ? Read(query.By, projection.Type, group, query.Part) : Read(projection)
            ),
        ];
        var sql = new StringBuilder("SELECT ").AppendJoin(", ", columns).Append(", count(*)");
        From(query.Table, query.Joins, sql);
        Where(query.Conditions, sql);
        sql.Append(" GROUP BY ").AppendJoin(", ", new[] { group }.Concat(GroupsByAll ? columns : []).Distinct());
        return Made(
            sql.Append(" ORDER BY ")
                .Append(Placed(group, query.Descending, EmptyPlace.Last))
                .Append($" LIMIT {query.Limit}")
                .ToString()
        );
    }

    /// <summary>A change. Its parameters stand for <see cref="ValuesOf"/>, in order.</summary>
    public SqlStatement Write(RecordWrite write)
    {
        _origins = [RowOrigin.Of(write.Table)];
        var number = 0;
        string Put(ColumnValue value) =>
            Shown is null ? Parameter(number++, Stored(write.Table, value))
            : value.Secret ? "'(secret)'"
            : Literal(value.Value);
        switch (write)
        {
            case RecordWrite.Insert insert:
                var returning =
                    insert.Returning.Count == 0
                        ? ""
                        : $" RETURNING {string.Join(", ", insert.Returning.Select(name => Read(insert.Table, name)))}";
                return Made(
                    (
                        insert.Values.Count == 0
                            ? InsertDefaults(insert.Table)
                            : $"INSERT INTO {Table(insert.Table)} "
                                + $"({string.Join(", ", insert.Values.Select(value => Name(value.Column)))}) VALUES "
                                + $"({string.Join(", ", insert.Values.Select(Put))})"
                    ) + returning
                );
            case RecordWrite.Update update:
                return Made(
                    $"UPDATE {Table(update.Table)} SET "
                        + $"{string.Join(", ", update.Values.Select(value => $"{Name(value.Column)} = {Put(value)}"))} "
                        + $"WHERE {Matches(update.Table, update.Key, Put)}"
                );
            default:
                return Made(
                    $"DELETE FROM {Table(write.Table)} WHERE {Matches(write.Table, ((RecordWrite.Delete)write).Key, Put)}"
                );
        }
    }

    /// <summary>The values of a change in the order of its parameters.</summary>
    public static IReadOnlyList<ColumnValue> ValuesOf(RecordWrite write) =>
        write switch
        {
            RecordWrite.Insert insert => insert.Values,
            RecordWrite.Update update => [.. update.Values, .. update.Key],
            RecordWrite.Delete delete => delete.Key,
            _ => [],
        };

    /// <summary>Whether all selected columns must be in the GROUP BY.</summary>
    protected virtual bool GroupsByAll => true;

    /// <summary>A name in quotes.</summary>
    protected abstract string Name(string name);

    /// <summary>A table by its name in the schema.</summary>
    protected virtual string Table(string name) => Name(name);

    /// <summary>A value as an SQL literal.</summary>
    protected abstract string Literal(TypedValue value);

    /// <summary>A parameter of the text.</summary>
    /// <param name="position">The number of the parameter in the text, from 0.</param>
    /// <param name="argument">The number of the visit's argument, from 0.</param>
    protected abstract string Placeholder(int position, int argument);

    /// <summary>A column as it is read.</summary>
    /// <param name="sql">The column, or an expression for it.</param>
    protected virtual string Read(ColumnRef column, FieldType type, string sql, GroupPart part) => sql;

    /// <summary>A column as a change returns it.</summary>
    protected virtual string Read(string table, string column) => Name(column);

    /// <summary>
    /// How a parameter is written for a value to store, or to find as it is stored; <c>{0}</c> is the parameter.
    /// </summary>
    protected virtual string Stored(string table, ColumnValue value) => "{0}";

    /// <summary>A column and a value in a form in which they can be compared.</summary>
    protected virtual (string Column, string Value) Pair(ColumnRef column, int table, Operand value) =>
        (Column(column, table), Value(value));

    /// <summary>A column for sorting.</summary>
    protected virtual string Sorted(ColumnRef column) => Column(column);

    protected abstract string Group(ColumnRef column, GroupPart part);

    /// <summary>An order with the place of empty values.</summary>
    protected virtual string Placed(string sql, bool descending, EmptyPlace? empties) =>
        sql
        + (descending ? " DESC" : "")
        + (
            empties switch
            {
                EmptyPlace.First => " NULLS FIRST",
                EmptyPlace.Last => " NULLS LAST",
                _ => "",
            }
        );

    protected abstract string ExactFirst(ColumnRef column, Operand value);

    protected abstract string Differs(string column, string value);

    protected abstract string Contains(Condition.Contains condition, int table);

    protected abstract string StartsWith(Condition.StartsWith condition, int table);

    protected virtual string Compare(Condition.Compare compare, int table)
    {
        var (column, value) = Pair(compare.Column, table, compare.Value);
        return $"{column} {Sign(compare.Comparison)} {value}";
    }

    /// <summary>The forms in which a column may hold a value, as a list. Classes that compare differently override it.</summary>
    protected virtual string OneOf(ColumnRef column, int table, IReadOnlyList<Operand> values)
    {
        var pairs = values.Select(value => Pair(column, table, value)).ToList();
        return pairs.Count == 0 ? "1 = 0"
            : pairs.Select(pair => pair.Column).Distinct().Count() == 1
                ? $"{pairs[0].Column} IN ({string.Join(", ", pairs.Select(pair => pair.Value))})"
            : $"({string.Join(" OR ", pairs.Select(pair => $"{pair.Column} = {pair.Value}"))})";
    }

    protected virtual string Equal(Condition.Equal equal, int table)
    {
        var (column, value) = Pair(equal.Column, table, equal.Value);
        return $"{column} = {value}";
    }

    protected virtual string InsertDefaults(string table) => $"INSERT INTO {Table(table)} DEFAULT VALUES";

    protected virtual string Matches(string table, IReadOnlyList<ColumnValue> key, Func<ColumnValue, string> put) =>
        string.Join(
            " AND ",
            key.Select(value =>
                value.Value is TypedValue.Empty ? $"{Name(value.Column)} IS NULL" : $"{Name(value.Column)} = {put(value)}"
            )
        );

    /// <summary>The first row of each search: of its arms, in order, the first that has one.</summary>
    protected virtual string Combined(CombinedQuery query)
    {
        var width = query.Searches[0][0].Columns.Count;
        var columns = string.Join(", ", Enumerable.Range(0, width).Select(i => $"c{i}"));
        return string.Join(
            " UNION ALL ",
            query.Searches.Select(
                (search, i) =>
                {
                    var arms = search.Select(
                        (part, arm) => $"({Select(part with { Limit = 1 }, $", {arm} AS arm", named: true)})"
                    );
                    return $"(SELECT {columns}, {i} AS search FROM ({string.Join(" UNION ALL ", arms)}) AS s{i} "
                        + "ORDER BY arm LIMIT 1)";
                }
            )
        );
    }

    /// <param name="more">Further columns, with a comma before them.</param>
    /// <param name="named">Whether each column gets a name, so that another query can use it.</param>
    protected string Select(RecordQuery query, string more = "", bool named = false)
    {
        Begin(query.Table, query.Joins);
        List<string> columns = [.. query.Columns.Select(Read)];
        if (query.Flag is { } flag)
            columns.Add(Flag(flag));
        if (query.CountLimit is { } limit)
            columns.Add($"(SELECT {Count(query.Table, query.Joins, query.Conditions, limit)})");
        var sql = new StringBuilder("SELECT ")
            .AppendJoin(", ", named ? columns.Select((column, i) => $"{column} AS c{i}") : columns)
            .Append(more);
        From(query.Table, query.Joins, sql);
        Where(query.Conditions, sql);
        if (query.Order.Count > 0)
            sql.Append(" ORDER BY ").AppendJoin(", ", query.Order.Select(order => Order(order, query.Flag)));
        return sql.Append(" LIMIT ").Append(query.Limit).ToString();
    }

    protected RowOrigin Origin(ColumnRef column, int table = 0) => _origins[column.Table == 0 ? table : column.Table];

    protected string Column(ColumnRef column, int table = 0) =>
        $"t{(column.Table == 0 ? table : column.Table)}.{Name(column.Name)}";

    /// <summary>A value by itself.</summary>
    protected virtual string Value(Operand operand, string form = "{0}") =>
        operand switch
        {
            Operand.Argument argument => Parameter(argument.Number, form),
            Operand.Written written => Literal(written.Value),
            _ => throw new ArgumentOutOfRangeException(nameof(operand)),
        };

    /// <summary>A value of the visit: a parameter, or the value itself in a text for people.</summary>
    /// <param name="form">The text around it, with <c>{0}</c> in its place.</param>
    protected string Parameter(int argument, string form)
    {
        if (Shown is not null)
            return argument < Shown.Count ? Literal(Shown[argument]) : Placeholder(argument, argument);
        var position = _arguments.IndexOf(argument);
        if (position < 0)
        {
            position = _arguments.Count;
            _arguments.Add(argument);
        }

        return form.Replace("{0}", Placeholder(position, argument));
    }

    protected static string Sign(Comparison comparison) =>
        comparison switch
        {
            Comparison.Less => "<",
            Comparison.AtMost => "<=",
            Comparison.AtLeast => ">=",
            _ => ">",
        };

    private SqlStatement Made(string text) => new(text, _arguments);

    private void Begin(RowOrigin table, IReadOnlyList<Join> joins) => _origins = [table, .. joins.Select(join => join.Table)];

    private string Read(Projection projection) =>
        Read(projection.Column, projection.Type, Column(projection.Column), GroupPart.Whole);

    private string Count(RowOrigin table, IReadOnlyList<Join> joins, IReadOnlyList<Condition> where, int limit)
    {
        Begin(table, joins);
        var sql = new StringBuilder("count(*) FROM (SELECT 1");

        // A join finds at most one row for each row. So joins that no condition reads do not change a count.
        From(table, where.SelectMany(condition => condition.Columns).Any(column => column.Table > 0) ? joins : [], sql);
        Where(where, sql);
        return sql.Append(" LIMIT ").Append(limit).Append(") AS counted").ToString();
    }

    private void From(RowOrigin table, IReadOnlyList<Join> joins, StringBuilder sql)
    {
        sql.Append(" FROM ").Append(Rows(table)).Append(" AS t0");
        for (var i = 0; i < joins.Count; i++)
            Join(joins[i], i + 1, sql);
    }

    private void Join(Join join, int number, StringBuilder sql)
    {
        sql.Append(" LEFT JOIN ").Append(Rows(join.Table)).Append(" AS t").Append(number).Append(" ON ");
        var on = join.On.Select(pair => Joined(new ColumnRef(number, pair.Other), new ColumnRef(join.From, pair.Own)));
        sql.AppendJoin(" AND ", on.Concat(join.Conditions.Select(condition => Test(condition, number))));
    }

    /// <summary>The condition that two columns are equal.</summary>
    protected virtual string Joined(ColumnRef other, ColumnRef own) => $"{Column(other)} = {Column(own)}";

    private string Rows(RowOrigin origin) =>
        origin.Query is { } query
            ? $"({Script.Fill(query, name => Value(origin.Values.First(value => value.Name == name).Value))})"
            : Table(origin.Name);

    /// <summary>How named parameters in the engine's queries are found.</summary>
    protected abstract SqlScript Script { get; }

    private void Where(IReadOnlyList<Condition> conditions, StringBuilder sql)
    {
        if (conditions.Count > 0)
            sql.Append(" WHERE ").AppendJoin(" AND ", conditions.Select(condition => Test(condition, 0)));
    }

    private string Flag(IReadOnlyList<Condition> conditions) =>
        conditions.Count == 0
            ? "1"
            : $"CASE WHEN {string.Join(" AND ", conditions.Select(condition => Test(condition, 0)))} THEN 1 ELSE 0 END";

    private string Order(Ordering order, IReadOnlyList<Condition>? flag) =>
        order switch
        {
            Ordering.ByColumn by => Placed(Sorted(by.Column), by.Descending, by.Empties),
            Ordering.ExactFirst exact => ExactFirst(exact.Column, new Operand.Argument(exact.Argument, FieldType.Text)) + " DESC",
            _ => Flag(flag!) + " DESC",
        };

    /// <param name="table">The table of the condition's columns: 0, or the number of a join.</param>
    private string Test(Condition condition, int table)
    {
        switch (condition)
        {
            case Condition.Equal equal:
                return Equal(equal, table);
            case Condition.Differs differs:
                var (column, value) = Pair(differs.Column, table, differs.Value);
                return Differs(column, value);
            case Condition.OneOf oneOf:
                return OneOf(oneOf.Column, table, oneOf.Values);
            case Condition.IsEmpty empty:
                return $"{Column(empty.Column, table)} IS NULL";
            case Condition.IsFilled filled:
                return $"{Column(filled.Column, table)} IS NOT NULL";
            case Condition.Compare compare:
                return Compare(compare, table);
            case Condition.Contains contains:
                return Contains(contains, table);
            case Condition.StartsWith starts:
                return StartsWith(starts, table);
            case Condition.Exists exists:
                return Exists(exists, table);
            case Condition.All all:
                return all.Conditions.Count == 0
                    ? "1 = 1"
                    : $"({string.Join(" AND ", all.Conditions.Select(part => Test(part, table)))})";
            case Condition.Any any:
                return any.Conditions.Count == 0
                    ? "1 = 0"
                    : $"({string.Join(" OR ", any.Conditions.Select(part => Test(part, table)))})";
            default:
                throw new ArgumentOutOfRangeException(nameof(condition));
        }
    }

    /// <summary>A row of another table, under a number of its own.</summary>
    private string Exists(Condition.Exists exists, int table)
    {
        var number = _origins.Count;
        _origins.Add(exists.Rows.Origin);
        var on = exists.On.Select(pair =>
            Joined(new ColumnRef(number, pair.Other), pair.Own.Table == 0 ? pair.Own with { Table = table } : pair.Own)
        );
        var all = string.Join(" AND ", on.Concat(exists.Rows.Visible.Select(condition => Test(condition, number))));
        return $"EXISTS (SELECT 1 FROM {Rows(exists.Rows.Origin)} AS t{number} WHERE {all})";
    }
}
