using System.Diagnostics;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jexa.Demo;

namespace Jexa.Service.Tests;

/// <summary>What one program run printed and how it ended.</summary>
public sealed record Ran(int ExitCode, string Out, string Error);

/// <summary>A raw HTTP answer: what came over the wire.</summary>
public sealed record RawAnswer(int Status, string Head, string Body)
{
    public string? Header(string name) =>
        Regex.Match(Head, $@"^{Regex.Escape(name)}: (.*?)\r?$", RegexOptions.Multiline | RegexOptions.IgnoreCase)
            is { Success: true } found
            ? found.Groups[1].Value
            : null;
}

/// <summary>The program itself, started as its users start it, on free ports and with a state folder of its own.</summary>
public sealed class RunningService : IDisposable
{
    private readonly string[] _command;
    private string? _folder;
    private Process _process;
    private readonly StringBuilder _error = new();

    private RunningService(string[] command, string state)
    {
        _command = command;
        State = state;
        _process = null!;
    }

    public string State { get; }

    public string PagesUrl { get; private set; } = "";

    public string ConsoleUrl { get; private set; } = "";

    public string StartCode { get; private set; } = "";

    public int Port => new Uri(PagesUrl).Port;

    public int ConsolePort => new Uri(ConsoleUrl).Port;

    public int ProcessId => _process.Id;

    /// <summary>Waits until the program has said something on its standard error.</summary>
    public async Task SaysAsync(string words)
    {
        for (var tries = 0; tries < 300 && !Errors.Contains(words); tries++)
            await Task.Delay(100);
        Assert.Contains(words, Errors);
    }

    public string Errors
    {
        get
        {
            lock (_error)
                return _error.ToString();
        }
    }

    public static string Program => Path.Combine(Repository.Root, "src/Jexa.Cli/bin/Release/net10.0/jexa.dll");

    public static Task<RunningService> StartAsync(params string[] command) =>
        StartInAsync(Directory.CreateTempSubdirectory("jexa-state-").FullName, command);

    /// <param name="state">The state folder; it goes with the service.</param>
    public static async Task<RunningService> StartInAsync(string state, params string[] command)
    {
        var service = new RunningService(command, state);
        await service.BeginAsync("0", "0");
        return service;
    }

    /// <param name="folder">The folder that the program is started in.</param>
    public static async Task<RunningService> StartAtAsync(string folder, params string[] command)
    {
        var service = new RunningService(command, Directory.CreateTempSubdirectory("jexa-state-").FullName) { _folder = folder };
        await service.BeginAsync("0", "0");
        return service;
    }

    /// <summary>Starts the same again after its process has ended: same ports, same state folder.</summary>
    /// <param name="before">A shell command that is run before, in the same process: <c>ulimit -n 640</c>.</param>
    public Task RestartAsync(string? before = null)
    {
        _process.Dispose();
        return BeginAsync(Port.ToString(), ConsolePort.ToString(), before);
    }

    private async Task BeginAsync(string port, string consolePort, string? before = null)
    {
        // The console has no port of its own to be chosen.
        string[] ports = _command is ["console"] ? ["--port", port] : ["--port", port, "--console-port", consolePort];
        _process = Launch([.. _command, .. ports, "--state", State], before, _folder);
        _process.ErrorDataReceived += (_, line) =>
        {
            lock (_error)
                _error.AppendLine(line.Data);
        };
        _process.BeginErrorReadLine();
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        StartCode = "";
        while (StartCode.Length == 0)
        {
            var line = await _process.StandardOutput.ReadLineAsync(patience.Token)
                ?? throw new InvalidOperationException($"The service ended at once: {Errors}");
            if (Regex.Match(line, @"pages\s+(http://\S+)") is { Success: true } pages)
                PagesUrl = pages.Groups[1].Value;
            if (Regex.Match(line, @"console\s+(http://\S+?)#code=(\S+)") is not { Success: true } console)
                continue;
            ConsoleUrl = console.Groups[1].Value;
            StartCode = console.Groups[2].Value;
        }
    }

