using System.Diagnostics;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jexa.Service.Tests;

/// <summary>The command line and the management API, as their users meet them.</summary>
public class CommandTests(DemoService demo)
{
    private RunningService Service => demo.Service;

    [Fact]
    public async Task Check_says_that_the_demo_has_no_findings()
    {
        var ran = await RunningService.RunAsync("check", "demo/bridges.yaml");
        Assert.Equal((0, "demo/bridges.yaml makes a site of 50 pages: no findings.\n", ""), (ran.ExitCode, ran.Out, ran.Error));
    }

    [Fact]
    public async Task Check_tells_findings_in_words_and_as_JSON()
    {
        using var folder = new AppFolder();
        var file = folder.Write(
            "app.yaml",
            "app: A\nsources: { s: { engine: sqllite, connection: x.db } }\nrecords: {}\npages: {}\n"
        );
        var ran = await RunningService.RunAsync("check", file);
        Assert.Equal(1, ran.ExitCode);
        Assert.StartsWith(
            $"{file}:2:25 error JX201 There is no engine “sqllite”.\n    found    sqllite\n    expected "
                + "files, http, mariadb, postgresql, sqlite\n    nearest  sqlite\n",
            ran.Out
        );
        Assert.Contains("remedy   Write sqlite.", ran.Out);
        Assert.EndsWith("makes no site: 1 error.\n", ran.Out);
        Assert.DoesNotContain('\u001b', ran.Out);

        ran = await RunningService.RunAsync("check", file, "--json");
        Assert.Equal(1, ran.ExitCode);
        using var report = JsonDocument.Parse(ran.Out);
        var finding = report.RootElement.GetProperty("findings")[0];
        Assert.Equal(
            ("JX201", 2, 25, "sqlite"),
            (
                finding.GetProperty("code").GetString(),
                finding.GetProperty("line").GetInt32(),
                finding.GetProperty("column").GetInt32(),
                finding.GetProperty("nearest").GetString()
            )
        );
    }

    [Fact]
    public async Task A_source_that_is_not_there_is_exit_code_3_and_is_not_made()
    {
        using var folder = new AppFolder();
        var file = folder.Write(
            "app.yaml",
            "app: A\nsources: { s: { engine: sqlite, connection: x.db } }\nrecords: { r: { from: s.r } "
                + "}\npages: { all: { path: /all, list: r } }\n"
        );
        foreach (var command in new[] { "check", "serve" })
        {
            var ran = await RunningService.RunAsync(command, file);
            Assert.Equal(3, ran.ExitCode);
            Assert.Contains("JX203", ran.Out + ran.Error);
        }

        Assert.False(File.Exists(Path.Combine(folder.Path, "x.db")));
    }

    [Theory]
    [InlineData("There is no file none.yaml.", "serve", "none.yaml")]
    [InlineData("There is no file none.yaml.", "check", "none.yaml")]
    [InlineData("demo is a folder", "check", "demo")]
    [InlineData("'APP_FILE' missing", "check")]
    [InlineData("'nonsense'", "nonsense")]
    [InlineData("--prot", "serve", "demo/bridges.yaml", "--prot", "1")]
    [InlineData("--port must be a number", "demo", "--port", "x")]
    [InlineData("--port must be a number", "demo", "--port", "70000")]
    [InlineData("“id” is not of the form name=value", "link", "bridge", "id")]
    [InlineData("given twice", "link", "bridge", "id=1", "id=2")]
    public async Task Wrong_use_is_a_sentence_and_exit_code_2(string said, params string[] command)
    {
        var ran = await RunningService.RunAsync(command);
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains(said, ran.Error);
        Assert.Equal("", ran.Out);
        Assert.DoesNotContain(" at Jexa", ran.Error);
    }

