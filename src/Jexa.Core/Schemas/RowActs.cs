namespace Jexa.Core.Schemas;

/// <summary>What may be done to rows of a table.</summary>
[Flags]
public enum RowActs
{
    None = 0,
    Insert = 1,
    Update = 2,
    Delete = 4,
    All = Insert | Update | Delete,
}
