namespace Jexa.Core.Definitions;

/// <summary>What a page shows or does. The key that names the record in the app file is the kind's name.</summary>
public enum PageKind
{
    /// <summary>A list of records.</summary>
    List,

    /// <summary>One record.</summary>
    Detail,

    /// <summary>A text, without a record.</summary>
    Text,

    /// <summary>A form that changes one record.</summary>
    Edit,

    /// <summary>A form that adds a record.</summary>
    New,

    /// <summary>A question whether to delete one record.</summary>
    Delete,
}
