namespace Jexa.Core.Sources;

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
