using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sources;

/// <summary>
/// One transaction. Rows that it locks do not change until it ends. If it is disposed without a commit, it changes nothing. Only
/// one caller may use it at a time. Every call may throw <see cref="SourceException"/>.
/// </summary>
public interface IWriteSession : IAsyncDisposable
{
    /// <summary>Whether the source has our table, so that <see cref="NoteAsync"/> can be called.</summary>
    bool KeepsNotes { get; }

    /// <summary>
    /// Waits for other sessions that use this token, in this process or another. After that, no other session can use it until
    /// this one ends.
    /// </summary>
    ValueTask ClaimAsync(string token, CancellationToken cancellation);

    /// <summary>Like <see cref="RunAsync"/>, but locks the rows that it returns until the session ends.</summary>
    ValueTask LockAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Runs a query of the same source inside the transaction.</summary>
    ValueTask RunAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Changes one row. Returns the number of changed rows and, for a new row, its key.</summary>
    /// <exception cref="RefusedException">A rule of the source forbids it.</exception>
    ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation);

    /// <summary>The change, ready to paste into the engine's own shell, without secrets. For traces only.</summary>
    string Shown(RecordWrite write);

    /// <summary>Notes that this transaction makes the change of this token. False if the token has a note already.</summary>
    /// <param name="key">The record's key, as the log has it; null to forbid the token for ever.</param>
    ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation);

    /// <summary>Whether a change of this token was noted. Its key is null if the token was forbidden.</summary>
    ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation);

    /// <summary>
    /// The first note without a record's key whose token is greater than this one, compared by bytes; null if there is none. Such
    /// a note forbids a change that was never made.
    /// </summary>
    ValueTask<string?> NextStrayNoteAsync(string after, CancellationToken cancellation);

    /// <summary>Deletes notes that are no longer needed.</summary>
    ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation);

    /// <exception cref="RefusedException">
    /// A rule that the source checks at commit forbids the change. Nothing is changed.
    /// </exception>
    ValueTask CommitAsync();
}
