using System.Diagnostics;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary><c>jexa sweep</c> over database servers: the findings of a file, and a server that goes away meanwhile.</summary>
public class SweepServerTests
{
    private const string Schema = """
        CREATE TABLE thing (code VARCHAR(200) PRIMARY KEY, name VARCHAR(80) NOT NULL, link VARCHAR(200));
        CREATE TABLE part (id INTEGER PRIMARY KEY, name VARCHAR(80) NOT NULL, thing_code VARCHAR(200));
        INSERT INTO thing VALUES ('a', 'One', 'https://a.example/'), ('b/c', 'Two', NULL), ('..', 'Dots', NULL), ('d', ' ', NULL);
        INSERT INTO thing VALUES ('e', 'Five', 'javascript:x');
        INSERT INTO part VALUES (1, 'p', 'a'), (2, 'q', 'none'), (3, 'r', 'none'), (4, 's', NULL);
        """;

    private const string Records = """
        records:
          thing: { from: s.thing, label: name, fields: { link: { as: web } } }
          part: { from: s.part, label: name }
        pages:
          things: { path: /things, list: thing }
          thing: { path: "/things/{code}", detail: thing }
          parts: { path: /parts, list: part, links: [{ to: thing, column: thing_code, with: { code: thing_code } }] }
          part: { path: "/parts/{id}", detail: part }
        """;

    private static AppFolder Over(PrivateServer server, string database)
    {
        var (folder, connection) = (new AppFolder(), JsonSerializer.Serialize(server.Connection(database)));
        folder.Write(
            "app.yaml",
            $"app: Things\nsources: {{ s: {{ engine: {server.Engine}, connection: {connection} }} }}\n{Records}"
        );
        return folder;
    }

    private static PrivateServer Server(string engine) =>
        (engine == "mariadb" ? PrivateServer.MariaDb : PrivateServer.Postgres).Value;

    private static string[] Words(AppFolder folder, params string[] more) =>
        ["sweep", folder.File("app.yaml"), "--state", folder.File("state"), .. more];

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task A_server_has_the_findings_of_a_file(string engine)
    {
        var server = Server(engine);
        var database = server.NewDatabase();
        foreach (var statement in Schema.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
            server.Execute(database, statement);
        using var folder = Over(server, database);
        var ran = await RunningService.RunAsync(Words(folder, "--json"));
        Assert.True(ran.ExitCode == 1, ran.Out + ran.Error);
        var findings = JsonDocument.Parse(ran.Out).RootElement.GetProperty("findings").EnumerateArray().ToList();
        Assert.Equal(
            ["JX602 thing.code 1", "JX801 parts → thing 2", "JX805 thing 1", "JX807 thing.link 1"],
            findings
                .Select(one => $"{one.GetProperty("code")} {one.GetProperty("about")} {one.GetProperty("count")}")
                .Order(StringComparer.Ordinal)
        );
        var unfit = findings.Single(one => one.GetProperty("code").GetString() == "JX602");
        Assert.Equal("..", server.Ask(database, unfit.GetProperty("query").GetString()!.TrimEnd(';')));
    }

    [Fact]
    public async Task A_server_that_goes_away_in_the_middle_is_told_and_the_sweep_goes_on_when_it_is_back()
    {
        using var server = PrivateServer.New("postgresql");
        var database = server.NewDatabase();
        server.Execute(database, Schema.Split("INSERT", 2)[0]);
        server.Execute(database, "INSERT INTO thing VALUES ('a', 'One', NULL)");
        server.Execute(database, "INSERT INTO part SELECT n, 'p', 'a' FROM generate_series(1, 5000) s(n)");
        server.Execute(database, "INSERT INTO part VALUES (5001, 'last', 'none')");
        using var folder = Over(server, database);
        using (var slow = StartSlow(folder))
        {
            for (var tries = 0; !IsInside(folder) && tries < 300; tries++)
                await Task.Delay(100);
            server.Stop();
            var told = await slow.StandardOutput.ReadToEndAsync();
            await slow.WaitForExitAsync();
            Assert.True(slow.ExitCode == 3, told);
            Assert.Contains("not seen part", told);
            Assert.DoesNotContain("Exception", told + await slow.StandardError.ReadToEndAsync());
        }

        server.Start();
        var rest = await RunningService.RunAsync(Words(folder, "--resume", "--json"));
        var report = JsonDocument.Parse(rest.Out).RootElement;
        Assert.Equal(0, report.GetProperty("notSeen").GetArrayLength());
        Assert.Contains(report.GetProperty("findings").EnumerateArray(), one =>
            one.GetProperty("about").GetString() == "parts → thing" && one.GetProperty("count").GetInt64() == 1
        );
    }

    /// <summary>Whether the sweep is in the middle of the parts.</summary>
    private static bool IsInside(AppFolder folder) =>
        Directory.Exists(folder.File("state"))
        && Directory.GetFiles(folder.File("state"), "*.json").Any(file => File.ReadAllText(file).Contains("\"part\": \"part\""));

    private static Process StartSlow(AppFolder folder) =>
        Process.Start(
            new ProcessStartInfo("dotnet", [RunningService.Program, .. Words(folder, "--rate", "400")])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;

    [Fact]
    public async Task What_the_service_shows_is_compared_with_the_rows()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(Schema.Replace("('..', 'Dots', NULL), ", "").Replace("('d', ' ', NULL)", "('d', 'Four', NULL)"));
        folder.Write("app.yaml", "app: Things\nsources: { s: { engine: sqlite, connection: data.db } }\n" + Records);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var same = await RunningService.RunAsync(Words(folder, "--fetch", "100", "--url", service.PagesUrl));
        Assert.DoesNotContain("JX809", same.Out);
        Assert.Contains("8 records asked for", same.Out);

        // The same service, and other data: as if it read another database, or kept old answers.
        folder.MakeDatabase(
            Schema.Replace("('..', 'Dots', NULL), ", "").Replace("('d', ' ', NULL)", "('d', 'Vier', NULL), ('new', 'New', NULL)"),
            "other.db"
        );
        var other = await RunningService.RunAsync(
            Words(folder, "--instead", "s=other.db", "--fetch", "100", "--url", service.PagesUrl)
        );
        Assert.Equal(1, other.ExitCode);
        Assert.Contains("JX809", other.Out);
        Assert.Contains("d: /things/d: name is \"Four\", and \"Vier\" in the row", other.Out);
        Assert.Contains("new: /things/new: status 404", other.Out);
        var away = await RunningService.RunAsync(Words(folder, "--fetch", "100", "--url", "http://127.0.0.1:1/"));
        Assert.Contains("not seen service", away.Out);
    }
}
