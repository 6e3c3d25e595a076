namespace Jexa.Service.Tests;

/// <summary>A few slow visits never stop a source: quick pages are answered, what waits too long is refused early.</summary>
public class SlowTests
{
    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Endless_queries_of_one_page_leave_the_other_pages_of_the_source_as_they_are(string engine)
    {
        using var folder = new AppFolder();
        var connection = "data.db";
        var endless =
            engine == "mariadb"
                ? "SELECT sum(a.seq * b.seq) AS n FROM seq_1_to_1000000 AS a, seq_1_to_1000000 AS b"
                : "WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT (n + 1) % 1000000 FROM c) SELECT max(n) AS n FROM c";
        var schema =
            "CREATE TABLE thing (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL); INSERT INTO thing "
            + $"VALUES (1, 'one'), (2, 'two'); CREATE VIEW endless AS {endless};";
        if (engine == "sqlite")
        {
            folder.MakeDatabase(schema);
        }
        else
        {
            var server = (engine == "postgresql" ? PrivateServer.Postgres : PrivateServer.MariaDb).Value;
            var database = server.NewDatabase();
            server.Execute(database, schema);
            connection = server.Connection(database);
        }

        using var service = await RunningService.StartAsync(
            "serve",
            folder.Write(
                "app.yaml",
                $$"""
                app: Things
                sources: { s: { engine: {{engine}}, connection: '{{connection.Replace("'", "''")}}' } }
                records:
                  thing: { from: s.thing, label: name }
                  slow: { from: s.endless, key: n, unique: assumed, fields: { n: { type: integer } } }
                pages:
                  things: { path: /things, list: thing }
                  thing: { path: "/things/{id}", detail: thing }
                  slow: { path: /slow, list: slow }
                """
            ),
            "--log",
            "none"
        );
        for (var warm = 0; warm < 3; warm++)
            await service.GetAsync("/things/1");

        // Twice: the first time nobody knows yet that the page is slow.
        for (var round = 0; round < 2; round++)
        {
            var slow = Enumerable.Range(0, 24).Select(_ => service.GetAsync("/slow")).ToList();
            for (var i = 0; i < 40; i++)
            {
                foreach (var target in new[] { "/things/1", "/things" })
                {
                    var quick = await service.GetAsync(target);
                    Assert.True(
                        quick.Status == 200,
                        $"{quick.Status} in round {round}: "
                            + $"{(quick.Status == 200 ? "" : (await service.AskAsync("trace", quick.Header("Jexa-Visit")!)).Out)}"
                    );
                }

                await Task.Delay(25, TestContext.Current.CancellationToken);
            }

            var refused = await Task.WhenAll(slow);
            Assert.All(refused, answer => Assert.Equal((503, true), (answer.Status, answer.Header("Retry-After") is not null)));
        }
    }
}
