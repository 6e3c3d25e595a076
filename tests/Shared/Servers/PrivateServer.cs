using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using MySqlConnector;
using Npgsql;

namespace Jexa.Tests;

/// <summary>
/// A database server of the tests' own: in a temporary folder, on a free port of loopback, gone when the tests end, also if they
/// are killed. It can be stopped, started again, and frozen in the middle of what it does.
/// </summary>
public abstract class PrivateServer : IDisposable
{
    public const string Password = "pass'w;ord";

    /// <summary>Told of each program before it is started; tests leave themselves out here if it is lacking.</summary>
    public static Action<string> Wanted { get; set; } = _ => { };

    private Process? _process;
    private Process? _watch;
    private bool _wasUp;
    private int _databases;

    public static Lazy<PrivateServer> Postgres { get; } = new(() => New("postgresql"));

    public static Lazy<PrivateServer> MariaDb { get; } = new(() => New("mariadb"));

    /// <summary>One of a test's own, to be stopped and frozen without anybody else noticing.</summary>
    public static PrivateServer New(string engine)
    {
        Wanted(engine);
        return Started(engine == "postgresql" ? new PostgresServer() : new MariaDbServer());
    }

    public abstract string Engine { get; }

    public string Folder { get; } = Directory.CreateTempSubdirectory("jexa-server-").FullName;

    public int Port { get; private set; }

    /// <summary>The connection to a database as an app file writes it.</summary>
    public abstract string Connection(string database, string user = "jexa", string password = Password);

    public void Execute(string database, string sql)
    {
        using var connection = Open(database);
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    /// <summary>The first value of the first row as text; null if there is none.</summary>
    public string? Ask(string database, string sql)
    {
        using var connection = Open(database);
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar() switch
        {
            null or DBNull => null,
            DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTime at => at.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            var value => Convert.ToString(value, CultureInfo.InvariantCulture),
        };
    }

    /// <summary>An open connection to a database, closed when disposed.</summary>
    public abstract System.Data.Common.DbConnection Open(string database);

    /// <summary>A new empty database.</summary>
    public string NewDatabase()
    {
        var name = $"test_{Interlocked.Increment(ref _databases)}_{Environment.ProcessId}";
        Make(name);
        return name;
    }

    /// <summary>A port of loopback that nobody uses at this moment.</summary>
    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    public void Start()
    {
        for (var attempt = 0; attempt < 5; attempt++)
        {
            if (Port == 0)
                Port = FreePort();
            _process = Launch();
            // When the tests end, or are killed, this ends the server and removes its folder. Not the tests themselves: a process
            // that
            // ends takes half a minute to wait for its children.
            // The folder's name is not in the command line, by which everything of the server is found: the watch would end
            // itself.
            _watch ??= Process.Start(
                new ProcessStartInfo(
                    "setsid",
                    [
                        "sh",
                        "-c",
                        $"while kill -0 {Environment.ProcessId} 2>/dev/null; do sleep 0.5; done; pkill -9 -f "
                            + "\"$SERVER\"; rm -rf \"$SERVER\"",
                    ]
                )
                {
                    RedirectStandardOutput = true,
                    Environment = { ["SERVER"] = Folder },
                }
            );
            if (IsUp())
            {
                _wasUp = true;
                return;
            }

            // One that was up keeps its port: whoever is connected to it looks there.
            Signal("KILL");
            if (!_wasUp)
                Port = 0;
            Thread.Sleep(500);
        }

        throw new InvalidOperationException($"{Engine} does not start; see {Folder}/log.");
    }

    /// <summary>Ends it at once, as a crash would.</summary>
    public void Stop()
    {
        Signal("KILL");
        _process!.WaitForExit(10_000);
        for (var i = 0; i < 100 && Pids().Count > 0; i++)
            Thread.Sleep(50);
    }

    /// <summary>Stops every process of it where it stands: connections stay open and nothing answers.</summary>
    public void Freeze()
    {
        Signal("STOP");
        // The signal is sent, not yet obeyed: each thread stops when it is next looked at.
        for (var i = 0; i < 200 && !Pids().All(IsStopped); i++)
            Thread.Sleep(10);
    }

    private static bool IsStopped(string pid)
    {
        try
        {
            return Directory
                .GetDirectories($"/proc/{pid}/task")
                .All(thread =>
                    File.ReadLines($"{thread}/status").Any(line => line.StartsWith("State:\tT", StringComparison.Ordinal))
                );
        }
        catch (IOException)
        {
            // It has ended.
            return true;
        }
    }

    public void Thaw() => Signal("CONT");

    public void Dispose()
    {
        Signal("CONT");
        Signal("KILL");
        _process?.WaitForExit(5_000);
        _watch?.Kill(entireProcessTree: true);
        for (var i = 0; i < 20 && Directory.Exists(Folder); i++)
        {
            try
            {
                Directory.Delete(Folder, recursive: true);
            }
            catch (IOException)
            {
                Thread.Sleep(100);
            }
        }

        GC.SuppressFinalize(this);
    }

    protected abstract Process Launch();

    protected abstract void Make(string database);

    protected static bool IsRoot => Environment.UserName == "root";

    protected static void Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        if (process.ExitCode != 0)
            throw new InvalidOperationException($"{program} failed: {error.Result}");
    }

