using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

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
