namespace Jexa.Sources.Sql;

/// <summary>What a server's column holds, as far as reading, comparing and writing it differ.</summary>
internal enum NativeKind
{
    Integer,

    /// <summary>A whole number that may be beyond 63 bits, or a decimal: read as its digits.</summary>
    Decimal,
    Real,
    Text,
    Boolean,
    Date,

    /// <summary>A date and time without a zone.</summary>
    Timestamp,

    /// <summary>A moment: read as the date and time it has in UTC.</summary>
    Moment,
    Uuid,
    Bytes,

    /// <summary>Whatever else there is: read and compared as the text that the server makes of it.</summary>
    Other,
}