    [Theory]
    [InlineData("--help")]
    [InlineData("serve", "--help")]
    [InlineData("demo", "--help")]
    [InlineData("check", "--help")]
    [InlineData("pages", "--help")]
    [InlineData("link", "--help")]
    [InlineData("trace", "--help")]
    public async Task Every_command_has_help_with_examples(params string[] command)
    {
        var ran = await RunningService.RunAsync(command);
        Assert.Equal((0, ""), (ran.ExitCode, ran.Error));
        Assert.Contains("Examples:\n  jexa ", ran.Out);
    }

    [Fact]
    public async Task Without_a_service_the_others_say_so_with_exit_code_3()
    {
        using var folder = new AppFolder();
        foreach (var command in new[] { new[] { "pages" }, ["link", "bridge", "id=1"], ["trace", "/bridges"] })
        {
            var ran = await RunningService.RunAsync([.. command, "--state", folder.Path]);
            Assert.Equal(3, ran.ExitCode);
            Assert.Contains("No service is using the state folder", ran.Error);
        }

        folder.Write("token", new string('t', 43));
        folder.Write("service.json", """{"PagesUrl":"http://127.0.0.1:1/","ConsoleUrl":"http://127.0.0.1:1/","ProcessId":1}""");
        var lost = await RunningService.RunAsync("pages", "--state", folder.Path);
        Assert.Equal(3, lost.ExitCode);
        Assert.Contains("does not answer", lost.Error);
    }

    [Fact]
    public async Task Pages_are_shown_one_a_line()
    {
        var ran = await Service.AskAsync("pages");
        Assert.Equal(0, ran.ExitCode);
        var lines = ran.Out.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(51, lines.Length);
        Assert.Single(lines, line =>
            Regex.IsMatch(
                line,
                @"^bridge\s+/bridges/\{id\}\s+detail\s+bridge\s+id = bridge_id \(integer\)\s+"
                    + @"bridge-edit, inspection-new, bridge-delete, bridge-sketch, bridge-inspections, district, "
            )
        );
        Assert.Single(lines, line =>
            Regex.IsMatch(
                line,
                @"^bridges\s+/bridges\{\?kind\*,status\}\s+list\s+bridge\s+kind = kind \(text, optional\), status = status"
            )
        );
        using var json = JsonDocument.Parse((await Service.AskAsync("pages", "--json")).Out);
        Assert.Equal("/lookup{?code}", Lookup().GetProperty("path").GetString());
        Assert.Equal("query", Lookup().GetProperty("parameters")[0].GetProperty("in").GetString());

        JsonElement Lookup() =>
            json.RootElement.EnumerateArray().Single(page => page.GetProperty("name").GetString() == "lookup");
    }

    [Theory]
    [InlineData(0, "/bridges/7", "bridge", "id=7")]
    [InlineData(0, "/bridges/7", "bridge", "id=007")]
    [InlineData(0, "/districts/n%2Fw-moor", "district", "district=n/w-moor")]
    [InlineData(0, "/lookup?code=AV-0007", "lookup", "code=AV-0007")]
    [InlineData(0, "/districts/a%20b%26c", "district", "district=a b&c")]
    [InlineData(1, "such as AV-0007", "lookup", "code=a b&c")]
    [InlineData(0, "/bridges", "bridges")]
    [InlineData(1, "whole number", "bridge", "id=abc")]
    [InlineData(1, "No address", "district", "district=..")]
    [InlineData(2, "Did you mean bridge?", "brigde", "id=7")]
    [InlineData(2, "Did you mean id?", "bridge", "ID=7")]
    [InlineData(2, "needs id", "bridge")]
    public async Task Link_builds_addresses_or_says_why_not(int exitCode, string said, params string[] arguments)
    {
        var ran = await Service.AskAsync(["link", .. arguments]);
        Assert.Equal(exitCode, ran.ExitCode);
        if (exitCode == 0)
            Assert.Equal(Service.PagesUrl.TrimEnd('/') + said + "\n", ran.Out);
        else
            Assert.Contains(said, ran.Error);
    }

