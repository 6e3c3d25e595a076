namespace Jexa.Core.Drafts;

/// <summary>What some rows hold in one column.</summary>
/// <param name="Rows">How many rows were looked at.</param>
/// <param name="Filled">In how many of them it is neither empty nor an empty text.</param>
/// <param name="Distinct">How many different values they have.</param>
/// <param name="Longest">The longest text, in characters.</param>
/// <param name="Look">What the values look like.</param>
public sealed record ColumnSample(int Rows, int Filled, int Distinct, int Longest, ValueLook Look)
{
    /// <summary>Nothing is known of a column of an empty table.</summary>
    public bool IsKnown => Rows > 0;

    /// <summary>From 0 to 1.</summary>
    public double FilledShare => Rows == 0 ? 1 : (double)Filled / Rows;

    /// <summary>From 0 to 1: whether its values tell rows apart.</summary>
    public double DistinctShare => Filled == 0 ? 0 : (double)Distinct / Filled;
}
