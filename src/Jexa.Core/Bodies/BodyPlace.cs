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

    /// <summary>The attribute <c>href</c>: an address on the web, or of a mailbox. Nothing if it cannot be followed.</summary>
    Address,

    /// <summary>A part of an address, percent-encoded.</summary>
    Percent,
}
