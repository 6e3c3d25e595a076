namespace Jexa.Core.Drafts;

/// <summary>What a sample of rows holds in one column.</summary>
/// <param name="Rows">The number of rows in the sample.</param>
/// <param name="Filled">How many of them are neither empty nor an empty text.</param>
/// <param name="Distinct">The number of different values.</param>
/// <param name="Longest">The length of the longest text, in characters.</param>
/// <param name="Look">What the values look like.</param>
public sealed record ColumnSample(int Rows, int Filled, int Distinct, int Longest, ValueLook Look)
{
    /// <summary>For a column of an empty table.</summary>
    public bool IsKnown => Rows > 0;

    /// <summary>From 0 to 1.</summary>
    public double FilledShare => Rows == 0 ? 1 : (double)Filled / Rows;

    /// <summary>From 0 to 1: how far its values identify rows.</summary>
    public double DistinctShare => Filled == 0 ? 0 : (double)Distinct / Filled;
}
