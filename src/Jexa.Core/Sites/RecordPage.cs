using Jexa.Core.Definitions;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A page about one record that its address names.</summary>
/// <param name="lookup">The main load: by what the parameters stand for, in their order.</param>
/// <param name="own">The page's own link to a loaded record.</param>
/// <param name="back">The list of the same records that can be opened by itself, if there is one.</param>
/// <param name="missingPage">The page a person is led to when the ID is missing; null for none.</param>
public abstract class RecordPage(PageHead head, RecordLookup lookup, LinkPlan own, PlainLink? back, PageHead? missingPage)
    : Page(head)
{
    /// <summary>How the record is found by the page's parameters.</summary>
    public RecordLookup Lookup { get; } = lookup;

    /// <summary>The link to this page itself, by the record's own key.</summary>
    public LinkPlan Own { get; } = own;

    /// <summary>The link back to the list. Null if there is none.</summary>
    public PlainLink? Back { get; } = back;

    /// <summary>The page that answers a missing ID. Null if none does.</summary>
    public PageHead? MissingPage { get; } = missingPage;

    /// <summary>The answers to missing and invalid IDs, as the app file says.</summary>
    public IdAnswers Ids => Head.Definition.Ids;

    /// <summary>
    /// The record and fields that its addresses name a record by; null if one of them is another record's, or the page shows
    /// some records only.
    /// </summary>
    public string? Scope { get; } = KeyScope.NameOf(head);
}
