namespace Jexa.Core.Edits;

/// <summary>
/// Jexa's own log of changes, shared by all processes of one service. A change is intended first; the source's own note then
/// decides whether it was made. Every call may throw <see cref="Sources.SourceException"/>.
/// </summary>
public interface IChangeLog
{
    /// <summary>Logs an intended change. False if its token is in the log already.</summary>
    bool TryIntend(ChangeIntent intent);

    /// <summary>The change was made.</summary>
    void Confirm(string token);

    /// <summary>The change was not made. The log forgets it.</summary>
    void Drop(string token);

    /// <summary>The change that a form with this token made. Null if there is none.</summary>
    LoggedChange? Find(string token);

    /// <summary>The change of this number. Null if there is none.</summary>
    LoggedChange? Find(long number);

    /// <summary>The latest first.</summary>
    IReadOnlyList<LoggedChange> Read(ChangeQuestion question);

    /// <summary>The latest event of a key; null if none is known.</summary>
    LoggedKeyEvent? LatestKeyEvent(string scope, string key);

    /// <summary>The first event of a key after a change.</summary>
    LoggedKeyEvent? NextKeyEvent(string scope, string key, long behind);

    /// <summary>Keys that something happened to, the latest first.</summary>
    IReadOnlyList<string> KeysWithEvents(string scope, int most);
}
