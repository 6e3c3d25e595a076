using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// Many changes at once, and processes that are killed under them, over each engine that can be edited. <c>JEXA_RACES</c> and
/// <c>JEXA_KILLS</c> say how many; what runs with every change of the code is small, bench/saves runs the full number.
/// </summary>
public class RaceTests
{
    private const int Records = 10;
    private const int Clients = 32;

    private static int Number(string name, int usual) =>
        int.TryParse(Environment.GetEnvironmentVariable(name), CultureInfo.InvariantCulture, out var number) ? number : usual;

    /// <summary>What a table is filled from: numbers as texts, one a record.</summary>
    private static string Rows { get; } = string.Join(", ", Enumerable.Range(1, Records).Select(id => $"({id}, '0', '0')"));

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Of_racing_edits_every_accepted_one_is_in_the_history_and_none_is_lost(string engine)
    {
        var races = Number("JEXA_RACES", 1200);
        using var raced = new Raced(engine, "WAL");
        using var service = await raced.ServeAsync();
        var accepted = new ConcurrentDictionary<string, int>();
        var (conflicts, other, next) = (0, new ConcurrentBag<string>(), 0);
        await Task.WhenAll(
            Enumerable
                .Range(0, Clients)
                .Select(client =>
                    Task.Run(async () =>
                    {
                        using var visitor = new Visitor(service.PagesUrl);
                        var random = new Random(client);
                        while (Interlocked.Increment(ref next) is var number && number <= races)
                        {
                            var id = 1 + random.Next(Records);
                            var value = $"{client}-{number}";
                            var status =
                                client % 2 == 0 ? await PatchAsync(visitor, id, value) : await PostAsync(visitor, id, value);
                            if (status is 200 or 303)
                                accepted[value] = id;
                            else if (status is 409 or 412)
                                Interlocked.Increment(ref conflicts);
                            else
                                other.Add($"{status} for {value}");
                        }
                    })
                )
        );
        Assert.True(other.IsEmpty, $"{string.Join(", ", other)}\n{service.Errors}");
        Assert.Equal(races, accepted.Count + conflicts);
        Assert.True(accepted.Count >= Records && conflicts > 0, $"{accepted.Count} accepted, {conflicts} conflicts");
        var histories = await HistoriesAsync(service);
        Assert.Equal(
            accepted.OrderBy(pair => pair.Key, StringComparer.Ordinal),
            histories
                .SelectMany(pair => pair.Value.Skip(1).Select(value => KeyValuePair.Create(value, pair.Key)))
                .OrderBy(pair => pair.Key, StringComparer.Ordinal)
        );
        foreach (var (id, values) in histories)
            Assert.Equal(values[^1], raced.Ask($"SELECT name FROM thing WHERE id = {id}"));
    }

    private static async Task<int> PatchAsync(Visitor visitor, int id, string value)
    {
        var tag = (await ThereAsync(() => visitor.JsonAsync($"/things/{id}/edit"))).Tag;
        return (await visitor.PatchAsync($"/things/{id}/edit", Body(value), tag)).Status;
    }

    private static string Body(object value) =>
        JsonSerializer.Serialize(new { fields = new { name = $"{value}", twin = $"{value}" } });

    private static async Task<int> PostAsync(Visitor visitor, int id, string value) =>
        (
            await visitor.PostAsync(
                Visitor
                    .FormOf(await ThereAsync(() => visitor.GetAsync($"/things/{id}/edit")))
                    .With(("name", value), ("twin", value))
            )
        ).Status;

    /// <summary>
    /// A page to be read. On a machine that is busy with something else, the source may be too slow for a moment, and the visitor
    /// is asked to come again.
    /// </summary>
    private static async Task<Reply> ThereAsync(Func<Task<Reply>> ask)
    {
        for (var left = 20; ; left--)
        {
            var reply = await ask();
            if (reply.Status == 200)
                return reply;
            Assert.True(reply.Status == 503 && left > 0, reply.Body);
            await Task.Delay(250);
        }
    }