    /// <summary>Asks the management API with its token; sends a body as JSON.</summary>
    /// <param name="method">GET without a body and POST with one, if nothing else is said.</param>
    public async Task<(int Status, JsonElement Body)> ManageAsync(string path, object? body = null, string? method = null)
    {
        using var http = new HttpClient();
        using var request = new HttpRequestMessage(
            new HttpMethod(method ?? (body is null ? "GET" : "POST")),
            $"{ConsoleUrl}api/{path}"
        );
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", Token);
        if (body is not null)
            request.Content = JsonContent.Create(body);
        using var answer = await http.SendAsync(request, TestContext.Current.CancellationToken);
        var text = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        return ((int)answer.StatusCode, JsonDocument.Parse(text).RootElement);
    }

    /// <summary>Waits until a page is served with these words: a saved app file is taken up within a moment.</summary>
    public async Task ServesAsync(string target, string words = "")
    {
        for (var tries = 0; tries < 200; tries++)
        {
            if (await GetAsync(target) is { Status: 200 } answer && answer.Body.Contains(words))
                return;
            await Task.Delay(50, TestContext.Current.CancellationToken);
        }

        Assert.Fail($"{target} was never served with “{words}”.");
    }

    /// <summary>Waits until no proof is being made, and gives the number of the latest report.</summary>
    public async Task<int> EndOfProofAsync()
    {
        var latest = 0;
        await Eventually.TrueAsync(
            async () =>
            {
                var (_, all) = await ManageAsync("proofs");
                if (all.GetProperty("running").ValueKind != JsonValueKind.Null)
                    return false;
                latest = all.GetProperty("reports")[0].GetProperty("number").GetInt32();
                return true;
            },
            seconds: 180
        );
        return latest;
    }

    /// <summary>The token of the management API.</summary>
    public string Token => File.ReadAllText(Path.Combine(State, "token")).Trim();

    /// <summary>Runs a command of the program to its end.</summary>
    public static async Task<Ran> RunAsync(params string[] command)
    {
        using var process = Launch(command);
        var error = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEndAsync();

        // One that serves where it should have ended would keep the tests for ever.
        using var patience = new CancellationTokenSource(TimeSpan.FromMinutes(5));
        using var end = patience.Token.Register(() => process.Kill(entireProcessTree: true));
        await process.WaitForExitAsync();
        return new Ran(process.ExitCode, await output, await error);
    }

    /// <summary>Runs a command against this service.</summary>
    public Task<Ran> AskAsync(params string[] command) => RunAsync([.. command, "--state", State]);

    /// <summary>Sends bytes as they are and reads the answer to its end.</summary>
    public Task<RawAnswer> SendAsync(string request) => SendAsync(Port, Encoding.Latin1.GetBytes(request));

    public async Task<RawAnswer> GetAsync(string target, string headers = "", string method = "GET") =>
        await SendAsync($"{method} {target} HTTP/1.1\r\nHost: 127.0.0.1:{Port}\r\n{headers}Connection: close\r\n\r\n");

    public Task<RawAnswer> GetJsonAsync(string target) => GetAsync(target, "Accept: application/json\r\n");

    public static async Task<RawAnswer> SendAsync(int port, byte[] request)
    {
        using var client = new TcpClient { NoDelay = true };
        await client.ConnectAsync("127.0.0.1", port);
        var stream = client.GetStream();
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        using var answer = new MemoryStream();
        try
        {
            await stream.WriteAsync(request, patience.Token);
            await stream.CopyToAsync(answer, patience.Token);
        }
        catch (IOException)
        {
            // A server that refuses a request may close before all of it was sent: what it said still counts.
        }

        var text = Encoding.UTF8.GetString(answer.ToArray());
        var split = text.IndexOf("\r\n\r\n", StringComparison.Ordinal);
        var head = split < 0 ? text : text[..split];
        var status = head.Length > 12 && int.TryParse(head.AsSpan(9, 3), out var code) ? code : 0;
        var body = split < 0 ? "" : text[(split + 4)..];
        return new RawAnswer(
            status,
            head,
            head.Contains("Transfer-Encoding: chunked", StringComparison.Ordinal) ? Joined(body) : body
        );
    }

    /// <summary>The content of a chunked body (RFC 9112 section 7.1); sizes count bytes.</summary>
    private static string Joined(string chunked)
    {
        var bytes = Encoding.UTF8.GetBytes(chunked);
        var joined = new List<byte>();
        for (var at = 0; at < bytes.Length; )
        {
            var line = Array.IndexOf(bytes, (byte)'\n', at);
            if (line < 0)
                break;
            var size = Convert.ToInt32(Encoding.ASCII.GetString(bytes, at, line - at).Trim(), 16);
            if (size == 0)
                break;
            joined.AddRange(bytes.AsSpan(line + 1, size));
            at = line + 1 + size + 2;
        }

        return Encoding.UTF8.GetString([.. joined]);
    }

