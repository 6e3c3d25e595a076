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
    public override string Kind => "new";

    public override string Methods => "GET, HEAD, POST";

    public override bool Takes(string method, bool isJson) => method == "POST";

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public FormPlan Form { get; } = form;

    public string Title { get; } = title;

    /// <summary>The records that its parameters name.</summary>
    public IReadOnlyList<ParentPlan> Parents { get; } = parents;

    public ChangePlan Changes { get; } = changes;

    public PlainLink? Cancel { get; } = cancel;

    /// <summary>The page to redirect people to if the address does not say what the new record belongs to.</summary>
    public PageHead? MissingPage { get; } = missingPage;
}
