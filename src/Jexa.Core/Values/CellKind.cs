namespace Jexa.Core.Values;

/// <summary>The kinds of value that a cell can have. Every writer handles all of them.</summary>
public enum CellKind : byte
{
    /// <summary>No value.</summary>
    Null,

    /// <summary>A whole number of up to 64 bits.</summary>
    Integer,

    /// <summary>A binary floating-point number.</summary>
    Real,

    /// <summary>UTF-8 text as the engine stores it. It may be invalid UTF-8 if the engine allows that.</summary>
    Text,

    /// <summary>A decimal number as ASCII text.</summary>
    Decimal,

    /// <summary>True or false.</summary>
    Boolean,

    /// <summary>Days since 0001-01-01 in the proleptic Gregorian calendar.</summary>
    Date,

    /// <summary>Ticks of 100 ns since 0001-01-01T00:00:00, without a zone.</summary>
    Timestamp,

    /// <summary>Bytes.</summary>
    Bytes,

    /// <summary>The sixteen bytes of a UUID, most significant first (RFC 9562).</summary>
    Uuid,
}
