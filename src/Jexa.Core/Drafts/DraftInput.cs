using Jexa.Core.Schemas;

namespace Jexa.Core.Drafts;

/// <summary>What a draft is made from.</summary>
/// <param name="Title">The app's name.</param>
/// <param name="Engine">The engine of the source, such as <c>sqlite</c>.</param>
/// <param name="Connection">The connection, as the file should have it.</param>
/// <param name="Schema">What the source says of itself.</param>
public sealed record DraftInput(string Title, string Engine, string Connection, SourceSchema Schema)
{
    /// <summary>A sample of rows of each table, by its name. Empty if there is none.</summary>
    public IReadOnlyDictionary<string, TableSample> Samples { get; init; } = new Dictionary<string, TableSample>();

    /// <summary>Columns that look like foreign keys but are not declared. They are proposed.</summary>
    public IReadOnlyList<RelationGuess> Guesses { get; init; } = [];

    /// <summary>How an API is called, and what its description leaves open. Null for other sources.</summary>
    public ApiDescription? Api { get; init; }
}
