using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// A server that is away when the service starts, comes, goes and comes back: what can be served is served, and the rest says so.
/// </summary>
public sealed class AwaySourceTests
{
    private const string App = """
        app: Things and gates
        home: gates
        sources:
          s: { engine: sqlite, connection: data.db }
          far: { engine: ENGINE, connection: "FAR" }
        records:
          thing: { from: s.thing, label: name }
          gate: { from: far.gate, label: name }
        pages:
          things: { path: /things, list: thing, order: [name] }
          thing: { path: "/things/{id}", detail: thing }
          gates: { path: /gates, list: gate, order: [name] }
          gate: { path: "/gates/{id}", detail: gate, was: ["/gate/{id}"] }
        """;

    private static async Task<int> StatusAsync(RunningService service, string target) => (await service.GetAsync(target)).Status;

    private static async Task<JsonElement> FarAsync(RunningService service)
    {
        var ran = await service.AskAsync("sources", "--json");
        using var sources = JsonDocument.Parse(ran.Out);
        Assert.Equal(
            sources.RootElement.EnumerateArray().All(source => source.GetProperty("reachable").GetBoolean()) ? 0 : 3,
            ran.ExitCode
        );
        return sources.RootElement.EnumerateArray().Single(source => source.GetProperty("name").GetString() == "far").Clone();
    }

    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task What_can_be_served_is_served_and_the_rest_comes_with_its_source(string engine)
    {
        using var server = PrivateServer.New(engine);
        var database = server.NewDatabase();
        server.Execute(
            database,
            "CREATE TABLE gate (id integer PRIMARY KEY, name varchar(20) NOT NULL); INSERT INTO gate VALUES (1, 'first gate')"
        );
        server.Stop();
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        var app = App.Replace("ENGINE", engine).Replace("FAR", server.Connection(database).Replace("\"", "\\\""));
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", app));

        // At start: the other source's pages are there; those of this one wait, under every path they have or had.
        await service.SaysAsync("2 of 4 pages wait");
        Assert.Equal(200, await StatusAsync(service, "/things/1"));
        foreach (var target in new[] { "/gates", "/gates/1", "/gates/nonsense", "/gate/1", "/" })
        {
            var waits = await service.GetAsync(target);
            Assert.Equal((503, "5"), (waits.Status, waits.Header("Retry-After")));
            Assert.DoesNotContain("connect", waits.Body);
        }

        Assert.Equal(404, await StatusAsync(service, "/elsewhere"));
        Assert.Equal(503, await StatusAsync(service, "/_jexa/health/ready"));
        Assert.Equal(200, await StatusAsync(service, "/_jexa/health/live"));
        var far = await FarAsync(service);
        Assert.Equal(
            (false, false, 2),
            (
                far.GetProperty("reachable").GetBoolean(),
                far.GetProperty("known").GetBoolean(),
                far.GetProperty("waiting").GetInt32()
            )
        );
        Assert.DoesNotContain(PrivateServer.Password, far.GetProperty("trouble").GetString());

        // It comes: nobody has to do anything.
        server.Start();
        await Eventually.TrueAsync(async () => await StatusAsync(service, "/gates/1") == 200);
        Assert.Contains("first gate", (await service.GetAsync("/gates")).Body);
        Assert.Equal(
            (301, "/gates/1"),
            ((await service.GetAsync("/gate/1")).Status, (await service.GetAsync("/gate/1")).Header("Location"))
        );
        Assert.Equal(200, await StatusAsync(service, "/_jexa/health/ready"));
        far = await FarAsync(service);
        Assert.Equal(
            (true, true, 0),
            (
                far.GetProperty("reachable").GetBoolean(),
                far.GetProperty("changes").GetBoolean(),
                far.GetProperty("waiting").GetInt32()
            )
        );
        Assert.Equal(
            "gate",
            far.GetProperty("tables")
                .EnumerateArray()
                .Single(table => table.GetProperty("name").GetString() == "gate")
                .GetProperty("records")[0]
                .GetString()
        );

        // It goes, and the app file is changed meanwhile: what the source held is remembered.
        server.Stop();
        await Eventually.TrueAsync(async () => await StatusAsync(service, "/gates/1") == 503);
        await Eventually.TrueAsync(async () => await StatusAsync(service, "/_jexa/health/ready") == 503);
        folder.Write("app.yaml", app.Replace("app: Things and gates", "app: Gates and things"));
        await Eventually.TrueAsync(async () => (await service.GetAsync("/things/1")).Body.Contains("Gates and things"));
        await service.SaysAsync("JX210");
        Assert.Equal(503, await StatusAsync(service, "/gates/1"));
        Assert.Equal(400, await StatusAsync(service, "/gates/nonsense"));

        // A source that nobody has seen yet takes no page away from a site that has them all.
        folder.Write("app.yaml", app.Replace("data.db", "other.db"));
        await Eventually.TrueAsync(() => Task.FromResult(service.Errors.Contains("the last good one goes on serving")));
        Assert.Equal(200, await StatusAsync(service, "/things/1"));
        folder.Write("app.yaml", app);

        server.Start();
        await Eventually.TrueAsync(async () => await StatusAsync(service, "/gates/1") == 200);
        await Eventually.TrueAsync(async () => !(await service.AskAsync("sources")).Out.Contains(" not "));
        Assert.Equal(0, (await service.EndAsync()).ExitCode);
    }

    [Fact]
    public async Task An_app_whose_only_server_is_away_waits_for_it_but_not_for_a_password_to_become_right()
    {
        var server = PrivateServer.Postgres.Value;
        var database = server.NewDatabase();
        using var folder = new AppFolder();
        var app =
            "app: Gates\nsources: { far: { engine: postgresql, connection: \"CONNECTION\" } }\nrecords: { "
            + "gate: { from: far.gate } }\npages: { gates: { path: /gates, list: gate } }\n";
        using (
            var service = await RunningService.StartAsync(
                "serve",
                folder.Write("app.yaml", app.Replace("CONNECTION", "Host=127.0.0.1;Port=1;Database=x;Username=jexa"))
            )
        )
        {
            Assert.Equal(503, await StatusAsync(service, "/gates"));
            Assert.Equal(503, await StatusAsync(service, "/"));
            folder.Write("app.yaml", app.Replace("CONNECTION", server.Connection(database).Replace("\"", "\\\"")));
            server.Execute(database, "CREATE TABLE gate (id integer PRIMARY KEY)");
            await Eventually.TrueAsync(async () => await StatusAsync(service, "/gates") == 200);
        }

        var ran = await RunningService.RunAsync(
            "serve",
            folder.Write(
                "app.yaml",
                app.Replace("CONNECTION", $"Host=127.0.0.1;Port={server.Port};Database={database};Username=jexa;Password=wrong")
            )
        );
        Assert.Equal(3, ran.ExitCode);
        Assert.Contains("28P01", ran.Error);
    }
}
