namespace Jexa.Core.Plans;

/// <summary>Where empty values come in an order, in either direction.</summary>
public enum EmptyPlace
{
    /// <summary>Before all other values.</summary>
    First,

    /// <summary>After all other values.</summary>
    Last,
}
