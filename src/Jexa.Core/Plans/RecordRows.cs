namespace Jexa.Core.Plans;

/// <summary>
/// The rows that a query is made over. Every query takes them, so that none can be made without saying whether they are those
/// that a visitor may see: <c>SiteRecord.Seen</c> makes these, and nothing else does.
/// </summary>
public sealed record RecordRows
{
    private RecordRows(RowOrigin origin, IReadOnlyList<Condition> visible) => (Origin, Visible) = (origin, visible);

    public RowOrigin Origin { get; }

    /// <summary>All of these hold for each of the rows; their columns are the rows' own.</summary>
    public IReadOnlyList<Condition> Visible { get; }

    /// <summary>The rows that a visitor may see.</summary>
    public static RecordRows Seen(RowOrigin origin, IReadOnlyList<Condition> visible) => new(origin, visible);

    /// <summary>
    /// All rows, also those that no visitor may see. Only for those who decide by themselves what they tell of them: a lookup
    /// that tells hidden from unknown, a change, what the source keeps unique.
    /// </summary>
    public static RecordRows Whole(RowOrigin origin) => new(origin, []);
}
