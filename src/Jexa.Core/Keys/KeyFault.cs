namespace Jexa.Core.Keys;

/// <summary>Why a text is not an ID.</summary>
public enum KeyFault
{
    /// <summary>The ID could be read.</summary>
    None,

    /// <summary>It is not a value of the type.</summary>
    WrongForm,

    /// <summary>It is a number, but outside the limits of the type.</summary>
    OutOfRange,

    /// <summary>It is longer than any ID of this type.</summary>
    TooLong,

    /// <summary>Its percent-encoding or its UTF-8 is wrong.</summary>
    BadEncoding,

    /// <summary>The address has the parameter more than once.</summary>
    GivenTwice,

    /// <summary>The address has a parameter of a similar name: other letter case or other separators.</summary>
    OtherName,

    /// <summary>The parameter it belongs to is missing: a month without its year.</summary>
    MonthWithoutYear,

    /// <summary>The address also has a parameter that excludes it.</summary>
    Exclusive,

    /// <summary>The address has it too many times.</summary>
    TooMany,
}
