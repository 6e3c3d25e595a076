namespace Jexa.Core.Views;

/// <summary>How many records a list has in all.</summary>
/// <param name="IsExact">False where counting stopped at its limit: there are more.</param>
public readonly record struct Total(long Count, bool IsExact)
{
    /// <summary>What a count that stops behind a limit says.</summary>
    public static Total Of(long count, long limit) => new(Math.Min(count, limit), count <= limit);
}