    [Theory]
    [InlineData(0, "found", "/bridges/7")]
    [InlineData(0, "found", "/districts/løkke")]
    [InlineData(0, "not-canonical", "/bridges/007")]
    [InlineData(0, "listed", "/bridges")]
    [InlineData(1, "hidden", "/bridges/13")]
    [InlineData(1, "unknown", "/bridges/99999")]
    [InlineData(1, "malformed", "/bridges/../x")]
    [InlineData(1, "missing", "/lookup")]
    [InlineData(1, "no-page", "/nothing")]
    [InlineData(1, "ambiguous", "/trials/twin")]
    [InlineData(1, "failed", "/trials/broken")]
    [InlineData(1, "not-allowed", "/bridges/7", "--method", "POST")]
    [InlineData(1, "missing", "/lookup?code=", "--accept", "application/json")]
    public async Task Trace_tells_how_any_address_would_end(int exitCode, string outcome, params string[] arguments)
    {
        var ran = await Service.AskAsync(["trace", .. arguments]);
        Assert.Equal(exitCode, ran.ExitCode);
        Assert.Matches($@"outcome\s+{outcome}\b", ran.Out);
        using var json = JsonDocument.Parse((await Service.AskAsync(["trace", .. arguments, "--json"])).Out);
        Assert.Equal(outcome, json.RootElement.GetProperty("outcome").GetString());
    }

    [Fact]
    public async Task A_visit_can_be_traced_by_its_number_and_by_its_URL()
    {
        var number = (await Service.GetAsync("/lookup?code=av-0011&x=%1B")).Header("Jexa-Visit")!;
        var ran = await Service.AskAsync("trace", number);
        Assert.Equal(0, ran.ExitCode);
        Assert.Contains($"Visit {number},", ran.Out);
        Assert.Matches(@"visitor\s+127\.0\.0\.1", ran.Out);
        Assert.Contains("WHERE t0.\"code\" = 'av-0011'", ran.Out);
        Assert.Contains("301 to /lookup?code=AV-0011&x=%1B", ran.Out);
        Assert.Equal(0, (await Service.AskAsync("trace", Service.PagesUrl + "bridges/7#part")).ExitCode);
        Assert.Equal(2, (await Service.AskAsync("trace", "http://register.example/bridges/7")).ExitCode);
        Assert.Equal(2, (await Service.AskAsync("trace", "bridges/7")).ExitCode);

        // Without --port, the port of the URL is the service's.
        var away = await RunningService.RunAsync("trace", "http://127.0.0.1:7599/bridges/7");
        Assert.Equal(3, away.ExitCode);
        Assert.Contains("7599", away.Error);
        Assert.Equal(2, (await Service.AskAsync("trace", "999999999")).ExitCode);
    }

    [Fact]
    public async Task A_shown_query_can_be_pasted_into_the_databases_own_shell()
    {
        using var trace = JsonDocument.Parse((await Service.AskAsync("trace", "/districts/st-anne's", "--json")).Out);
        var text = trace.RootElement.GetProperty("queries")[0].GetProperty("text").GetString()!;
        await using var connection = new Microsoft.Data.Sqlite.SqliteConnection(
            $"Data Source={Path.Combine(Repository.Root, "demo/data/register.db")};Mode=ReadOnly"
        );
        await connection.OpenAsync();
        await using var pasted = connection.CreateCommand();
        pasted.CommandText = text;
        Assert.Equal("st-anne's", await pasted.ExecuteScalarAsync());
    }

