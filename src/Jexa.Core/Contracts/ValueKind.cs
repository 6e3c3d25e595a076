namespace Jexa.Core.Contracts;

/// <summary>The kind of a value, for code in other languages.</summary>
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

    /// <summary>Nothing declares its type.</summary>
    Any,
    Year,
    Month,

    /// <summary>One of a few words.</summary>
    Word,
}
