using Jexa.Core.Sources;
using Jexa.Sources.Sql;

namespace Jexa.Sources.MariaDb;

/// <summary>MariaDB databases: <c>{ engine: mariadb, connection: "Server=…;Database=…;User ID=…" }</c>.</summary>
public sealed class MariaDbEngine : ISourceEngine
{
    public bool TakesReplica => true;

    public string Name => "mariadb";

    public string Quote(string value) => SqlServer.Quoted(value);

    public ISource Open(SourceSettings settings) => new ServerSource(new MariaDbServer(settings));
}
