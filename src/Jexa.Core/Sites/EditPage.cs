using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A page that changes one record.</summary>
/// <param name="title">The title, filled from the record.</param>
public sealed class EditPage(
    PageHead head,
    FormPlan form,
    RecordLookup lookup,
    LinkPlan own,
    TextPlan title,
    IReadOnlyList<StoredColumn> columns,
    ChangePlan changes,
    IReadOnlyList<LinkPlan> apart,
    LinkPlan? cancel,
    PlainLink? back,
    PageHead? missingPage,
    IReadOnlyList<PageLink> links
) : RecordPage(head, lookup, own, back, missingPage)
{
    public override string Kind => "edit";

    public override string Methods => "GET, HEAD, POST, PATCH";

    public override bool Takes(string method, bool isJson) => isJson == (method == "PATCH");

    public override IReadOnlyList<PageLink> Links { get; } = links;

    public FormPlan Form { get; } = form;

    public TextPlan Title { get; } = title;

    /// <summary>Every column of the record in the page's own load, as it is stored.</summary>
    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    public ChangePlan Changes { get; } = changes;

    /// <summary>The links in the app file.</summary>
    public IReadOnlyList<LinkPlan> Apart { get; } = apart;

    /// <summary>The record's own page; null for none.</summary>
    public LinkPlan? Cancel { get; } = cancel;

    /// <summary>The cell with the stored value of a field.</summary>
    public int OrdinalOf(SiteField field) => Columns.First(column => column.Field == field).Ordinal;
}
