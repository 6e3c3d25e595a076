namespace Jexa.Sources.Postgres;

/// <summary>The columns of each constraint, by table and name.</summary>
internal sealed record PostgresRules(IReadOnlyDictionary<(string Table, string Name), IReadOnlyList<string>> Columns)
{
    public static PostgresRules None { get; } = new(new Dictionary<(string, string), IReadOnlyList<string>>());

    public IReadOnlyList<string>? ColumnsOf(string table, string name) => Columns.GetValueOrDefault((table, name));
}
