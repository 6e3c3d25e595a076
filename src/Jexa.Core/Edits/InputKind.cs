namespace Jexa.Core.Edits;

/// <summary>What a field is asked by.</summary>
public enum InputKind
{
    Text,

    /// <summary>Text of several lines.</summary>
    LongText,
    Whole,
    Number,

    /// <summary>Yes or no; one that may be empty is a choice of three.</summary>
    Boolean,
    Date,
    Moment,

    /// <summary>One of a few values that are known beforehand.</summary>
    Choice,

    /// <summary>Another record, by its label.</summary>
    Reference,

    /// <summary>The name of a picture, which is shown beside it.</summary>
    Picture,

    /// <summary>Never shown; left empty it stays as it is.</summary>
    Secret,
}
