namespace Jexa.Service.Tests;

/// <summary>
/// A source with a copy that is read instead: whoever changed something sees it at once, the others as soon as the copy has it.
/// </summary>
public sealed class ReplicaTests
{
    [Theory]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Visitors_see_their_own_change_at_once_and_forms_never_begin_with_old_values(string engine)
    {
        var server = (engine == "postgresql" ? PrivateServer.Postgres : PrivateServer.MariaDb).Value;
        var (primary, copy) = (server.NewDatabase(), server.NewDatabase());
        foreach (var database in new[] { primary, copy })
            server.Execute(
                database,
                "CREATE TABLE gate (id integer PRIMARY KEY, name varchar(20) NOT NULL); INSERT INTO gate VALUES (1, 'old')"
            );
        using var folder = new AppFolder();
        static string Quoted(string connection) => connection.Replace("\"", "\\\"");
        using var service = await RunningService.StartAsync(
            "serve",
            folder.Write(
                "app.yaml",
                $$"""
                app: Gates
                sources: { s: { engine: {{engine}}, connection: "{{Quoted(server.Connection(primary))}}", replica: "{{Quoted(
                    server.Connection(copy)
                )}}" } }
                records: { gate: { from: s.gate, label: name } }
                pages:
                  gates: { path: /gates, list: gate }
                  gate: { path: "/gates/{id}", detail: gate }
                  gate-edit: { path: "/gates/{id}/edit", edit: gate }
                """
            )
        );
        Assert.Contains("old", (await service.GetAsync("/gates/1")).Body);
        var form = await service.GetJsonAsync("/gates/1/edit");
        const string Change = """{"fields":{"name":"new"}}""";
        var saved = await service.SendAsync(
            $"PATCH /gates/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\nContent-Type: "
                + $"application/merge-patch+json\r\nIf-Match: {form.Header("ETag")}\r\nContent-Length: "
                + $"{Change.Length}\r\nConnection: close\r\n\r\n{Change}"
        );
        Assert.Equal(200, saved.Status);
        Assert.Contains("jexa-wrote=1; max-age=10", saved.Header("Set-Cookie"));

        // The copy has nothing of it yet: others see what it has, the one who changed it and everybody's forms what is so.
        Assert.Contains("old", (await service.GetAsync("/gates/1")).Body);
        foreach (var target in new[] { "/gates/1", "/gates" })
            Assert.Contains("new", (await service.GetAsync(target, "Cookie: jexa-wrote=1\r\n")).Body);
        Assert.Contains("new", (await service.GetJsonAsync("/gates/1/edit")).Body);
        Assert.Equal("new", server.Ask(primary, "SELECT name FROM gate"));
        Assert.Equal("old", server.Ask(copy, "SELECT name FROM gate"));
    }

    [Fact]
    public async Task Keys_of_a_source_that_its_engine_does_not_have_are_refused_with_their_place()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        var ran = await RunningService.RunAsync(
            "check",
            folder.Write(
                "app.yaml",
                AppFolder.App.Replace("connection: data.db", "connection: data.db, replica: other.db, pooling: transaction")
            )
        );
        Assert.Equal(1, ran.ExitCode);
        Assert.Contains("A source of the engine sqlite has no replica.", ran.Out);
        Assert.Contains("A source of the engine sqlite has no pooling.", ran.Out);
        ran = await RunningService.RunAsync(
            "check",
            folder.Write("app.yaml", AppFolder.App.Replace("connection: data.db", "connection: data.db, pooling: sesion"))
        );
        Assert.Contains("Write session.", ran.Out);
    }
}
