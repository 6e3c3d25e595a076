namespace Jexa.Core.Values;

/// <summary>The type of a field, as the source declares it or the app file says.</summary>
public enum FieldType
{
    /// <summary>The source declares no type: each value is shown by its own kind.</summary>
    Any,

    /// <summary>A whole number of up to 64 bits.</summary>
    Integer,

    /// <summary>A binary floating-point number (IEEE 754, 64 bits).</summary>
    Real,

    /// <summary>A decimal number. It is never rounded: it is kept as text.</summary>
    Decimal,

    /// <summary>Text, in UTF-8.</summary>
    Text,

    /// <summary>True or false.</summary>
    Boolean,

    /// <summary>A date without a time of day.</summary>
    Date,

    /// <summary>A moment.</summary>
    Timestamp,

    /// <summary>A UUID.</summary>
    Uuid,

    /// <summary>Bytes.</summary>
    Bytes,
}
