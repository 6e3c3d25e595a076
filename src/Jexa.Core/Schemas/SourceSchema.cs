namespace Jexa.Core.Schemas;

/// <summary>What a source contains, at one moment. Names compare ordinally, as the source spells them.</summary>
public sealed record SourceSchema(IReadOnlyList<TableSchema> Tables)
{
    /// <summary>Why nothing can be written, as the end of a sentence; null if something can.</summary>
    public string? ReadOnlyBecause { get; init; }

    /// <summary>
    /// Whether our own table (<c>jexa_commit</c>) exists and can be used, or could be created, as far as the source tells.
    /// </summary>
    public bool TakesNotes { get; init; } = true;

    /// <summary>The most columns that the result of a query can have.</summary>
    public int MostCells { get; init; } = int.MaxValue;

    /// <summary>What a form's query reads beside each column twice, as it is stored and as it is shown: labels, flags.</summary>
    private const int FormExtras = 20;

    /// <summary>Whether a form can read the rows of a table.</summary>
    public bool CanFillForms(TableSchema table) => (2 * table.Columns.Count) + FormExtras <= MostCells;

    /// <summary>What is wrong or doubtful in parts of it. The rest can be used.</summary>
    public IReadOnlyList<SourceNote> Notes { get; init; } = [];

    /// <summary>Tables and views that exist and may not be read, each with the remedy as a sentence.</summary>
    public IReadOnlyDictionary<string, string> Unreadable { get; init; } = new Dictionary<string, string>();

    /// <summary>The table or view of this name, compared letter by letter. Null if there is none.</summary>
    public TableSchema? Find(string name) => Tables.FirstOrDefault(table => table.Name == name);
}
