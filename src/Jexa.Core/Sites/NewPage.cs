using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A page that makes a record.</summary>
public sealed class NewPage(
    PageHead head,
    FormPlan form,
    string title,
    IReadOnlyList<ParentPlan> parents,
    ChangePlan changes,
    PlainLink? cancel,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : Page(head)
{
    /// <inheritdoc/>
    public override string Methods => "GET, HEAD, POST";

    /// <inheritdoc/>
    public override bool Takes(string method, bool isJson) => method == "POST";

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links { get; } = links;

    /// <summary>The form's fields.</summary>
    public FormPlan Form { get; } = form;

    /// <summary>The page's title.</summary>
    public string Title { get; } = title;

    /// <summary>The records that its parameters name.</summary>
    public IReadOnlyList<ParentPlan> Parents { get; } = parents;

    /// <summary>How the change is made and noted.</summary>
    public ChangePlan Changes { get; } = changes;

    /// <summary>Where <em>Cancel</em> leads. Null if nowhere.</summary>
    public PlainLink? Cancel { get; } = cancel;

    /// <summary>The page to redirect people to if the address does not say what the new record belongs to.</summary>
    public PageHead? MissingPage { get; } = missingPage;
}