    [Fact]
    public async Task The_management_API_wants_its_token_and_has_an_OpenAPI_document()
    {
        Assert.Equal(401, (await Manage("GET /api/pages", "")).Status);
        Assert.Equal(401, (await Manage("GET /api/pages", "Authorization: Bearer wrong\r\n")).Status);
        Assert.Equal(401, (await Manage("GET /api/visits", "Cookie: token=x\r\n")).Status);
        Assert.Equal(401, (await Manage("GET /API/pages", "")).Status);
        var token = await File.ReadAllTextAsync(Path.Combine(Service.State, "token"));
        Assert.Equal(200, (await Manage("GET /api/pages", $"Authorization: Bearer {token}\r\n")).Status);
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(Path.Combine(Service.State, "token")));
        Assert.Equal(404, (await Service.GetAsync("/api/pages", $"Authorization: Bearer {token}\r\n")).Status);
        using var document = JsonDocument.Parse((await Manage("GET /openapi.json", "")).Body);
        Assert.StartsWith("3.1", document.RootElement.GetProperty("openapi").GetString());
        foreach (
            var path in new[]
            {
                "/api/site",
                "/api/pages",
                "/api/links",
                "/api/traces",
                "/api/visits",
                "/api/visits/{number}",
                "/api/findings",
                "/api/session",
            }
        )
            Assert.True(document.RootElement.GetProperty("paths").TryGetProperty(path, out _), path);
    }

    [Fact]
    public async Task The_schema_of_the_app_file_is_served()
    {
        var answer = await Manage("GET /app-file.schema.json", "");
        Assert.Equal((200, "application/schema+json"), (answer.Status, answer.Header("Content-Type")));
        Assert.Equal(await File.ReadAllTextAsync(Path.Combine(Repository.Root, "docs/app-file.schema.json")), answer.Body);
    }

    [Theory]
    [InlineData("")]
    [InlineData("{")]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("{}")]
    [InlineData("{\"target\":7}")]
    [InlineData("{\"target\":null}")]
    [InlineData("{\"page\":\"bridge\",\"values\":null}")]
    [InlineData("{\"code\":null}")]
    public async Task Nonsense_sent_to_the_management_API_is_a_bad_request(string body)
    {
        var token = await File.ReadAllTextAsync(Path.Combine(Service.State, "token"));
        foreach (var path in new[] { "traces", "links", "session" })
        {
            var answer = await Manage(
                $"POST /api/{path}",
                $"Authorization: Bearer {token}\r\nContent-Type: application/json\r\nContent-Length: {body.Length}\r\n",
                body
            );
            Assert.InRange(answer.Status, 400, 422);
            Assert.DoesNotContain("Exception", answer.Body);
        }
    }

    [Fact]
    public async Task The_start_code_is_good_for_one_trade()
    {
        using var service = await RunningService.StartAsync("demo");
        var body = $$"""{"code":"{{service.StartCode}}"}""";
        var request =
            $"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1:{service.ConsolePort}\r\nContent-Type: "
            + $"application/json\r\nContent-Length: {body.Length}\r\nConnection: close\r\n\r\n{body}";
        var traded = await RunningService.SendAsync(service.ConsolePort, Encoding.ASCII.GetBytes(request));
        Assert.Equal(200, traded.Status);
        Assert.Contains(await File.ReadAllTextAsync(Path.Combine(service.State, "token")), traded.Body);
        Assert.Equal(403, (await RunningService.SendAsync(service.ConsolePort, Encoding.ASCII.GetBytes(request))).Status);
    }

    [Fact]
    public async Task A_taken_port_is_a_sentence_and_exit_code_2()
    {
        using var folder = new AppFolder();
        var ran = await RunningService.RunAsync(
            "demo",
            "--port",
            Service.Port.ToString(),
            "--console-port",
            "0",
            "--state",
            folder.Path
        );
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains($"The port {Service.Port} is taken", ran.Error);
        ran = await RunningService.RunAsync(
            "demo",
            "--port",
            "0",
            "--console-port",
            Service.ConsolePort.ToString(),
            "--state",
            folder.Path
        );
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains("--console-port", ran.Error);
    }

    [Theory]
    [InlineData("TERM")]
    [InlineData("INT")]
    public async Task A_signal_ends_it_within_five_seconds_and_requests_in_flight_are_finished(string signal)
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE VIEW slow AS SELECT 7 AS id,
              (WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c WHERE n < 2000000) SELECT count(*) FROM c) AS counted;
            """
        );
        var app = folder.Write(
            "app.yaml",
            """
            app: Slow
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { slow: { from: s.slow, key: id, unique: assumed, fields: { id: { type: integer } } } }
            pages: { slow: { path: "/slow/{id}", detail: slow } }
            """
        );

        // The request is in flight at the signal only if it has arrived and is not answered yet: on a busy machine that takes
        // several tries.
        foreach (var wait in new[] { 100, 300, 600, 1200, 2400, 50 })
        {
            using var service = await RunningService.StartAsync("serve", app);
            Assert.True(File.Exists(Path.Combine(service.State, "service.json")));
            var inFlight = service.GetAsync("/slow/7");
            await Task.Delay(wait);
            if (inFlight.IsCompleted)
                continue;
            var (took, exitCode) = await service.EndAsync(signal);
            Assert.Equal(0, exitCode);

            // Five seconds, and what a busy machine takes to end any process.
            var clock = Stopwatch.StartNew();
            await RunningService.RunAsync("--version");
            Assert.InRange(took.TotalSeconds, 0, 5 + (10 * clock.Elapsed.TotalSeconds));
            Assert.False(File.Exists(Path.Combine(service.State, "service.json")));
            var answer = await inFlight;
            if (answer.Status == 0)
                continue;
            Assert.Equal(200, answer.Status);
            Assert.EndsWith("</html>\n", answer.Body);
            return;
        }

        Assert.Fail("No request in flight was finished.");
    }

    [Fact]
    public async Task It_ends_in_time_though_a_query_never_would()
    {
        using var service = await RunningService.StartAsync("demo");
        var endless = service.GetAsync("/trials/endless");
        await Task.Delay(300);
        var (took, exitCode) = await service.EndAsync();
        Assert.Equal(0, exitCode);
        Assert.InRange(took.TotalSeconds, 0, 5);
        await endless;
    }

    [Fact]
    public async Task A_page_that_never_ends_is_unavailable_and_the_others_go_on()
    {
        var clock = Stopwatch.StartNew();
        var slow = Service.GetAsync("/trials/endless");
        Assert.Equal(200, (await Service.GetAsync("/bridges/7")).Status);
        var answer = await slow;
        Assert.Equal((503, "5"), (answer.Status, answer.Header("Retry-After")));
        Assert.InRange(clock.Elapsed.TotalSeconds, 4, 12);
    }

    [Fact]
    public async Task The_launcher_adds_under_half_a_second_to_an_unchanged_tree()
    {
        var start = new ProcessStartInfo(Path.Combine(Repository.Root, "jexa"), ["--version"])
        {
            RedirectStandardOutput = true,
            WorkingDirectory = "/",
        };
        using (var first = Process.Start(start)!)
            await first.WaitForExitAsync();
        var direct = await Time(
            new ProcessStartInfo("dotnet", [RunningService.Program, "--version"]) { RedirectStandardOutput = true }
        );
        var launched = await Time(start);
        Assert.True(launched - direct < TimeSpan.FromSeconds(0.5), $"{launched} against {direct}");

        static async Task<TimeSpan> Time(ProcessStartInfo start)
        {
            var best = TimeSpan.MaxValue;
            for (var i = 0; i < 3; i++)
            {
                var clock = Stopwatch.StartNew();
                using var process = Process.Start(start)!;
                await process.WaitForExitAsync();
                if (clock.Elapsed < best)
                    best = clock.Elapsed;
            }

            return best;
        }
    }

    private Task<RawAnswer> Manage(string line, string headers, string body = "") =>
        RunningService.SendAsync(
            Service.ConsolePort,
            Encoding.ASCII.GetBytes(
                $"{line} HTTP/1.1\r\nHost: 127.0.0.1:{Service.ConsolePort}\r\n{headers}Connection: close\r\n\r\n{body}"
            )
        );
}
