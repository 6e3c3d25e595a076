namespace Jexa.Core.Contracts;

/// <summary>The kind of a value, for code in other languages.</summary>
public enum ValueKind
{
    /// <summary>A whole number of up to 64 bits.</summary>
    Whole,

    /// <summary>A decimal number of any length.</summary>
    Decimal,

    /// <summary>A binary floating-point number (IEEE 754, 64 bits).</summary>
    Real,

    /// <summary>True or false.</summary>
    Boolean,

    /// <summary>Text.</summary>
    Text,

    /// <summary>A UUID (RFC 9562), in lower case.</summary>
    Uuid,

    /// <summary>A date, such as <c>2024-02-29</c>.</summary>
    Date,

    /// <summary>A moment with its offset (RFC 3339).</summary>
    Moment,

    /// <summary>Base64.</summary>
    Bytes,

    /// <summary>Nothing declares its type.</summary>
    Any,

    /// <summary>A year, such as 2024.</summary>
    Year,

    /// <summary>A month, from 1 to 12.</summary>
    Month,

    /// <summary>One of a few words.</summary>
    Word,
}
