namespace Jexa.Core.Keys;

/// <summary>Why a text is not an ID of its key's type.</summary>
public enum KeyFault
{
    None,

    /// <summary>Not a value of the type at all.</summary>
    WrongForm,

    /// <summary>A number, but beyond the type's limits.</summary>
    OutOfRange,

    /// <summary>Longer than any ID of this type may be.</summary>
    TooLong,

    /// <summary>Percent-encoding or UTF-8 that decodes to nothing.</summary>
    BadEncoding,

    /// <summary>The parameter stands in the address more than once.</summary>
    GivenTwice,

    /// <summary>The address has a parameter of nearly this name, in other case or with other separators.</summary>
    OtherName,

    /// <summary>Given without the parameter it belongs to: a month without its year.</summary>
    MonthWithoutYear,

    /// <summary>Given together with one that excludes it.</summary>
    Exclusive,

    /// <summary>Given more often than anybody means.</summary>
    TooMany,
}
