using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sql;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// A query as SQL text, run on any free connection. Each connection keeps it prepared under this object's identity.
/// </summary>
/// <param name="write">Writes the text: with parameters, or with values in their places for people.</param>
internal sealed class SqliteQuery(
    SqlitePool pool,
    Func<SqlText, SqlStatement> write,
    IReadOnlyList<string> columnNames,
    FieldType[] types,
    bool isCount = false
) : IPreparedQuery
{
    public string Text { get; } = write(new SqliteText()).Text;

    public int Width { get; } = columnNames.Count;

    public IReadOnlyList<string> ColumnNames { get; } = columnNames;

    /// <summary>The type for reading each column. Further columns are plain integers.</summary>
    public FieldType[] Types { get; } = types;

    public IReadOnlyList<int> SecretCells { get; init; } = [];

    /// <summary>Runs it on a connection of the caller.</summary>
    public void Run(
        SqliteReader connection,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    ) => connection.Run(this, arguments, into, cancellation);

    public ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        var renting = pool.RentAsync(cancellation);
        if (!renting.IsCompletedSuccessfully)
            return WaitAndRunAsync(renting, arguments, into, cancellation);
        using var lease = renting.Result;
        RunOn(lease.Connection, arguments, into, cancellation);
        return ValueTask.CompletedTask;
    }

    private async ValueTask WaitAndRunAsync(
        ValueTask<SqlitePool.Lease> renting,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    )
    {
        using var lease = await renting;
        RunOn(lease.Connection, arguments, into, cancellation);
    }

    private void RunOn(
        SqliteReader connection,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    )
    {
        if (isCount)
            connection.Count(this, arguments, into, cancellation);
        else
            connection.Run(this, arguments, into, cancellation);
    }

    public async ValueTask<IReadOnlyList<string>?> ExplainAsync(
        IReadOnlyList<TypedValue> arguments,
        CancellationToken cancellation
    )
    {
        using var lease = await pool.RentAsync(cancellation);
        return lease.Connection.Explain(this, arguments, cancellation);
    }

    public string Shown(IReadOnlyList<TypedValue> arguments) => write(new SqliteText { Shown = arguments }).Text + ";";
}
