namespace Jexa.Core.Sources;

/// <summary>What Jexa may write into a source.</summary>
public enum SourceWriting
{
    /// <summary>
    /// Records, and for each change one row in a table of ours (<c>jexa_commit</c>), which tells after a crash whether the change
    /// was made.
    /// </summary>
    Noted,

    /// <summary>Records only. After a crash nobody can tell whether the last change was made.</summary>
    Bare,

    /// <summary>Nothing.</summary>
    Refused,
}
