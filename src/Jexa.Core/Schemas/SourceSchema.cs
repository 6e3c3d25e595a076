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

    /// <summary>What is wrong or doubtful in parts of it. The rest can be used.</summary>
    public IReadOnlyList<SourceNote> Notes { get; init; } = [];

    /// <summary>Tables and views that exist and may not be read, each with the remedy as a sentence.</summary>
    public IReadOnlyDictionary<string, string> Unreadable { get; init; } = new Dictionary<string, string>();

    /// <summary>The table or view of this name, compared letter by letter. Null if there is none.</summary>
    public TableSchema? Find(string name) => Tables.FirstOrDefault(table => table.Name == name);
}
