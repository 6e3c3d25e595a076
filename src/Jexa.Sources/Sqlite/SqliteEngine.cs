using Jexa.Core.Sources;

namespace Jexa.Sources.Sqlite;

/// <summary>SQLite database files: <c>{ engine: sqlite, connection: FILE }</c>.</summary>
public sealed class SqliteEngine : ISourceEngine
{
    public string Name => "sqlite";

    public ISource Open(SourceSettings settings) => new SqliteSource(settings);
}
