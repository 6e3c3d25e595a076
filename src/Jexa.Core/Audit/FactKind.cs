namespace Jexa.Core.Audit;

/// <summary>What kind of thing a fact is.</summary>
public enum FactKind
{
    /// <summary>Words.</summary>
    Words,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A date.</summary>
    Date,
}
