using System.Diagnostics;
using System.Net.Sockets;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>What somebody who runs the service on a machine meets: health, addresses, limits, retention.</summary>
public sealed class OperatorTests : IDisposable
{
    private readonly AppFolder _folder = new();

    private static string App => AppFolder.App + "\n  thing-edit: { path: \"/things/{id}/edit\", edit: thing }\n";

    public void Dispose() => _folder.Dispose();

    private Task<RunningService> ServeAsync(params string[] options)
    {
        _folder.MakeDatabase(AppFolder.Schema);
        return RunningService.StartAsync(["serve", _folder.Write("app.yaml", App), "--log", "none", .. options]);
    }

    private static async Task<string> HealthAsync(RunningService service) =>
        string.Join(
            ' ',
            await Task.WhenAll(
                new[] { "live", "ready", "writable" }.Select(async what =>
                    (await service.GetAsync($"/_jexa/health/{what}")).Status
                )
            )
        );

    [Fact]
    public async Task Health_tells_live_readable_and_writable_apart()
    {
        using var service = await ServeAsync();
        Assert.Equal("200 200 200", await HealthAsync(service));

        // Somebody holds the write lock: pages are read on, nothing can be saved.
        using (var other = _folder.Open())
        using (var command = other.CreateCommand())
        {
            command.CommandText = "BEGIN IMMEDIATE";
            command.ExecuteNonQuery();
            await Task.Delay(1200, TestContext.Current.CancellationToken);
            Assert.Equal("200 200 503", await HealthAsync(service));
            command.CommandText = "ROLLBACK; BEGIN EXCLUSIVE";
            command.ExecuteNonQuery();

            // The lock that visits meet shuts them out of every page.
            await Task.WhenAll(service.GetAsync("/things/1"), service.GetAsync("/things"));
            Assert.Equal("200 503 503", await HealthAsync(service));
        }

        await BecomesAsync(service, "200 200 200");
        File.Move(_folder.File("data.db"), _folder.File("away.db"));
        await BecomesAsync(service, "200 503 503");
        File.Move(_folder.File("away.db"), _folder.File("data.db"));
        await BecomesAsync(service, "200 200 200");
    }

    [Fact]
    public async Task One_page_that_fails_by_its_own_fault_does_not_make_a_source_unreadable()
    {
        _folder.MakeDatabase(AppFolder.Schema);
        var app =
            App.Replace(
                "records: {",
                "records: { slow: { source: s, query: \"WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 "
                    + "FROM n) SELECT count(*) AS id FROM n\", key: id, unique: assumed, fields: { id: { type: "
                    + "integer } } }, "
            ) + "  slow: { path: /slow, list: slow }\n";
        using var service = await RunningService.StartAsync("serve", _folder.Write("app.yaml", app), "--log", "none");
        Assert.Equal(503, (await service.GetAsync("/slow")).Status);
        Assert.Equal("200 200 200", await HealthAsync(service));
    }

    private static async Task BecomesAsync(RunningService service, string wanted)
    {
        var clock = Stopwatch.StartNew();
        while (await HealthAsync(service) is var seen && seen != wanted)
        {
            Assert.True(clock.Elapsed.TotalSeconds < 40, $"It stayed {seen}.");
            await service.GetAsync("/things/1");
            await service.GetAsync("/things");
            await Task.Delay(100);
        }
    }

    [Fact]
    public async Task It_listens_where_it_is_told_and_health_answers_to_any_host_name_and_nothing_else_does()
    {
        using var service = await ServeAsync("--listen", "127.0.0.2", "--listen", "127.0.0.1");

        // Of any free port each address has its own; from now on they share one.
        await service.EndAsync();
        await service.RestartAsync();
        foreach (
            var (address, host, target, status) in new[]
            {
                ("127.0.0.2", "192.0.2.7:80", "/_jexa/health/live", 200),
                ("127.0.0.2", "192.0.2.7", "/_jexa/health/ready", 200),
                ("127.0.0.2", "192.0.2.7", "/things", 421),
                ("127.0.0.2", "127.0.0.2:" + service.Port, "/things", 200),
                ("127.0.0.1", "127.0.0.2:" + service.Port, "/things", 421),
                ("127.0.0.1", "192.0.2.7", "/_jexa/pages.css", 421),
            }
        )
        {
            using var client = new TcpClient();
            await client.ConnectAsync(address, service.Port, TestContext.Current.CancellationToken);
            await client
                .GetStream()
                .WriteAsync(
                    Encoding.ASCII.GetBytes($"GET {target} HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n"),
                    TestContext.Current.CancellationToken
                );
            Assert.StartsWith(
                $"HTTP/1.1 {status} ",
                await new StreamReader(client.GetStream()).ReadToEndAsync(TestContext.Current.CancellationToken)
            );
        }

        // The console stays on loopback.
        using var other = new TcpClient();
        await Assert.ThrowsAnyAsync<SocketException>(() => other.ConnectAsync("127.0.0.2", service.ConsolePort));
        var wrong = await RunningService.RunAsync("serve", _folder.File("app.yaml"), "--listen", "everywhere");
        Assert.Equal(
            (2, true),
            (wrong.ExitCode, wrong.Error.Contains("--listen must be an IP address, not “everywhere”.", StringComparison.Ordinal))
        );
        var foreign = await RunningService.RunAsync(
            "serve",
            _folder.File("app.yaml"),
            "--listen",
            "192.0.2.1",
            "--port",
            "0",
            "--console-port",
            "0"
        );
        Assert.Equal((2, true), (foreign.ExitCode, foreign.Error.Contains("cannot be used", StringComparison.Ordinal)));
    }

