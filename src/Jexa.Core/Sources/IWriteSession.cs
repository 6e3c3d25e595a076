using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sources;

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
    ValueTask LockAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Runs a query of the same source within the transaction.</summary>
    ValueTask RunAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation);

    /// <summary>Changes one row. Gives how many rows were changed, and for a new row its key.</summary>
    /// <exception cref="RefusedException">A rule of the source forbids it.</exception>
    ValueTask<WriteResult> WriteAsync(RecordWrite write, CancellationToken cancellation);

    /// <summary>The change as it could be pasted into the engine's own shell, secrets left out. For traces only.</summary>
    string Shown(RecordWrite write);

    /// <summary>
    /// Notes that this transaction is the change of this token; false if one has been noted under it already.
    /// </summary>
    /// <param name="key">The record's key, as the log has it; null to forbid the token for ever.</param>
    ValueTask<bool> NoteAsync(string token, string? key, CancellationToken cancellation);

    /// <summary>Whether a change of this token has been noted; its key is null if the token was forbidden.</summary>
    ValueTask<(bool Noted, string? Key)> FindNoteAsync(string token, CancellationToken cancellation);

    /// <summary>
    /// The first note without a record's key whose token comes after this one, in the order of their bytes; null if there is
    /// none. Such a note forbids a change that was never made.
    /// </summary>
    ValueTask<string?> NextStrayNoteAsync(string after, CancellationToken cancellation);

    /// <summary>Forgets notes that nobody needs any more.</summary>
    ValueTask ForgetNotesAsync(IReadOnlyCollection<string> tokens, CancellationToken cancellation);

    /// <exception cref="RefusedException">A rule of the source that is looked at last forbids it; nothing is changed.</exception>
    ValueTask CommitAsync();
}
