namespace Jexa.Core.Views;

/// <summary>What a list's records look like.</summary>
public enum ListLook
{
    Table,
    Cards,
    Bullets,
}
