namespace Jexa.Core.Edits;

/// <summary>The kind of input for a field.</summary>
public enum InputKind
{
    /// <summary>One line of text.</summary>
    Text,

    /// <summary>A text of several lines.</summary>
    LongText,

    /// <summary>A whole number.</summary>
    Whole,

    /// <summary>A number with decimals.</summary>
    Number,

    /// <summary>Yes or no. A field that may be empty is a choice of three.</summary>
    Boolean,

    /// <summary>A date.</summary>
    Date,

    /// <summary>A date and a time of day.</summary>
    Moment,

    /// <summary>One of a few known values.</summary>
    Choice,

    /// <summary>Another record, by its label.</summary>
    Reference,

    /// <summary>The name of a picture, with the picture beside it.</summary>
    Picture,

    /// <summary>A secret: never shown, unchanged if left empty.</summary>
    Secret,
}
