using System.Diagnostics;
using Npgsql;

namespace Jexa.Tests;

/// <summary>A proxy before the tests' own PostgreSQL that gives each transaction any of three sessions.</summary>
public sealed class PrivateProxy
{
    private PrivateProxy(int port) => Port = port;

    public static Lazy<PrivateProxy> BeforePostgres { get; } = new(() => Start(PrivateServer.Postgres.Value));

    public int Port { get; }

    public string Connection(string database) =>
        new NpgsqlConnectionStringBuilder
        {
            Host = "127.0.0.1",
            Port = Port,
            Database = database,
            Username = "jexa",
            Password = PrivateServer.Password,
        }.ConnectionString;

    private static PrivateProxy Start(PrivateServer server)
    {
        PrivateServer.Wanted("pgbouncer");
        var (port, root) = (PrivateServer.FreePort(), Environment.UserName == "root");
        var file = Path.Combine(server.Folder, "proxy.ini");
        File.WriteAllText(
            file,
            $"""
            [databases]
            * = host=127.0.0.1 port={server.Port} user=jexa password='{PrivateServer.Password.Replace("'", "''")}'
            [pgbouncer]
            listen_addr = 127.0.0.1
            listen_port = {port}
            unix_socket_dir =
            auth_type = any
            pool_mode = transaction
            default_pool_size = 3
            max_client_conn = 200
            logfile = {server.Folder}/proxy.log
            """
        );
        if (root)
            Process.Start("chmod", ["a+r", file])!.WaitForExit();
        string[] command = ["pgbouncer", file];
        var process = Process.Start(
            root
                ? new ProcessStartInfo("setpriv", ["--reuid=postgres", "--regid=postgres", "--init-groups", .. command])
                {
                    RedirectStandardError = true,
                    RedirectStandardOutput = true,
                }
                : new ProcessStartInfo(command[0], command[1..]) { RedirectStandardError = true, RedirectStandardOutput = true }
        )!;
        var proxy = new PrivateProxy(port);
        for (var i = 0; i < 100; i++)
        {
            try
            {
                using var connection = new NpgsqlConnection(proxy.Connection("postgres") + ";Pooling=false;Timeout=2");
                connection.Open();
                return proxy;
            }
            catch (NpgsqlException) when (!process.HasExited)
            {
                Thread.Sleep(100);
            }
        }

        throw new InvalidOperationException($"The proxy does not start; see {server.Folder}/proxy.log.");
    }
}
