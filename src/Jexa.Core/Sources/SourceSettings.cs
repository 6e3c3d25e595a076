namespace Jexa.Core.Sources;

/// <summary>The settings of one source from the app file, with variables filled in.</summary>
/// <param name="Connection">The connection string of the engine. It may contain secrets and is never shown.</param>
/// <param name="ShownAs">The connection as the app file writes it, without values of variables. Messages may contain it.</param>
public sealed record SourceSettings(string Engine, string Connection, string ShownAs, string BaseFolder, TimeSpan TimeLimit)
{
    /// <summary>Whether Jexa may write, and whether it may keep its own table there.</summary>
    public SourceWriting Writing { get; init; }

    /// <summary>
    /// The key columns of records, for sources that know no keys: <c>table: column, column</c>, one table a line.
    /// </summary>
    public string DeclaredKeys { get; init; } = "";

    /// <summary>How an API is called; null for other sources.</summary>
    public ApiSettings? Api { get; init; }

    /// <summary>
    /// The connection string of a replica for reading. It may contain secrets and is never shown. Null for none.
    /// </summary>
    public string? Replica { get; init; }

    /// <summary>Whether a proxy before the source gives each transaction another session.</summary>
    public bool PoolsTransactions { get; init; }

    /// <summary>The clock that the source uses.</summary>
    public TimeProvider Clock { get; init; } = TimeProvider.System;

    /// <summary>The time limit of a query if the app file gives none: 5 seconds.</summary>
    public static TimeSpan DefaultTimeLimit { get; } = TimeSpan.FromSeconds(5);

    /// <summary>Never prints the connection.</summary>
    public override string ToString() => Engine;
}
