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
    /// <inheritdoc/>
    public override string Methods => "GET, HEAD, POST, DELETE";

    /// <inheritdoc/>
    public override bool Takes(string method, bool isJson) => method == "POST" && !isJson;

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links { get; } = links;

    /// <summary>The fields that the question shows.</summary>
    public DetailShape Shape { get; } = shape;

    /// <summary>The columns that are compared before the record is deleted.</summary>
    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    /// <summary>The records that would be deleted with it, or that keep it from being deleted.</summary>
    public IReadOnlyList<DependentPlan> Dependents { get; } = dependents;

    /// <summary>How the change is made and noted.</summary>
    public ChangePlan Changes { get; } = changes;

    /// <summary>Where <em>Cancel</em> leads. Null if nowhere.</summary>
    public LinkPlan? Cancel { get; } = cancel;
}
