namespace Jexa.Core.Sites;

/// <summary>Why a link stands on a page.</summary>
public enum LinkReason
{
    /// <summary>The app file writes it.</summary>
    Written,

    /// <summary>A list leads to its records' page of itself.</summary>
    Record,

    /// <summary>A foreign key leads to the record it refers to.</summary>
    Reference,

    /// <summary>A record's page leads back to its list.</summary>
    Back,

    /// <summary>A side list, a related block, or the trail of records above.</summary>
    Part,
}
