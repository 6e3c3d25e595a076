namespace Jexa.Core.Contracts;

/// <summary>What a value is, for those who write it in another language.</summary>
public enum ValueKind
{
    Whole,
    Decimal,
    Real,
    Boolean,
    Text,
    Uuid,
    Date,
    Moment,

    /// <summary>Base64.</summary>
    Bytes,

    /// <summary>Nobody says of what type it is.</summary>
    Any,
    Year,
    Month,

    /// <summary>One of a few words.</summary>
    Word,
}
