namespace Jexa.Core.Edits;

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

    /// <summary>The latest thing that became of a key; null if nothing is known.</summary>
    LoggedKeyEvent? LatestKeyEvent(string scope, string key);

    /// <summary>The first thing that became of a key behind a change.</summary>
    LoggedKeyEvent? NextKeyEvent(string scope, string key, long behind);
}
