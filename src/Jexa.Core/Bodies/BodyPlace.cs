namespace Jexa.Core.Bodies;

/// <summary>Where in the HTML a value stands, and so how it is written.</summary>
public enum BodyPlace
{
    /// <summary>Inside an element: as the page shows it, with its own link.</summary>
    Content,

    /// <summary>Words inside an element or attribute, as the page formats them.</summary>
    Text,

    /// <summary>In an attribute: as it is stored.</summary>
    Stored,

    /// <summary>
    /// The attribute <c>href</c>: an address on the web, of a mailbox or of a file. Nothing if it cannot be followed.
    /// </summary>
    Address,

    /// <summary>The attribute <c>src</c>: the address of a recording. Nothing if its file is missing.</summary>
    Source,

    /// <summary>A part of an address, percent-encoded.</summary>
    Percent,
}
