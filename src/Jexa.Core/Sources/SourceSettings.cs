namespace Jexa.Core.Sources;

/// <summary>How an app file names one source, with relative paths' starting folder and variables filled in.</summary>
/// <param name="Connection">The engine's own way to say where; may hold secrets, never shown.</param>
/// <param name="ShownAs">The connection as the app file writes it, variables not filled in: what messages may say.</param>
public sealed record SourceSettings(string Engine, string Connection, string ShownAs, string BaseFolder, TimeSpan TimeLimit)
{
    /// <summary>Whether Jexa may write, and whether it may keep its own table there.</summary>
    public SourceWriting Writing { get; init; }

    /// <summary>
    /// The columns that records of the app file take for their key, for sources that know none: <c>table: column, column</c>, one
    /// a line.
    /// </summary>
    public string DeclaredKeys { get; init; } = "";

    /// <summary>How an API is called; null for other sources.</summary>
    public ApiSettings? Api { get; init; }

    /// <summary>
    /// Where reading is done instead, as far as nobody must see their own change; may hold secrets, never shown. Null for none.
    /// </summary>
    public string? Replica { get; init; }

    /// <summary>Whether a proxy between here and the source gives each transaction another session.</summary>
    public bool PoolsTransactions { get; init; }

    public static TimeSpan DefaultTimeLimit { get; } = TimeSpan.FromSeconds(5);

    /// <summary>Never prints the connection.</summary>
    public override string ToString() => Engine;
}
