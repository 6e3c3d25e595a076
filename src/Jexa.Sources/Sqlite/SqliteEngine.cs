using Jexa.Core.Sources;
using SQLitePCL;

namespace Jexa.Sources.Sqlite;

/// <summary>SQLite database files: <c>{ engine: sqlite, connection: FILE }</c>.</summary>
public sealed class SqliteEngine : ISourceEngine
{
    static SqliteEngine() => Prepare();

    /// <summary>
    /// Tells SQLite that each connection has one caller at a time, so that it need not take a lock for every cell. To be said
    /// before anybody uses the library in this process; later it changes nothing, and all works as well, but slower.
    /// </summary>
    public static void Prepare()
    {
        Batteries_V2.Init();
        raw.sqlite3_config(raw.SQLITE_CONFIG_MULTITHREAD);
    }

    public string Name => "sqlite";

    public ISource Open(SourceSettings settings) => new SqliteSource(settings);
}
