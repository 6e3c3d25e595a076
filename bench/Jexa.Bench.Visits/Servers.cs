using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Tests;

namespace Jexa.Bench.Visits;

/// <summary>
/// The detail page against one written by hand over the same driver, in turn, on each SQL engine; what database servers cost,
/// over private ones: describing 300 tables and drafting an app from them; pages of another source while one is frozen.
/// </summary>
internal static partial class Servers
{
    private const int JexaPort = 7470;
    private const int DirectPort = 7480;
    private const int WholePort = 7490;

    private static readonly int[] Contenders = [JexaPort, DirectPort, WholePort];

    /// <summary>
    /// Until the runtime has compiled everything for good, on either side: sooner, the slower side is measured compiling.
    /// </summary>
    private const int WarmUp = 15;

    private static readonly string[] Engines = ["postgresql", "mariadb"];

    private static string Root => Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../.."));

    private static string Program => Path.Combine(Root, "src/Jexa.Cli/bin/Release/net10.0/jexa.dll");

    private static string Direct => Path.Combine(Root, "bench/Jexa.Bench.Direct/bin/Release/net10.0/direct.dll");

    /// <summary>The detail page on SQL engines.</summary>
    public static async Task CompareDetailsAsync(int rounds, int seconds, IEnumerable<string> engines)
    {
        foreach (var engine in engines)
        {
            if (engine == "sqlite")
            {
                await AgainstHandAsync(
                    engine,
                    [.. Enumerable.Repeat(Path.Combine(Root, "demo/data/register.db"), Contenders.Length)],
                    rounds,
                    seconds
                );
                continue;
            }

            var servers = Contenders.Select(_ => PrivateServer.New(engine)).ToList();
            try
            {
                var connections = new List<string>();
                foreach (var server in servers)
                    connections.Add(await FillAsync(server));
                await AgainstHandAsync(engine, connections, rounds, seconds);
            }
            finally
            {
                foreach (var server in servers)
                    server.Dispose();
            }
        }
    }

    public static async Task RunAsync()
    {
        foreach (var engine in Engines)
        {
            using var server = PrivateServer.New(engine);
            await DescribeAsync(server);
            await FreezeAsync(server, await FillAsync(server));
        }
    }

    /// <summary>Copies the demo's data there.</summary>
    private static async Task<string> FillAsync(PrivateServer server)
    {
        var connection = server.Connection(server.NewDatabase());
        await EndedAsync(Begin(Program, "demo", "into", server.Engine, connection));
        return connection;
    }

    /// <summary>
    /// Starts all contenders as often as there are of them, each time in another order and over another of the databases: whoever
    /// comes first to a server is the faster by one or two percent.
    /// </summary>
    private static async Task AgainstHandAsync(string engine, IReadOnlyList<string> connections, int rounds, int seconds)
    {
        var starts = new List<Dictionary<int, (double PerSecond, double P99)>>();
        for (var start = 0; start < Contenders.Length; start++)
        {
            using var folder = new Folder();
            var order = Contenders.Select((_, i) => Contenders[(i + start) % Contenders.Length]).ToArray();
            var processes = new List<Process>();
            for (var i = 0; i < order.Length; i++)
                processes.Add(await BeginAsync(engine, connections[i], order[i], folder));
            foreach (var port in order)
                await LoadAsync(port, "/bridges/7", 16, WarmUp);
            var loads = order.ToDictionary(port => port, _ => new List<(double PerSecond, double P99)>());
            for (var round = 0; round < rounds; round++)
                foreach (var port in round % 2 == 0 ? order : order.Reverse())
                    loads[port].Add(await LoadAsync(port, "/bridges/7", 16, seconds));
            starts.Add(
                loads.ToDictionary(
                    pair => pair.Key,
                    pair => (Median(pair.Value, load => load.PerSecond), Median(pair.Value, load => load.P99))
                )
            );
            foreach (var process in processes)
            {
                process.Kill();
                await process.WaitForExitAsync();
                process.Dispose();
            }
        }

        Console.WriteLine(
            $"{engine, -12} detail page: {starts.Average(start => start[JexaPort].PerSecond):N0} /s, p99 "
                + $"{starts.Average(start => start[JexaPort].P99):N0} µs; "
                + $"{Against("by hand", DirectPort)}; {Against("by hand with the same headers", WholePort)}"
        );

        string Against(string what, int port) =>
            $"{what} {starts.Average(start => start[port].PerSecond):N0} /s, ratio "
            + $"{starts.Average(start => start[JexaPort].PerSecond / start[port].PerSecond):N3}"
            + $" ({string.Join(", ", starts.Select(start => $"{start[JexaPort].PerSecond / start[port].PerSecond:N3}"))}), "
            + $"p99 {starts.Average(start => start[port].P99):N0} µs";
    }

