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
    /// <inheritdoc/>
    public override string Methods => "GET, HEAD, POST, PATCH";

    /// <inheritdoc/>
    public override bool Takes(string method, bool isJson) => isJson == (method == "PATCH");

    /// <inheritdoc/>
    public override IReadOnlyList<PageLink> Links { get; } = links;

    /// <summary>The form's fields.</summary>
    public FormPlan Form { get; } = form;

    /// <summary>The page's title.</summary>
    public TextPlan Title { get; } = title;

    /// <summary>Every column of the record in the page's own load, as it is stored.</summary>
    public IReadOnlyList<StoredColumn> Columns { get; } = columns;

    /// <summary>How the change is made and noted.</summary>
    public ChangePlan Changes { get; } = changes;

    /// <summary>The links in the app file.</summary>
    public IReadOnlyList<LinkPlan> Apart { get; } = apart;

    /// <summary>The record's own page; null for none.</summary>
    public LinkPlan? Cancel { get; } = cancel;

    /// <summary>Where a form that changes nothing leads: as a save does. Null for the record's own page.</summary>
    public LinkPlan? Then { get; init; }

    /// <summary>The cell with the stored value of a field.</summary>
    public int OrdinalOf(SiteField field) => Columns.First(column => column.Field == field).Ordinal;
}
