namespace Jexa.Core.Views;

/// <summary>How the records of a list are shown.</summary>
public enum ListLook
{
    Table,
    Cards,
    Bullets,
}