    [Theory]
    [InlineData("sqlite", "WAL")]
    [InlineData("sqlite", "DELETE")]
    [InlineData("postgresql", "")]
    [InlineData("mariadb", "")]
    public async Task After_kills_at_any_instant_every_record_is_whole_every_accepted_save_is_there_and_the_log_agrees(
        string engine,
        string journal
    )
    {
        var kills = Number("JEXA_KILLS", 3);
        using var raced = new Raced(engine, journal);
        using var service = await raced.ServeAsync();
        var random = new Random(7);
        using var meddling = new CancellationTokenSource();
        var outsider = raced.File is { } file && Lacking.Has("sqlite3") ? new Outsider(file) : null;
        var meddler = outsider?.MeddleAsync(mode: false, meddling.Token);
        var (attempted, accepted) = (new int[Records + 1], new int[Records + 1]);
        for (var kill = 0; kill < kills; kill++)
        {
            using var ending = new CancellationTokenSource();
            var writers = Enumerable
                .Range(1, Records)
                .Select(id => Task.Run(() => WriteAsync(service.PagesUrl, id, attempted, accepted, ending.Token)))
                .ToArray();
            var before = accepted.Sum();
            for (var latest = DateTime.UtcNow.AddSeconds(30); accepted.Sum() == before && DateTime.UtcNow < latest; )
                await Task.Delay(5);
            await Task.Delay(random.Next(250));
            await service.EndAsync("KILL");
            await ending.CancelAsync();
            await Task.WhenAll(writers);
            for (var id = 1; id <= Records; id++)
            {
                Assert.Equal(
                    raced.Ask($"SELECT name FROM thing WHERE id = {id}"),
                    raced.Ask($"SELECT twin FROM thing WHERE id = {id}")
                );
                var now = int.Parse(raced.Ask($"SELECT name FROM thing WHERE id = {id}"), CultureInfo.InvariantCulture);
                Assert.InRange(now, accepted[id], attempted[id]);
                attempted[id] = accepted[id] = now;
            }

            await service.RestartAsync();
        }

        // What a dead process left open is decided once its lease is over.
        var patience = DateTime.UtcNow.AddSeconds(60);
        while (
            (await service.AskAsync("changes", "--stage", "intended", "--json")).Out.Contains(
                "\"number\"",
                StringComparison.Ordinal
            )
        )
        {
            Assert.True(DateTime.UtcNow < patience, "Changes are still open after a minute.");
            await Task.Delay(500);
        }

        Assert.DoesNotContain("\"number\"", (await service.AskAsync("changes", "--stage", "undetermined", "--json")).Out);
        foreach (var (id, values) in await HistoriesAsync(service))
            Assert.Equal(values[^1], raced.Ask($"SELECT name FROM thing WHERE id = {id}"));
        await meddling.CancelAsync();
        if (meddler is not null)
        {
            await meddler;
            Assert.Equal(outsider!.Rows.ToString(CultureInfo.InvariantCulture), raced.Ask("SELECT count(*) FROM outside"));
            Assert.Equal("ok", raced.Ask("PRAGMA integrity_check"));
        }

        Assert.True(accepted.Sum() >= kills, $"Only {accepted.Sum()} saves came through {kills} kills.");
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Visitors_who_leave_end_nobody_elses_visit(string engine)
    {
        using var raced = new Raced(engine, "WAL");
        using var service = await raced.ServeAsync();
        var pages = new Uri(service.PagesUrl);
        using var staying = new CancellationTokenSource();
        var leaving = Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(_ =>
                    Task.Run(async () =>
                    {
                        var left = 0;
                        for (var random = new Random(left); !staying.IsCancellationRequested; left++)
                        {
                            using var socket = new Socket(SocketType.Stream, ProtocolType.Tcp)
                            {
                                LingerState = new LingerOption(true, 0),
                            };
                            await socket.ConnectAsync(pages.Host, pages.Port);
                            await socket.SendAsync(
                                Encoding.ASCII.GetBytes(
                                    $"GET /things/{1 + random.Next(Records)} HTTP/1.1\r\nHost: {pages.Authority}\r\n\r\n"
                                )
                            );
                            if (left % 3 > 0)
                                await Task.Delay(TimeSpan.FromMicroseconds(random.Next(1500)));
                        }

                        return left;
                    })
                )
        );
        using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false }) { BaseAddress = pages };
        var statuses = new ConcurrentDictionary<int, int>();
        await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(client =>
                    Task.Run(async () =>
                    {
                        for (var i = 0; i < 250; i++)
                        {
                            using var reply = await http.GetAsync($"things/{1 + ((client + i) % Records)}");
                            statuses.AddOrUpdate((int)reply.StatusCode, 1, (_, count) => count + 1);
                            if (reply.StatusCode == HttpStatusCode.ServiceUnavailable)
                                i--;
                        }
                    })
                )
        );
        await staying.CancelAsync();
        Assert.True((await leaving).Sum() > 50, "Hardly anybody left.");
        Assert.Equal(2000, statuses[200]);

        // On a busy machine a new connection to a server can take too long. Whoever meets that is told, and asks again.
        Assert.InRange(statuses.GetValueOrDefault(503), 0, 10);
        Assert.Empty(statuses.Keys.Except([200, 503]));
    }

    private static async Task WriteAsync(string url, int id, int[] attempted, int[] accepted, CancellationToken ending)
    {
        using var visitor = new Visitor(url);
        while (!ending.IsCancellationRequested)
        {
            var value = ++attempted[id];
            try
            {
                var reply = await visitor.PatchAsync($"/things/{id}/edit", Body(value), "*");
                if (reply.Status == 200)
                    accepted[id] = value;
            }
            catch (HttpRequestException)
            {
                // The process is gone: whether this one was made is what is to be found out.
                return;
            }
        }
    }

    /// <summary>
    /// Each record's values from the first to the last, by the log: every change must begin where the one before it ended.
    /// </summary>
    private static async Task<Dictionary<int, List<string>>> HistoriesAsync(RunningService service)
    {
        var histories = Enumerable.Range(1, Records).ToDictionary(id => id, _ => new List<string> { "0" });
        foreach (var id in histories.Keys.ToList())
        {
            var changes = new List<JsonElement>();
            for (long? before = null; ; )
            {
                var page = JsonDocument
                    .Parse(
                        (
                            await RunningServiceApi.GetAsync(
                                service,
                                $"api/changes?record=thing&id={id}&limit=1000{(before is null ? "" : $"&before={before}")}"
                            )
                        )
                    )
                    .RootElement;
                changes.AddRange(page.GetProperty("changes").EnumerateArray());
                if (!page.GetProperty("more").GetBoolean())
                    break;
                before = changes[^1].GetProperty("number").GetInt64();
            }

            changes.Reverse();
            foreach (var change in changes)
            {
                Assert.Equal("made", change.GetProperty("state").GetString());
                var name = change
                    .GetProperty("fields")
                    .EnumerateArray()
                    .Single(field => field.GetProperty("field").GetString() == "name");
                Assert.Equal(histories[id][^1], name.GetProperty("before").GetString());
                histories[id].Add(name.GetProperty("after").GetString()!);
            }
        }

        return histories;
    }

    /// <summary>An app over ten records of one engine.</summary>
    private sealed class Raced : IDisposable
    {
        private readonly AppFolder _folder = new();
        private readonly PrivateServer? _server;
        private readonly string _database = "";

        /// <summary>The database if it is a file; null on a server.</summary>
        public string? File => _server is null ? _folder.File("data.db") : null;

        /// <param name="journal">How SQLite keeps its file whole: a write-ahead log, or the usual rollback journal.</param>
        public Raced(string engine, string journal)
        {
            var table =
                "CREATE TABLE thing (id INTEGER PRIMARY KEY, name VARCHAR(60) NOT NULL, twin VARCHAR(60) NOT "
                + $"NULL); INSERT INTO thing VALUES {Rows};";
            if (engine == "sqlite")
            {
                _folder.MakeDatabase($"PRAGMA journal_mode={journal}; {table}; CREATE TABLE outside (x TEXT)");
                return;
            }

            _server = (engine == "postgresql" ? PrivateServer.Postgres : PrivateServer.MariaDb).Value;
            _database = _server.NewDatabase();
            _server.Execute(_database, table);
        }

        public Task<RunningService> ServeAsync() =>
            RunningService.StartAsync(
                "serve",
                _folder.Write(
                    "app.yaml",
                    $$"""
                    app: Races
                    sources: { s: { engine: {{_server?.Engine ?? "sqlite"}}, connection: {{JsonSerializer.Serialize(
                        _server?.Connection(_database) ?? "data.db"
                    )}} } }
                    records: { thing: { from: s.thing, label: name } }
                    pages:
                      things: { path: /things, list: thing }
                      thing: { path: "/things/{id}", detail: thing }
                      thing-edit: { path: "/things/{id}/edit", edit: thing }
                    """
                ),
                "--log",
                "none"
            );

        public string Ask(string sql)
        {
            if (_server is not null)
                return _server.Ask(_database, sql)!;
            using var connection = _folder.Open();
            using var command = connection.CreateCommand();
            command.CommandText = sql;
            return Convert.ToString(command.ExecuteScalar(), CultureInfo.InvariantCulture)!;
        }

        public void Dispose() => _folder.Dispose();
    }
}

/// <summary>The management API, with the token of the state folder.</summary>
internal static class RunningServiceApi
{
    public static async Task<string> GetAsync(RunningService service, string path)
    {
        using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false });
        http.DefaultRequestHeaders.Authorization = new(
            "Bearer",
            await File.ReadAllTextAsync(Path.Combine(service.State, "token"))
        );
        return await http.GetStringAsync(service.ConsoleUrl + path);
    }
}
