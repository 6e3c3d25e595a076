namespace Jexa.Sources.Sql;

/// <summary>What a server described, by the names in the schema.</summary>
internal sealed record NativeSchema(IReadOnlyDictionary<string, NativeTable> Tables)
{
    public static NativeSchema Nothing { get; } = new(new Dictionary<string, NativeTable>());

    /// <summary>The columns of unique indexes by index name, for servers whose errors contain only that name.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> KeyColumns { get; init; } =
        new Dictionary<string, IReadOnlyList<string>>();

    /// <summary>The columns of the developer's own queries, by their text.</summary>
    public System.Collections.Concurrent.ConcurrentDictionary<string, IReadOnlyList<NativeColumn>> Queries { get; init; } = [];

    /// <summary>A column of a table or of a developer's own query; null if it was not described.</summary>
    public NativeColumn? Find(Core.Plans.RowOrigin origin, string column) =>
        origin.Query is { } query
            ? Queries.GetValueOrDefault(query)?.FirstOrDefault(known => known.Column.Name == column)
            : Tables.GetValueOrDefault(origin.Name)?.Find(column);
}
