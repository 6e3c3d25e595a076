namespace Jexa.Core.Definitions;

/// <summary>What programs get from a page and may send to it. The list is closed: JSON and typed clients know these.</summary>
public enum PageCalls
{
    /// <summary>A window of records.</summary>
    List,

    /// <summary>One record with its blocks of related records.</summary>
    Read,

    /// <summary>A text.</summary>
    Text,

    /// <summary>One record, and PATCH with some of its fields.</summary>
    Edit,

    /// <summary>The first values of a form, and POST with the fields of a new record.</summary>
    Add,

    /// <summary>One record, and DELETE.</summary>
    Delete,
}
