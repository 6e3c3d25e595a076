using System.Diagnostics;
using System.Globalization;
using System.Text;
using Jexa.Tests;
using Microsoft.Data.Sqlite;

namespace Jexa.Bench.Visits;

/// <summary>
/// What proof takes, each as a command of its own: checking 1,000 pages over 300 tables, and sweeping a million records that
/// refer to 20,021 others.
/// </summary>
internal static class Proofs
{
    private const int Pages = 1_000;
    private const int Tables = 300;

    private static readonly string[] Engines = ["sqlite", "postgresql", "mariadb"];

    private static string Root => Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../.."));

    private static string Program => Path.Combine(Root, "src/Jexa.Cli/bin/Release/net10.0/jexa.dll");

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            await CheckAsync(folder);
            foreach (var engine in Engines)
                await SweepAsync(engine, folder);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task CheckAsync(string folder)
    {
        Scale.MakeTables(Path.Combine(folder, "data.db"), Tables);
        var text = new StringBuilder(Scale.AppFile(Tables));
        for (var i = 0; i < Pages - (2 * Tables); i++)
            text.Append(
                $"  more{i}:\n    path: /more{i}\n    title: \"More {i}\"\n    list: kind{i % Tables}\n    order: [name]\n"
                    + $"    links:\n      - {{ to: one{i % Tables}, column: name }}\n"
            );
        var file = Path.Combine(folder, "check.yaml");
        await File.WriteAllTextAsync(file, text.ToString());
        for (var round = 0; round < 3; round++)
            Tell($"check, {Pages:N0} pages over {Tables} tables", await TimedAsync("check", file));
    }

    private static async Task SweepAsync(string engine, string folder)
    {
        using var server = engine == "sqlite" ? null : PrivateServer.New(engine);
        var connection = server is null ? Path.Combine(folder, "sweep.db") : Made(server);
        if (server is null)
            MakeFile(connection);
        var file = Path.Combine(folder, $"{engine}.yaml");
        await File.WriteAllTextAsync(
            file,
            $$"""
            app: Bench
            sources: { s: { engine: {{engine}}, connection: "{{connection.Replace("\"", "\\\"")}}" } }
            records:
              river: { from: s.river, label: name }
              bridge: { from: s.bridge, label: name }
              visit: { from: s.visit, label: note }
            pages:
              rivers: { path: /rivers, list: river, links: [{ to: river, column: name }] }
              river: { path: "/rivers/{id}", detail: river }
              bridges: { path: /bridges, list: bridge, links: [{ to: bridge, column: name }] }
              bridge: { path: "/bridges/{id}", detail: bridge }
              visits:
                path: /visits
                list: visit
                links: [{ to: visit, column: note }, { to: bridge, column: bridge_id, with: { id: bridge_id } }]
              visit: { path: "/visits/{id}", detail: visit }
            """
        );
        Tell($"sweep of a million, {engine}", await TimedAsync("sweep", file));
    }

    /// <summary>The statements that make the tables, with a word for a series of numbers.</summary>
    private static string[] Statements(Func<int, string> numbers) =>
        [
            "CREATE TABLE river (id INTEGER PRIMARY KEY, name VARCHAR(80) NOT NULL)",
            "CREATE TABLE bridge (id INTEGER PRIMARY KEY, name VARCHAR(80) NOT NULL, "
                + "river_id INTEGER NOT NULL REFERENCES river(id))",
            "CREATE TABLE visit (id INTEGER PRIMARY KEY, note VARCHAR(80) NOT NULL, "
                + "bridge_id INTEGER NOT NULL REFERENCES bridge(id), "
                + "made_on DATE)",
            $"INSERT INTO river SELECT n, 'River ' FROM ({numbers(21)}) x",
            $"INSERT INTO bridge SELECT n, 'Bridge', 1 + n % 21 FROM ({numbers(20_000)}) x",
            $"INSERT INTO visit SELECT n, 'Visit', 1 + n % 20000, '2020-01-01' FROM ({numbers(1_000_000)}) x",
        ];

    private static string Made(PrivateServer server)
    {
        var database = server.NewDatabase();
        foreach (
            var statement in Statements(last =>
                server.Engine == "postgresql"
                    ? $"SELECT n FROM generate_series(1, {last}) AS s(n)"
                    : $"SELECT seq AS n FROM seq_1_to_{last}"
            )
        )
            server.Execute(database, statement.Replace("'2020-01-01'", "DATE '2020-01-01'"));
        return server.Connection(database);
    }

    private static void MakeFile(string path)
    {
        using var connection = new SqliteConnection($"Data Source={path};Pooling=False");
        connection.Open();
        foreach (
            var statement in Statements(last =>
                $"WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < {last}) SELECT n FROM s"
            )
        )
        {
            using var making = connection.CreateCommand();
            making.CommandText = statement;
            making.ExecuteNonQuery();
        }
    }

    /// <summary>Seconds, and the most memory in MB, of one command.</summary>
    private static async Task<(double Seconds, double Megabytes, int Code, string Last)> TimedAsync(string command, string file)
    {
        var clock = Stopwatch.StartNew();
        using var process = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [Program, command, file, .. command == "sweep" ? ["--state", file + ".state"] : Array.Empty<string>()]
            )
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var output = process.StandardOutput.ReadToEndAsync();
        var errors = process.StandardError.ReadToEndAsync();
        var most = 0.0;
        while (!process.WaitForExit(50))
        {
            process.Refresh();
            most = Math.Max(most, process.PeakWorkingSet64 / 1e6);
        }

        var seconds = clock.Elapsed.TotalSeconds;
        var lines = ((await output) + (await errors)).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        return (seconds, most, process.ExitCode, lines.LastOrDefault() ?? "");
    }

    private static void Tell(string what, (double Seconds, double Megabytes, int Code, string Last) took) =>
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{what, -42} {took.Seconds, 6:N2} s {took.Megabytes, 6:N0} MB  exit {took.Code}  {took.Last}"
            )
        );
}
