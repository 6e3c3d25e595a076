namespace Jexa.Core.Edits;

/// <summary>Whether a change that was intended came about.</summary>
public enum ChangeState
{
    /// <summary>Written down before the source was told; its process is at it, or ended before it could say more.</summary>
    Intended,
    Made,

    /// <summary>Its process ended, and the source keeps nothing that tells whether the change was made.</summary>
    Undetermined,
}