    /// <summary>Asks the process to end, and says how long it took and with which code.</summary>
    public async Task<(TimeSpan Took, int ExitCode)> EndAsync(string signal = "TERM")
    {
        var clock = Stopwatch.StartNew();
        using (var kill = Process.Start("kill", [$"-{signal}", _process.Id.ToString()]))
            await kill.WaitForExitAsync();
        await _process.WaitForExitAsync().WaitAsync(TimeSpan.FromSeconds(60));
        return (clock.Elapsed, _process.ExitCode);
    }

    public void Dispose()
    {
        if (!_process.HasExited)
        {
            _process.Kill();
            _process.WaitForExit();
        }

        _process.Dispose();
        Directory.Delete(State, recursive: true);
    }

    private static Process Launch(string[] command, string? before = null, string? folder = null)
    {
        // Tests that run in the background ignore Ctrl-C, and so would what they start.
        string[] begin =
        [
            "--default-signal=INT",
            .. before is null ? (string[])[] : ["sh", "-c", $"{before}; exec \"$@\"", "sh"],
            "dotnet",
        ];
        var start = new ProcessStartInfo("env", begin)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = folder ?? Repository.Root,
        };
        start.ArgumentList.Add(Program);
        foreach (var argument in command)
            start.ArgumentList.Add(argument);
        start.Environment["NO_COLOR"] = "1";
        return Process.Start(start)!;
    }
}

/// <summary>The demo, running once for all tests that only read. It is started by the first test that asks for it.</summary>
public class DemoService : IAsyncLifetime
{
    private readonly Lazy<RunningService> _service;

    public DemoService() => _service = new Lazy<RunningService>(() => Task.Run(BeginAsync).GetAwaiter().GetResult());

    public RunningService Service => _service.Value;

    public ValueTask InitializeAsync() => ValueTask.CompletedTask;

    public virtual ValueTask DisposeAsync()
    {
        if (_service.IsValueCreated)
            _service.Value.Dispose();
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    protected virtual Task<RunningService> BeginAsync() => RunningService.StartAsync("demo", "--afresh");
}

/// <summary>
/// The demo over a database of a server: its data copied there by the command for it, and one line of its app file changed.
/// </summary>
public abstract class ServerDemo(Lazy<PrivateServer> lazy) : DemoService
{
    private readonly AppFolder _folder = new();

    /// <summary>Its own: whatever else has the usual port ends with another test.</summary>
    private readonly GaugeService _gauges = GaugeService.Start(0)!;

    protected override async Task<RunningService> BeginAsync()
    {
        var server = lazy.Value;
        var connection = server.Connection(server.NewDatabase());
        var copied = await RunningService.RunAsync("demo", "into", server.Engine, connection, "--json");
        Assert.Equal((0, $$"""{"engine":"{{server.Engine}}","rows":17084}""" + "\n"), (copied.ExitCode, copied.Out));
        foreach (var file in Directory.GetFiles(Repository.File("demo"), "*.md"))
            File.Copy(file, _folder.File(Path.GetFileName(file)));
        Directory.CreateSymbolicLink(_folder.File("data"), Repository.File("demo/data"));
        AppFolder.CopyDesigns(_folder);
        var app = await File.ReadAllTextAsync(Repository.File("demo/bridges.yaml"));
        const string Line = "register: { engine: sqlite, connection: data/register.db }";
        Assert.Contains(Line, app);
        return await RunningService.StartAsync(
            "serve",
            _folder.Write(
                "bridges.yaml",
                app.Replace($"http://127.0.0.1:{GaugeService.Port}", _gauges.Url)
                    .Replace(Line, $"register: {{ engine: {server.Engine}, connection: '{connection.Replace("'", "''")}' }}")
            ),
            "--log",
            "none"
        );
    }

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        _gauges.Dispose();
        File.Delete(_folder.File("data"));
        _folder.Dispose();
        GC.SuppressFinalize(this);
    }
}

public sealed class PostgresDemo() : ServerDemo(PrivateServer.Postgres);

public sealed class MariaDbDemo() : ServerDemo(PrivateServer.MariaDb);
