namespace Jexa.Core.Plans;

/// <summary>What rows are grouped by.</summary>
public enum GroupPart
{
    /// <summary>The value as it is.</summary>
    Whole,

    /// <summary>A date's year.</summary>
    Year,

    /// <summary>A date's month, from 1.</summary>
    Month,
}
