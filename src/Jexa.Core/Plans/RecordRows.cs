namespace Jexa.Core.Plans;

/// <summary>
/// The rows that a query reads. Every query takes one, so that each says whether it reads only rows that a visitor may see. Only
/// <c>SiteRecord.Seen</c> makes those.
/// </summary>
public sealed record RecordRows
{
    private RecordRows(RowOrigin origin, IReadOnlyList<Condition> visible) => (Origin, Visible) = (origin, visible);

    /// <summary>The table, view or query that the rows come from.</summary>
    public RowOrigin Origin { get; }

    /// <summary>Conditions that hold for all of the rows. Their columns belong to the rows.</summary>
    public IReadOnlyList<Condition> Visible { get; }

    /// <summary>The rows that a visitor may see.</summary>
    public static RecordRows Seen(RowOrigin origin, IReadOnlyList<Condition> visible) => new(origin, visible);

    /// <summary>
    /// All rows, including those that no visitor may see. Only for code that itself decides what to tell: a lookup that tells
    /// hidden from unknown, a change, a check of unique values.
    /// </summary>
    public static RecordRows Whole(RowOrigin origin) => new(origin, []);
}
