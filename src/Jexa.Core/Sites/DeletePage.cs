using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A page that deletes one record after confirmation.</summary>
public sealed class DeletePage(
    PageHead head,
    DetailShape shape,
    RecordLookup lookup,
    IReadOnlyList<StoredColumn> columns,
    IReadOnlyList<DependentPlan> dependents,
    ChangePlan changes,
    LinkPlan? cancel,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : RecordPage(head, lookup, shape.Own, shape.Back, missingPage)
{
    public override string Kind => "delete";

    public override string Methods => "GET, HEAD, POST, DELETE";

    public override bool Takes(string method, bool isJson) => method == "POST" && !isJson;

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public DetailShape Shape { get; } = shape;

    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    public IReadOnlyList<DependentPlan> Dependents { get; } = dependents;

    public ChangePlan Changes { get; } = changes;

    public LinkPlan? Cancel { get; } = cancel;
}
