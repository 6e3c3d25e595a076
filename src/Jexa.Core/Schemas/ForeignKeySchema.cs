namespace Jexa.Core.Schemas;

/// <summary>A foreign key: its columns, and the columns of the other table that they refer to.</summary>
public sealed record ForeignKeySchema(IReadOnlyList<string> Columns, string Table, IReadOnlyList<string> References)
{
    /// <summary>What happens to the rows with this foreign key when the row they refer to is deleted.</summary>
    public DeleteRule OnDelete { get; init; }
}
