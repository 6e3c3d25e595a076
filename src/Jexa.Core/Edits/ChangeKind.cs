namespace Jexa.Core.Edits;

/// <summary>What a change does to a record.</summary>
public enum ChangeKind
{
    /// <summary>The record was added.</summary>
    Added,

    /// <summary>Fields of the record were changed.</summary>
    Changed,

    /// <summary>The record was deleted.</summary>
    Deleted,
}
