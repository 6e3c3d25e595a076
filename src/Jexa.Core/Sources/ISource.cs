using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <summary>How an app file names one source, with relative paths' starting folder and variables filled in.</summary>
/// <param name="Connection">The engine's own way to say where; may hold secrets, never shown.</param>
/// <param name="ShownAs">The connection as the app file writes it, variables not filled in: what messages may say.</param>
public sealed record SourceSettings(string Engine, string Connection, string ShownAs, string BaseFolder, TimeSpan TimeLimit)
{
    public static TimeSpan DefaultTimeLimit { get; } = TimeSpan.FromSeconds(5);

    /// <summary>Never prints the connection.</summary>
    public override string ToString() => Engine;
}

/// <summary>Opens sources of one kind. One implementation a folder in Jexa.Sources.</summary>
public interface ISourceEngine
{
    /// <summary>The word after <c>engine:</c>.</summary>
    string Name { get; }

    /// <summary>Makes the source without touching it: whether it is there is seen on first use.</summary>
    ISource Open(SourceSettings settings);
}

/// <summary>
/// A place where records live. Owns its connections and prepared commands; outlives the sites that use it. Safe for
/// concurrent use. Every call may throw <see cref="SourceException"/>.
/// </summary>
public interface ISource : IAsyncDisposable
{
    /// <summary>Says what the source holds at this moment.</summary>
    ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation);

    /// <summary>Touches the source as lightly as shows that it is there and readable.</summary>
    ValueTask ProbeAsync(CancellationToken cancellation);

    /// <summary>Compiles a query once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(RecordQuery query);

    /// <summary>Compiles a count once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(CountQuery query);

    /// <summary>Compiles a grouping once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(GroupQuery query);

    /// <summary>Compiles several queries into one, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(CombinedQuery query);

    /// <summary>
    /// Looks at a query of the developer's own without running it: the columns it gives, the named parameters it has, and
    /// what is wrong with it.
    /// </summary>
    ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation);
}

/// <summary>A compiled query. Safe for concurrent use.</summary>
public interface IPreparedQuery
{
    /// <summary>Cells in each row.</summary>
    int Width { get; }

    /// <summary>What each cell of a row is called in traces.</summary>
    IReadOnlyList<string> ColumnNames { get; }

    /// <summary>Appends the rows to a block that has been reset to <see cref="Width"/>.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    /// <exception cref="OperationCanceledException">The visitor left.</exception>
    ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>The query with its arguments, as it could be pasted into the engine's own shell. For traces only.</summary>
    string Shown(IReadOnlyList<Constant> arguments);
}

public enum SourceTrouble
{
    /// <summary>It cannot be reached: not there, locked, no connection to be had.</summary>
    Away,

    /// <summary>It did not answer within its time limit.</summary>
    TooSlow,

    /// <summary>It answered with an error.</summary>
    Failed,
}

/// <summary>A source did not do what it was asked.</summary>
/// <param name="message">For the developer: said in findings, traces and logs, never to a visitor.</param>
public sealed class SourceException(SourceTrouble trouble, string message, Exception? inner = null) : Exception(message, inner)
{
    public SourceTrouble Trouble { get; } = trouble;
}
