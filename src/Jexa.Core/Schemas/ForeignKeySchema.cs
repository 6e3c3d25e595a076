namespace Jexa.Core.Schemas;

/// <summary>A foreign key: columns here, and the columns of the other table they must be found in.</summary>
public sealed record ForeignKeySchema(IReadOnlyList<string> Columns, string Table, IReadOnlyList<string> References)
{
    /// <summary>What becomes of the rows that hold it when the row it leads to is deleted.</summary>
    public DeleteRule OnDelete { get; init; }
}
