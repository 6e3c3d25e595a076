namespace Jexa.Core.Bodies;

/// <summary>What a page has by itself, besides its record's fields.</summary>
public enum BodyWord
{
    /// <summary>The page's heading.</summary>
    Title,

    /// <summary>How many records there are, with their noun.</summary>
    Total,

    /// <summary>How many records there are.</summary>
    Count,

    /// <summary>The message about what was just done.</summary>
    Said,

    /// <summary>A sentence about the page, such as why the visitor was led here.</summary>
    Notice,

    /// <summary>The link to the next record, or to the next part of a list.</summary>
    Next,

    /// <summary>The link to the previous record, or to the previous part of a list.</summary>
    Prev,

    /// <summary>The link to the first part of a list.</summary>
    First,

    /// <summary>The link to the last part of a list.</summary>
    Last,

    /// <summary>The link to the list that the visitor came from.</summary>
    Back,

    /// <summary>The link to a new record.</summary>
    Add,

    /// <summary>The link that leaves a form without saving.</summary>
    Cancel,

    /// <summary>The link to all records of a block.</summary>
    All,

    /// <summary>The link that orders a list by a field.</summary>
    Order,

    /// <summary>What is wrong with a field of the form.</summary>
    Fault,

    /// <summary>The help for a field of the form.</summary>
    Help,

    /// <summary>Whether a block could not be loaded; only in conditions.</summary>
    Failed,
}
