namespace Jexa.Core.Values;

/// <summary>The type of a field, as the source declares it or the app file says.</summary>
public enum FieldType
{
    /// <summary>The source declares no type: each value is shown by its own kind.</summary>
    Any,
    Integer,
    Real,

    /// <summary>A decimal number. It is never rounded: it is kept as text.</summary>
    Decimal,
    Text,
    Boolean,
    Date,
    Timestamp,
    Uuid,
    Bytes,
}
