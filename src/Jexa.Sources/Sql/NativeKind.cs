namespace Jexa.Sources.Sql;

/// <summary>The type of a server's column, as far as it matters for reading, comparing and writing.</summary>
internal enum NativeKind
{
    Integer,

    /// <summary>A whole number that may have more than 63 bits, or a decimal: read as its digits.</summary>
    Decimal,
    Real,
    Text,
    Boolean,
    Date,

    /// <summary>A date and time without a zone.</summary>
    Timestamp,

    /// <summary>A moment: read as date and time in UTC.</summary>
    Moment,
    Uuid,
    Bytes,

    /// <summary>Any other type: read and compared as the text that the server makes of it.</summary>
    Other,
}
