namespace Jexa.Core.Bodies;

/// <summary>A part of a page that a body leaves to Jexa.</summary>
public enum BodyPart
{
    /// <summary>The message about what was just done, and the notice of the page.</summary>
    Messages,

    /// <summary>The way back to the list, and the records above.</summary>
    Trail,

    /// <summary>The record's fields, each with its label.</summary>
    Fields,

    /// <summary>The links of the page.</summary>
    Links,

    /// <summary>The links to the previous and next record.</summary>
    Neighbours,

    /// <summary>The rows of a list, in its look.</summary>
    Rows,

    /// <summary>The sentence that stands for the rows of an empty list.</summary>
    None,

    /// <summary>The form that narrows a list.</summary>
    Controls,

    /// <summary>The headings of a list's table, with the links that order it.</summary>
    Headings,

    /// <summary>The links to other parts of a list.</summary>
    Turns,

    /// <summary>The side lists.</summary>
    Side,

    /// <summary>What is wrong with a form that was sent.</summary>
    Faults,

    /// <summary>The whole form.</summary>
    Form,

    /// <summary>A field of the form, with its label.</summary>
    Field,

    /// <summary>The records that refer to the one that is to be deleted, and the button.</summary>
    Delete,

    /// <summary>A block.</summary>
    Block,
}
