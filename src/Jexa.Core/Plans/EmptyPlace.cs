namespace Jexa.Core.Plans;

/// <summary>Where empty values come in an order, in either direction.</summary>
public enum EmptyPlace
{
    First,
    Last,
}
