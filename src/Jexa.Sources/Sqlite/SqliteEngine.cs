using Jexa.Core.Sources;
using SQLitePCL;

namespace Jexa.Sources.Sqlite;

/// <summary>SQLite database files: <c>{ engine: sqlite, connection: FILE }</c>.</summary>
public sealed class SqliteEngine : ISourceEngine
{
    static SqliteEngine() => Prepare();

    /// <summary>
    /// Tells SQLite that each connection has one caller at a time, so that it takes no lock for every cell. Call it before
    /// anybody in this process uses the library. Later it has no effect; all works, but slower.
    /// </summary>
    public static void Prepare()
    {
        Batteries_V2.Init();
        raw.sqlite3_config(raw.SQLITE_CONFIG_MULTITHREAD);
    }

    public string Name => "sqlite";

    public ISource Open(SourceSettings settings) => new SqliteSource(settings);
}
