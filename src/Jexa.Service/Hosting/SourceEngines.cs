using Jexa.Core.Sources;
using Jexa.Sources.Files;
using Jexa.Sources.Http;
using Jexa.Sources.MariaDb;
using Jexa.Sources.Postgres;
using Jexa.Sources.Sqlite;

namespace Jexa.Service.Hosting;

/// <summary>The engines this build has.</summary>
public static class SourceEngines
{
    /// <summary>Readies the libraries that engines use. Call it before anything else in the process uses them.</summary>
    public static void Prepare() => SqliteEngine.Prepare();

    /// <summary>A registry that opens sources by these engines.</summary>
    public static SourceRegistry Open() =>
        new([new SqliteEngine(), new PostgresEngine(), new MariaDbEngine(), new FilesEngine(), new HttpEngine()]);
}
