namespace Jexa.Core.Views;

/// <summary>How the records of a list are shown.</summary>
public enum ListLook
{
    /// <summary>A table with a column for each field.</summary>
    Table,

    /// <summary>A card for each record.</summary>
    Cards,

    /// <summary>A line for each record.</summary>
    Bullets,
}
