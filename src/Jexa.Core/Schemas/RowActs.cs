namespace Jexa.Core.Schemas;

/// <summary>What may be done to rows of a table.</summary>
[Flags]
public enum RowActs
{
    /// <summary>Rows can only be read.</summary>
    None = 0,

    /// <summary>Rows can be inserted.</summary>
    Insert = 1,

    /// <summary>Rows can be updated.</summary>
    Update = 2,

    /// <summary>Rows can be deleted.</summary>
    Delete = 4,

    /// <summary>All of these.</summary>
    All = Insert | Update | Delete,
}
