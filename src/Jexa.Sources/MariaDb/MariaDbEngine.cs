using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sql;
using MySqlConnector;

namespace Jexa.Sources.MariaDb;

/// <summary>MariaDB databases: <c>{ engine: mariadb, connection: "Server=…;Database=…;User ID=…" }</c>.</summary>
public sealed class MariaDbEngine : ISourceEngine
{
    public bool TakesReplica => true;

    public string Name => "mariadb";

    public string Quote(string value) => SqlServer.Quoted(value);

    public ISource Open(SourceSettings settings) => new ServerSource(new MariaDbServer(settings));
}
