namespace Jexa.Core.Plans;

/// <summary>Where rows without a value come in an order, whatever its direction.</summary>
public enum EmptyPlace
{
    First,
    Last,
}
