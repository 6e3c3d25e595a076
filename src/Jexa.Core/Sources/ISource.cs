using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

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

/// <summary>What Jexa may write into a source.</summary>
public enum SourceWriting
{
    /// <summary>
    /// Records, and beside each change one row of a table of ours (<c>jexa_commit</c>) that decides what happened.
    /// </summary>
    Noted,

    /// <summary>Records, and nothing else: after a crash nobody can tell whether the last change was made.</summary>
    Bare,

    /// <summary>Nothing.</summary>
    Refused,
}

/// <summary>Opens sources of one kind. One implementation a folder in Jexa.Sources.</summary>
public interface ISourceEngine
{
    /// <summary>The word after <c>engine:</c>.</summary>
    string Name { get; }

    /// <summary>
    /// Whether its sources know no keys of their own and are told those that records take
    /// (<see cref="SourceSettings.DeclaredKeys"/>).
    /// </summary>
    bool TakesKeys => false;

    /// <summary>Whether its sources may have a replica that is read instead (<see cref="SourceSettings.Replica"/>).</summary>
    bool TakesReplica => false;

    /// <summary>
    /// Whether its sources can be behind a proxy that pools transactions (<see cref="SourceSettings.PoolsTransactions"/>).
    /// </summary>
    bool TakesPooling => false;

    /// <summary>
    /// A value of a variable as it stands within a connection, so that nothing in it reads as more than a value.
    /// </summary>
    string Quote(string value) => value;

    /// <summary>Makes the source without touching it: whether it is there is seen on first use.</summary>
    /// <exception cref="SourceException">The connection cannot be read.</exception>
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

    /// <summary>How many queries it runs at once; more wait for one of these to end.</summary>
    int Connections { get; }

    /// <summary>
    /// Whether what is read may be behind what was changed last, unless <see cref="IPreparedQuery.Latest"/> is asked.
    /// </summary>
    bool HasReplica => false;

    /// <summary>Begins to change records, in a transaction of its own.</summary>
    ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation);

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

    /// <summary>The numbers of the cells that no trace may hold.</summary>
    IReadOnlyList<int> SecretCells => [];

    /// <summary>The same query where every change that was made is seen at once; itself where it is nowhere else.</summary>
    IPreparedQuery Latest => this;

    /// <summary>Appends the rows to a block that has been reset to <see cref="Width"/>.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    /// <exception cref="OperationCanceledException">The visitor left.</exception>
    ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>The query with its arguments, as it could be pasted into the engine's own shell. For traces only.</summary>
    string Shown(IReadOnlyList<Constant> arguments);
}

/// <summary>
/// One transaction. What it locks stays as it is until it ends; disposed without a commit, it has changed nothing. Used by one
/// caller at a time. Every call may throw <see cref="SourceException"/>.
/// </summary>
public interface IWriteSession : IAsyncDisposable
{
    /// <summary>Whether the source keeps our table, so that <see cref="NoteAsync"/> can be asked.</summary>
    bool KeepsNotes { get; }

    /// <summary>
    /// Waits for whoever uses this token in another session, of this process or another; from then on nobody else does until this
    /// session ends.
    /// </summary>
    ValueTask ClaimAsync(string token, CancellationToken cancellation);

    /// <summary>
    /// As <see cref="RunAsync"/>; the rows that it gives are as they stand, and nobody else changes them until the session ends.
    /// </summary>
    ValueTask LockAsync(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Runs a query of the same source within the transaction.</summary>
    ValueTask RunAsync(IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Changes one row. Gives how many rows were changed, and for a new row its key.</summary>
    /// <exception cref="RefusedException">A rule of the source forbids it.</exception>
    ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation);

    /// <summary>The change as it could be pasted into the engine's own shell, secrets left out. For traces only.</summary>
    string Shown(RecordWrite write);

    /// <summary>
    /// Notes that this transaction is the change of this token; false where one has been noted under it already.
    /// </summary>
    /// <param name="key">The record's key, as the log has it; null to forbid the token for ever.</param>
    ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation);

    /// <summary>Whether a change of this token has been noted; its key is null where the token was forbidden.</summary>
    ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation);

    /// <summary>
    /// The first note without a record's key whose token comes after this one, in the order of their bytes; null if there is
    /// none. Such
    /// a note forbids a change that was never made.
    /// </summary>
    ValueTask<string?> NextStrayNoteAsync(string after, CancellationToken cancellation);

    /// <summary>Forgets notes that nobody needs any more.</summary>
    ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation);

    /// <exception cref="RefusedException">A rule of the source that is looked at last forbids it; nothing is changed.</exception>
    ValueTask CommitAsync();
}

/// <param name="Rows">How many rows were changed.</param>
/// <param name="Key">The new row's key as it is stored, in the order asked for; empty for other changes.</param>
public readonly record struct WriteResult(int Rows, IReadOnlyList<Constant> Key);

/// <summary>Which kind of rule of the source forbids a change.</summary>
public enum RefusalReason
{
    /// <summary>Another row has these values.</summary>
    Unique,

    /// <summary>A value is lacking.</summary>
    Empty,

    /// <summary>A check on the row's values.</summary>
    Check,

    /// <summary>A row that is referred to is not there, or rows refer to this one.</summary>
    Reference,

    /// <summary>The developer's own rule, in the developer's own words.</summary>
    Own,

    /// <summary>A value that the column cannot hold.</summary>
    Type,
    Other,
}

/// <summary>A rule of the source forbids a change; nothing was changed.</summary>
/// <param name="columns">The columns it is about, as far as the source tells.</param>
/// <param name="words">What the developer's own rule says; empty for others.</param>
/// <param name="message">For the developer.</param>
public sealed class RefusedException(RefusalReason reason, IReadOnlyList<string> columns, string words, string message)
    : Exception(message)
{
    public RefusalReason Reason { get; } = reason;

    public IReadOnlyList<string> Columns { get; } = columns;

    public string Words { get; } = words;
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

    /// <summary>
    /// Whether it is the app's or the source's own fault, to be mended by the developer rather than waited for.
    /// </summary>
    public bool IsFinding { get; init; }

    /// <summary>
    /// Whether trying again changes nothing until somebody mends it: a wrong password, a file that is not there.
    /// </summary>
    public bool IsSettled { get; init; }
}
