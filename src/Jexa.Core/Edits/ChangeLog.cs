using Jexa.Core.Values;

namespace Jexa.Core.Edits;

public enum ChangeKind
{
    Added,
    Changed,
    Deleted,
}

/// <summary>Whether a change that was intended came about.</summary>
public enum ChangeState
{
    /// <summary>Written down before the source was told; its process is at it, or ended before it could say more.</summary>
    Intended,
    Made,

    /// <summary>Its process ended, and the source keeps nothing that tells whether the change was made.</summary>
    Undetermined,
}

/// <summary>A field before and after a change, as it is stored; of a secret one only that it changed.</summary>
public sealed record FieldChange(string Field, Constant Before, Constant After, bool IsSecret);

/// <summary>What became of a key, for those who still come by it.</summary>
/// <param name="Scope">The record kind and the fields that an address names it by.</param>
/// <param name="Key">The ID texts.</param>
/// <param name="To">The ID texts it has now; null where the record was added or deleted.</param>
public sealed record KeyEvent(string Scope, string Key, ChangeKind Kind, string? To);

/// <summary>A key event that came about.</summary>
/// <param name="Change">The number of its change: later changes have larger ones.</param>
public sealed record KeyFate(long Change, ChangeKind Kind, string? To);

/// <summary>A change as it is written down before it is made.</summary>
/// <param name="Token">The token of the form, or of the request.</param>
/// <param name="Digest">Of what was sent.</param>
/// <param name="Key">The record's key as it is stored, by column; as JSON.</param>
/// <param name="Id">The key as it stands in addresses.</param>
/// <param name="Location">Where its visitor is led.</param>
/// <param name="IsNoted">The source keeps a note of it.</param>
/// <param name="Undoes">The number of the change that it takes back.</param>
public sealed record ChangeIntent(
    string Token,
    string Digest,
    string Page,
    string Source,
    string Record,
    string Key,
    string Id,
    ChangeKind Kind,
    IReadOnlyList<FieldChange> Fields,
    string Location,
    bool IsNoted,
    IReadOnlyList<KeyEvent> KeyEvents,
    long? Undoes
);

/// <summary>A change as the log has it.</summary>
/// <param name="By">Who made it; null as long as there is no sign-in.</param>
/// <param name="UndoneBy">The number of the change that took it back.</param>
public sealed record LoggedChange(
    long Number,
    DateTimeOffset At,
    ChangeState State,
    string? By,
    long? UndoneBy,
    ChangeIntent What
);

/// <summary>Which changes are asked for; null for any.</summary>
/// <param name="Before">Changes of smaller numbers only.</param>
public sealed record ChangeQuestion(
    string? Record = null,
    string? Id = null,
    string? Page = null,
    ChangeKind? Kind = null,
    ChangeState? State = null,
    DateTimeOffset? Since = null,
    long? Before = null,
    int Limit = 50
);

/// <summary>
/// Jexa's own log of changes, shared by all processes of one service. A change is intended first; the source's own note decides
/// whether it was made. Every call may throw <see cref="Sources.SourceException"/>.
/// </summary>
public interface IChangeLog
{
    /// <summary>Writes a change down, for good. False where one of this token is there already.</summary>
    bool TryIntend(ChangeIntent intent);

    /// <summary>The source has it.</summary>
    void Confirm(string token);

    /// <summary>It was not made: nothing of it is kept.</summary>
    void Drop(string token);

    LoggedChange? Find(string token);

    LoggedChange? Find(long number);

    /// <summary>The latest first.</summary>
    IReadOnlyList<LoggedChange> Read(ChangeQuestion question);

    /// <summary>The latest thing that became of a key; null where nothing is known.</summary>
    KeyFate? LatestFate(string scope, string key);

    /// <summary>The first thing that became of a key behind a change.</summary>
    KeyFate? NextFate(string scope, string key, long behind);
}
