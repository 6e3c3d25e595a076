namespace Jexa.Core.Views;

/// <summary>The number of records in a list.</summary>
/// <param name="IsExact">False if counting stopped at its limit: there are more.</param>
public readonly record struct Total(long Count, bool IsExact)
{
    /// <summary>The total for a count with a limit.</summary>
    public static Total Of(long count, long limit) => new(Math.Min(count, limit), count <= limit);
}
