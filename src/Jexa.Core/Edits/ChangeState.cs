namespace Jexa.Core.Edits;

/// <summary>Whether an intended change was made.</summary>
public enum ChangeState
{
    /// <summary>Logged before it was made. Its process is working on it, or ended before it could say more.</summary>
    Intended,

    /// <summary>The change is in the database.</summary>
    Made,

    /// <summary>Its process ended, and the source has nothing that tells whether the change was made.</summary>
    Undetermined,
}
