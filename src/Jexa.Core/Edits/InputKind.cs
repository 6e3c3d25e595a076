namespace Jexa.Core.Edits;

/// <summary>The kind of input for a field.</summary>
public enum InputKind
{
    Text,

    /// <summary>A text of several lines.</summary>
    LongText,
    Whole,
    Number,

    /// <summary>Yes or no. A field that may be empty is a choice of three.</summary>
    Boolean,
    Date,
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