    private static async Task<Process> BeginAsync(string engine, string connection, int contender, Folder folder)
    {
        if (contender == JexaPort)
            return await ServeAsync(
                folder,
                File.ReadAllText(Path.Combine(Root, "bench/plain.yaml"))
                    .Replace("{ engine: sqlite, connection: ../demo/data/register.db }", Source(engine, connection))
            );
        var process = Begin(
            Direct,
            [
                engine,
                connection,
                contender.ToString(CultureInfo.InvariantCulture),
                .. contender == WholePort ? ["whole"] : Array.Empty<string>(),
            ]
        );
        await AwaitAsync(contender);
        return process;
    }

    private static async Task DescribeAsync(PrivateServer server)
    {
        var database = server.NewDatabase();
        for (var i = 0; i < 300; i++)
            server.Execute(
                database,
                $"CREATE TABLE kind{i} (id integer PRIMARY KEY, name varchar(60) NOT NULL, code varchar(20) "
                    + "UNIQUE, made_on date, size double "
                    + $"precision{(i == 0 ? "" : $", parent integer REFERENCES kind{i - 1} (id)")})"
            );
        await using var sources = SourceEngines.Open();
        var times = new List<double>();
        for (var round = 0; round < 5; round++)
        {
            var source = sources.Open(
                new SourceSettings(
                    server.Engine,
                    server.Connection(database) + (round > 0 ? new string(';', round) : ""),
                    "300 tables",
                    "/",
                    TimeSpan.FromSeconds(30)
                )
            );
            var clock = Stopwatch.StartNew();
            await source.DescribeAsync(CancellationToken.None);
            times.Add(clock.Elapsed.TotalSeconds);
        }

        Console.WriteLine(
            $"{server.Engine, -12} 300 tables described in {times[0]:N2} s the first time, {times.Min():N2} s later"
        );
        var drafting = Stopwatch.StartNew();
        using (
            var draft = Begin(
                Program,
                "draft",
                server.Engine,
                server.Connection(database),
                "--out",
                Path.Combine(Path.GetTempPath(), $"jexa-bench-{Environment.ProcessId}.yaml")
            )
        )
            await EndedAsync(draft);
        Console.WriteLine(
            $"{server.Engine, -12} 300 tables drafted in {drafting.Elapsed.TotalSeconds:N2} s, the start of the program included"
        );
        File.Delete(Path.Combine(Path.GetTempPath(), $"jexa-bench-{Environment.ProcessId}.yaml"));
    }

    private static async Task FreezeAsync(PrivateServer server, string connection)
    {
        using var folder = new Folder();
        using var jexa = await ServeAsync(
            folder,
            $$"""
            app: Two sources
            sources:
              near: { engine: sqlite, connection: {{Path.Combine(Root, "demo/data/register.db")}} }
              far: {{Source(server.Engine, connection)}}
            records: { bridge: { from: near.bridge, label: name }, district: { from: far.district, label: name } }
            pages: { bridge: { path: "/bridges/{id}", detail: bridge }, bridges: { path: /bridges, list: bridge }, district: { path: "/districts/{id}", detail: district }, districts: { path: /districts, list: district } }
            """
        );
        await LoadAsync(JexaPort, "/bridges/7", 16, 5);
        var well = await BesideAsync(30);
        server.Freeze();
        var frozen = await BesideAsync(30);
        server.Thaw();
        Console.WriteLine(
            $"{server.Engine, -12} pages of another source: p99 {well.P99:N0} µs, while it is frozen "
                + $"{frozen.P99:N0} µs, ratio {frozen.P99 / well.P99:N2}"
        );
        jexa.Kill();

        async Task<(double PerSecond, double P99)> BesideAsync(int time)
        {
            var far = LoadAsync(JexaPort, "/districts", 8, time);
            var near = await LoadAsync(JexaPort, "/bridges/7", 16, time);
            await far;
            return near;
        }
    }

