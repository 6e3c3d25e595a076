using Jexa.Core.Sources;
using Jexa.Sources.Sql;

namespace Jexa.Sources.Postgres;

/// <summary>PostgreSQL databases: <c>{ engine: postgresql, connection: "Host=…;Database=…;Username=…" }</c>.</summary>
public sealed class PostgresEngine : ISourceEngine
{
    public string Name => "postgresql";

    public string Quote(string value) => SqlServer.Quoted(value);

    public bool TakesReplica => true;

    public bool TakesPooling => true;

    public ISource Open(SourceSettings settings) => new ServerSource(new PostgresServer(settings));
}