    [Theory]
    [InlineData(640)]
    [InlineData(1024)]
    public async Task More_connections_than_the_process_may_open_files_do_not_end_it(int limit)
    {
        using var service = await ServeAsync();
        await service.EndAsync();
        await service.RestartAsync($"ulimit -n {limit}");
        var clients = new List<TcpClient>();
        try
        {
            for (var i = 0; i < limit; i++)
            {
                var client = new TcpClient { NoDelay = true };
                clients.Add(client);
                await client.ConnectAsync("127.0.0.1", service.Port, TestContext.Current.CancellationToken);
                try
                {
                    await client
                        .GetStream()
                        .WriteAsync("GET /things HTTP/1.1\r\nHo"u8.ToArray(), TestContext.Current.CancellationToken);
                }
                catch (IOException)
                {
                    // Refused at once: that is what the bound is for.
                }
            }

            // The command line still gets through by the other door, and a page can still be read from the database.
            Assert.Equal(0, (await service.AskAsync("pages")).ExitCode);
            Assert.Equal(0, (await service.AskAsync("trace", "/things/1")).ExitCode);
        }
        finally
        {
            foreach (var client in clients)
                client.Dispose();
        }

        var clock = Stopwatch.StartNew();
        while ((await service.GetAsync("/things/1")).Status != 200)
            Assert.True(clock.Elapsed.TotalSeconds < 30);
        Assert.Equal(0, (await service.EndAsync()).ExitCode);
    }

    [Fact]
    public async Task Too_few_files_are_refused_at_start_with_what_to_do()
    {
        _folder.MakeDatabase(AppFolder.Schema);
        _folder.Write("app.yaml", App);
        using var process = Process.Start(
            new ProcessStartInfo(
                "sh",
                [
                    "-c",
                    $"ulimit -n 300; exec dotnet '{RunningService.Program}' serve '{_folder.File("app.yaml")}' "
                        + $"--port 0 --console-port 0 --state '{_folder.File("state")}'",
                ]
            )
            {
                RedirectStandardError = true,
            }
        )!;
        var error = await process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        Assert.Equal((2, true), (process.ExitCode, error.Contains("ulimit -n 1024", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task Changes_are_kept_as_long_as_is_said_and_stray_notes_are_taken_away()
    {
        var service = await ServeAsync("--changes-keep", "30");
        try
        {
            using (var visitor = new Visitor(service.PagesUrl))
                for (var i = 0; i < 3; i++)
                    Assert.Equal(
                        200,
                        (await visitor.PatchAsync("/things/1/edit", $"{{\"fields\":{{\"name\":\"v{i}\"}}}}", "*")).Status
                    );
            Assert.Contains("v1", (await service.AskAsync("changes")).Out);
            await service.EndAsync();

            // Two of the changes were made forty days ago; a note that forbids a change was first seen three days ago.
            Do(
                Path.Combine(service.State, "changes.db"),
                "UPDATE change SET at = at - 40 * 86400000 WHERE number < 3; INSERT INTO stray_note VALUES ('s', 'forbidden', 1)"
            );
            Do(_folder.File("data.db"), "INSERT INTO jexa_commit VALUES ('forbidden', NULL), ('forbidden just now', NULL)");
            await service.RestartAsync();
            var clock = Stopwatch.StartNew();
            while (
                Ask(_folder.File("data.db"), "SELECT group_concat(token) FROM jexa_commit WHERE key IS NULL") is var left
                && left != "forbidden just now"
            )
            {
                Assert.True(clock.Elapsed.TotalSeconds < 30, left);
                await Task.Delay(100, TestContext.Current.CancellationToken);
            }

            while (
                (await service.AskAsync("changes")).Out is var told
                && (
                    told.Contains("v1", StringComparison.Ordinal) && !told.Contains("v1 → v2", StringComparison.Ordinal)
                    || told.Contains("v0 →", StringComparison.Ordinal)
                )
            )
                Assert.True(clock.Elapsed.TotalSeconds < 30, told);
            Assert.Contains("v1 → v2", (await service.AskAsync("changes")).Out);
            Assert.Equal("1", Ask(_folder.File("data.db"), "SELECT count(*) FROM jexa_commit WHERE key IS NOT NULL"));
        }
        finally
        {
            service.Dispose();
        }

        var wrong = await RunningService.RunAsync("serve", _folder.File("app.yaml"), "--changes-keep", "0");
        Assert.Equal(
            (2, true),
            (wrong.ExitCode, wrong.Error.Contains("must be a number of days from 1 to 36500", StringComparison.Ordinal))
        );
    }

    private static void Do(string file, string sql) => Ask(file, sql);

    private static string? Ask(string file, string sql)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={file};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return Convert.ToString(command.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
    }
}
