using Jexa.Core.Sources;
using Jexa.Sources.MariaDb;
using Jexa.Sources.Postgres;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Tests.Conformance;

/// <summary>An empty database of one engine, gone when disposed.</summary>
public sealed class TestDatabase : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("jexa-test-").FullName;
    private readonly PrivateServer? _server;
    private readonly string _name = "";

    /// <param name="pooled">Whether a proxy stands before the server that pools transactions.</param>
    public TestDatabase(string engine, bool pooled = false)
    {
        Engine = engine;
        IsPooled = pooled;
        _server = engine switch
        {
            "postgresql" => PrivateServer.Postgres.Value,
            "mariadb" => PrivateServer.MariaDb.Value,
            _ => null,
        };
        if (_server is not null)
            _name = _server.NewDatabase();
    }

    public string Engine { get; }

    public bool IsPooled { get; }

    public string Folder => _folder;

    public string Connection =>
        IsPooled ? PrivateProxy.BeforePostgres.Value.Connection(_name) : _server?.Connection(_name) ?? "register.db";

    public PrivateServer Server => _server!;

    public string Name => _name;

    public static ISourceEngine EngineOf(string engine) =>
        engine switch
        {
            "postgresql" => new PostgresEngine(),
            "mariadb" => new MariaDbEngine(),
            _ => new SqliteEngine(),
        };

    public ISource Open(double seconds = 5, SourceWriting writing = SourceWriting.Noted) =>
        EngineOf(Engine)
            .Open(
                new SourceSettings(Engine, Connection, "the register", _folder, TimeSpan.FromSeconds(seconds))
                {
                    Writing = writing,
                    PoolsTransactions = IsPooled,
                }
            );

    public void Execute(string sql)
    {
        if (_server is not null)
        {
            _server.Execute(_name, sql);
            return;
        }

        using var connection = new SqliteConnection($"Data Source={_folder}/register.db;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    public string? Ask(string sql)
    {
        if (_server is not null)
            return _server.Ask(_name, sql);
        using var connection = new SqliteConnection($"Data Source={_folder}/register.db;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar() switch
        {
            null or DBNull => null,
            var value => Convert.ToString(value, System.Globalization.CultureInfo.InvariantCulture),
        };
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);
}