    private static string Source(string engine, string connection) =>
        $"{{ engine: {engine}, connection: \"{connection.Replace("\"", "\\\"")}\" }}";

    private static async Task<Process> ServeAsync(Folder folder, string app)
    {
        File.WriteAllText(folder.File("app.yaml"), app);
        var jexa = Begin(
            Program,
            "serve",
            folder.File("app.yaml"),
            "--port",
            JexaPort.ToString(CultureInfo.InvariantCulture),
            "--state",
            folder.File("state")
        );
        await AwaitAsync(JexaPort);
        return jexa;
    }

    private static Process Begin(string program, params string[] arguments)
    {
        var process = Process.Start(
            new ProcessStartInfo("dotnet", [program, .. arguments])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        process.OutputDataReceived += (_, _) => { };
        process.ErrorDataReceived += (_, line) =>
        {
            if (line.Data?.Contains("error", StringComparison.Ordinal) == true)
                Console.Error.WriteLine(line.Data);
        };
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => End(process);
        return process;
    }

    private static void End(Process process)
    {
        try
        {
            process.Kill();
        }
        catch (InvalidOperationException)
        {
            // It has ended, or nobody remembers it.
        }
    }

    private static async Task EndedAsync(Process process)
    {
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
            throw new InvalidOperationException($"It ended with {process.ExitCode}.");
    }

    private static async Task AwaitAsync(int port)
    {
        using var http = new HttpClient();
        for (var i = 0; i < 300; i++)
        {
            try
            {
                if ((await http.GetAsync($"http://127.0.0.1:{port}/bridges/7")).IsSuccessStatusCode)
                    return;
            }
            catch (HttpRequestException)
            {
                // It is not there yet.
            }

            await Task.Delay(100);
        }

        throw new InvalidOperationException($"Nothing answers on port {port}.");
    }

    private static async Task<(double PerSecond, double P99)> LoadAsync(int port, string path, int connections, int seconds)
    {
        using var load = Process.Start(
            new ProcessStartInfo(
                "wrk",
                ["-t1", $"-c{connections}", $"-d{seconds}s", "--latency", $"http://127.0.0.1:{port}{path}"]
            )
            {
                RedirectStandardOutput = true,
            }
        )!;
        var said = await load.StandardOutput.ReadToEndAsync();
        var p99 = Latency().Match(said);
        return (
            double.Parse(PerSecond().Match(said).Groups[1].Value, CultureInfo.InvariantCulture),
            double.Parse(p99.Groups[1].Value, CultureInfo.InvariantCulture)
                * p99.Groups[2].Value switch
                {
                    "us" => 1,
                    "ms" => 1_000,
                    _ => 1_000_000,
                }
        );
    }

    private static double Median(List<(double PerSecond, double P99)> loads, Func<(double PerSecond, double P99), double> of) =>
        loads.Select(of).Order().ElementAt(loads.Count / 2);

    [GeneratedRegex(@"Requests/sec:\s+([\d.]+)")]
    private static partial Regex PerSecond();

    [GeneratedRegex(@"99%\s+([\d.]+)(us|ms|s)")]
    private static partial Regex Latency();

    private sealed class Folder : IDisposable
    {
        private readonly string _path = Directory.CreateTempSubdirectory("jexa-bench-").FullName;

        public string File(string name) => Path.Combine(_path, name);

        public void Dispose() => Directory.Delete(_path, recursive: true);
    }
}
