namespace Jexa.Core.Values;

/// <summary>What a field holds, as its source declares it or the app file says. A closed set.</summary>
public enum FieldType
{
    /// <summary>The source declares nothing: each value is shown by what it is.</summary>
    Any,
    Integer,
    Real,

    /// <summary>A decimal number that is never rounded: kept as its text.</summary>
    Decimal,
    Text,
    Boolean,
    Date,
    Timestamp,
    Uuid,
    Bytes,
}
