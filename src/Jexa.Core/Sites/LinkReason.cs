namespace Jexa.Core.Sites;

/// <summary>Why a page has a link.</summary>
public enum LinkReason
{
    /// <summary>It is in the app file.</summary>
    Written,

    /// <summary>From a list to the own pages of its records.</summary>
    Record,

    /// <summary>From a foreign key to the record it refers to.</summary>
    Reference,

    /// <summary>From a record's page back to its list.</summary>
    Back,

    /// <summary>From a side list, a related block, or the trail of records above.</summary>
    Part,
}