    protected static Process Begin(string program, params string[] arguments) =>
        Process.Start(
            new ProcessStartInfo(program, arguments)
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                RedirectStandardInput = true,
            }
        )!;

    private bool IsUp()
    {
        for (var i = 0; i < 150; i++)
        {
            try
            {
                Ask("", "SELECT 1");
                return true;
            }
            catch (Exception) when (!_process!.HasExited)
            {
                Thread.Sleep(100);
            }
            catch (Exception)
            {
                return false;
            }
        }

        return false;
    }

    private void Signal(string signal)
    {
        foreach (var pid in Pids())
        {
            using var kill = Process.Start(new ProcessStartInfo("kill", [$"-{signal}", pid]) { RedirectStandardError = true });
            kill?.WaitForExit();
        }
    }

    /// <summary>The server's own process and those it made.</summary>
    private List<string> Pids()
    {
        using var list = Process.Start(
            new ProcessStartInfo("ps", ["-eo", "pid=,ppid=,stat=,args="]) { RedirectStandardOutput = true }
        )!;
        var rows = list
            .StandardOutput.ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(line => line.Split(' ', 4, StringSplitOptions.RemoveEmptyEntries))
            .Where(row => row.Length == 4 && !row[2].StartsWith('Z'))
            .ToList();
        var own = rows.Where(row =>
                row[3].Contains(Folder, StringComparison.Ordinal)
                && !row[3].Contains("while kill", StringComparison.Ordinal)
                && !row[3].StartsWith("kill", StringComparison.Ordinal)
            )
            .Select(row => row[0])
            .ToHashSet();
        foreach (var row in rows)
            if (own.Contains(row[1]) && !row[3].Contains("while kill", StringComparison.Ordinal))
                own.Add(row[0]);
        return [.. own];
    }

    private static PrivateServer Started(PrivateServer server)
    {
        server.Start();
        return server;
    }

    private sealed class PostgresServer : PrivateServer
    {
        private readonly string _bin = Directory.GetDirectories("/usr/lib/postgresql").Order().Last() + "/bin";

        public PostgresServer()
        {
            File.WriteAllText(Folder + "/password", Password);
            if (IsRoot)
                Run("chown", "-R", "postgres", Folder);
            Run(
                IsRoot ? "setpriv" : _bin + "/initdb",
                As(
                    [
                        "-D",
                        Folder + "/data",
                        "-A",
                        "scram-sha-256",
                        "-U",
                        "jexa",
                        "--pwfile",
                        Folder + "/password",
                        "--no-sync",
                        "-E",
                        "UTF8",
                        "--locale",
                        "C.UTF-8",
                    ],
                    "/initdb"
                )
            );
        }

        public override string Engine => "postgresql";

        public override string Connection(string database, string user, string password) =>
            new NpgsqlConnectionStringBuilder
            {
                Host = "127.0.0.1",
                Port = Port,
                Database = database.Length == 0 ? "postgres" : database,
                Username = user,
                Password = password,
            }.ConnectionString;

        public override System.Data.Common.DbConnection Open(string database)
        {
            var connection = new NpgsqlConnection(Connection(database, "jexa", Password) + ";Pooling=false;Timeout=3");
            connection.Open();
            return connection;
        }

        protected override Process Launch() =>
            Begin(
                IsRoot ? "setpriv" : _bin + "/postgres",
                As(
                    [
                        "-D",
                        Folder + "/data",
                        "-k",
                        Folder,
                        "-h",
                        "127.0.0.1",
                        "-p",
                        $"{Port}",
                        "-c",
                        "fsync=off",
                        "-c",
                        "full_page_writes=off",
                        "-c",
                        "max_connections=80",
                    ],
                    "/postgres"
                )
            );

        protected override void Make(string database)
        {
            Execute("", $"CREATE DATABASE {database}");
            Execute(database, "CREATE EXTENSION IF NOT EXISTS citext");
        }

        /// <summary>The server refuses to be run by root.</summary>
        private string[] As(string[] arguments, string program) =>
            IsRoot ? ["--reuid=postgres", "--regid=postgres", "--init-groups", _bin + program, .. arguments] : arguments;
    }

    private sealed class MariaDbServer : PrivateServer
    {
        public MariaDbServer()
        {
            Run(
                "mariadb-install-db",
                "--no-defaults",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                $"--datadir={Folder}/data",
                $"--user={Environment.UserName}"
            );
            File.WriteAllText(
                Folder + "/init.sql",
                "CREATE USER IF NOT EXISTS 'jexa'@'127.0.0.1' IDENTIFIED BY "
                    + $"'{Password.Replace("'", "''")}';\nGRANT ALL ON *.* TO 'jexa'@'127.0.0.1' WITH GRANT OPTION;\n"
            );
        }

        public override string Engine => "mariadb";

        public override string Connection(string database, string user, string password) =>
            new MySqlConnectionStringBuilder
            {
                Server = "127.0.0.1",
                Port = (uint)Port,
                Database = database,
                UserID = user,
                Password = password,
            }.ConnectionString;

        public override System.Data.Common.DbConnection Open(string database)
        {
            var connection = new MySqlConnection(
                Connection(database, "jexa", Password) + ";Pooling=false;ConnectionTimeout=3;TreatTinyAsBoolean=false"
            );
            connection.Open();
            return connection;
        }

        protected override Process Launch() =>
            Begin(
                "mariadbd",
                "--no-defaults",
                $"--user={Environment.UserName}",
                $"--datadir={Folder}/data",
                $"--socket={Folder}/socket",
                "--bind-address=127.0.0.1",
                $"--port={Port}",
                "--innodb-flush-log-at-trx-commit=2",
                "--innodb-buffer-pool-size=64M",
                "--max-connections=80",
                "--sql-mode=STRICT_TRANS_TABLES,PIPES_AS_CONCAT",
                $"--init-file={Folder}/init.sql",
                $"--pid-file={Folder}/pid",
                $"--log-error={Folder}/log"
            );

        protected override void Make(string database) =>
            Execute("", $"CREATE DATABASE {database} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin");
    }
}
