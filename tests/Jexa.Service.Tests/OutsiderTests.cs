using System.Globalization;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// Saves while other programs use, copy, change and take away the same database: what was answered as saved is there afterwards.
/// JEXA_OUTSIDER_MINUTES makes each run as long as that.
/// </summary>
public sealed class OutsiderTests : IDisposable
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records: { thing: { from: s.thing, label: name, fields: { picture: { as: image, under: . } } } }
        pages:
          things: { path: /things, list: thing, order: [name] }
          thing: { path: "/things/{id}", detail: thing }
          thing-new: { path: /things/new, new: thing }
          thing-edit: { path: "/things/{id}/edit", edit: thing }
        """;

    private const int Saves = 1000;

    private static readonly double Minutes = double.TryParse(
        Environment.GetEnvironmentVariable("JEXA_OUTSIDER_MINUTES"),
        CultureInfo.InvariantCulture,
        out var minutes
    )
        ? minutes
        : 0;

    private readonly AppFolder _folder = new();
    private readonly List<string> _saved = [];
    private int _refused;

    private string Database => _folder.File("data.db");

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("wal", false)]
    [InlineData("delete", false)]
    [InlineData("delete", true)]
    public async Task What_was_answered_as_saved_is_in_the_file_whatever_others_do_with_it(string journal, bool mode)
    {
        Make(journal);
        var outsider = new Outsider(Database);
        using (var service = await ServeAsync())
        {
            using var ending = new CancellationTokenSource();
            var meddling = outsider.MeddleAsync(mode, ending.Token);
            var clock = System.Diagnostics.Stopwatch.StartNew();
            for (var i = 0; i < Saves || clock.Elapsed.TotalMinutes < Minutes; i++)
            {
                await SaveAsync(service, $"saved {i}");
                if (i % 50 == 0)
                    _folder.Write("app.yaml", App.Replace("app: Things", $"app: Things {i}"));
                if (i % 50 == 25)
                    await service.GetAsync("/_jexa/pictures/thing/picture/1");
            }

            await ending.CancelAsync();
            await meddling;
            Assert.InRange(_refused, 0, _saved.Count / 20);
            Assert.Equal(
                _saved.Count.ToString(CultureInfo.InvariantCulture),
                await outsider.AskAsync("SELECT count(*) FROM thing WHERE name LIKE 'saved%'")
            );
            await MadeAsync(service, _saved.Count);
            await service.EndAsync();
        }

        Assert.Empty(_saved.Except(await outsider.NamesAsync()));
        Assert.Equal("ok", await outsider.AskAsync("PRAGMA integrity_check"));
        Assert.Equal(
            outsider.Rows.ToString(CultureInfo.InvariantCulture),
            await outsider.AskAsync("SELECT count(*) FROM outside")
        );
        foreach (var what in new[] { "read", "write", "backup", "vacuum into", "checkpoint" })
            Assert.True(outsider.Done.GetValueOrDefault(what) > 2, outsider.ToString());
    }

    [Fact]
    public async Task A_log_that_is_taken_away_is_noticed_before_the_next_save_is_confirmed_and_nothing_is_lost()
    {
        Make("wal");
        var outsider = new Outsider(Database);
        using (var service = await ServeAsync())
        {
            for (var round = 0; round < 5; round++)
            {
                for (var i = 0; i < 20; i++)
                    await SaveAsync(service, $"saved {round} {i}");
                foreach (var ending in round % 2 == 0 ? new[] { "-wal", "-shm" } : ["-wal"])
                    File.Delete(Database + ending);
            }

            await WorksAgainAsync(service);
            await service.EndAsync();
        }

        Assert.Empty(_saved.Except(await outsider.NamesAsync()));
        Assert.Equal("ok", await outsider.AskAsync("PRAGMA integrity_check"));
    }

    [Fact]
    public async Task A_log_that_was_exchanged_and_used_by_others_takes_no_confirmed_save_any_more()
    {
        Make("wal");
        var outsider = new Outsider(Database);
        using var service = await ServeAsync();
        for (var i = 0; i < 5; i++)
            await SaveAsync(service, $"before {i}");
        await outsider.AskAsync("PRAGMA wal_checkpoint(TRUNCATE)");
        foreach (var ending in new[] { "-wal", "-shm" })
            File.Delete(Database + ending);
        await outsider.AskAsync("INSERT INTO outside VALUES ('y'); PRAGMA wal_checkpoint(TRUNCATE)");
        for (var i = 0; i < 200; i++)
            await SaveAsync(service, $"after {i}");
        Assert.InRange(_refused, 0, 199);
        await WorksAgainAsync(service);
        await service.EndAsync();
        Assert.Empty(_saved.Except(await outsider.NamesAsync()));
        Assert.Equal(
            ("ok", "1"),
            (await outsider.AskAsync("PRAGMA integrity_check"), await outsider.AskAsync("SELECT count(*) FROM outside"))
        );
    }

    [Theory]
    [InlineData("wal", "restore")]
    [InlineData("delete", "restore")]
    [InlineData("wal", "rename")]
    [InlineData("delete", "rename")]
    public async Task A_copy_that_is_restored_is_what_saves_go_to_from_then_on(string journal, string how)
    {
        Make(journal);
        var outsider = new Outsider(Database);
        var copy = _folder.File("copy.db");
        using var service = await ServeAsync();
        for (var i = 0; i < 10; i++)
            await SaveAsync(service, $"copied {i}");
        var copied = _saved.ToList();
        await outsider.AskAsync($".backup '{copy}'");
        for (var i = 0; i < 10; i++)
            await SaveAsync(service, $"gone {i}");
        _saved.Clear();
        if (how == "restore")
            await outsider.AskAsync($".restore '{copy}'");
        else
            File.Move(copy, Database, overwrite: true);
        for (var i = 0; i < 100; i++)
            await SaveAsync(service, $"after {i}");
        await WorksAgainAsync(service);
        await service.EndAsync();
        var names = await outsider.NamesAsync();
        Assert.Empty(_saved.Concat(copied).Except(names));
        Assert.DoesNotContain(names, name => name.StartsWith("gone", StringComparison.Ordinal));
        Assert.Equal("ok", await outsider.AskAsync("PRAGMA integrity_check"));
    }

    [Theory]
    [InlineData("wal")]
    [InlineData("delete")]
    public async Task Locks_on_the_database_are_kept_whatever_is_asked_of_the_service(string journal)
    {
        Make(journal);
        using var service = await ServeAsync();
        await SaveAsync(service, "first");
        var held = LocksOf(service);

        // In WAL mode the database and its log's index are locked as long as a connection is open.
        if (journal == "wal")
            foreach (var ending in new[] { "", "-shm" })
                Assert.Contains(held, line => line.Contains($":{InodeOf(Database + ending)} ", StringComparison.Ordinal));
        foreach (var name in new[] { "data.db", "data.db-wal", "data.db-shm", "link.db", "hard.db" })
        {
            if (name == "link.db")
                File.CreateSymbolicLink(_folder.File(name), Database);
            if (name == "hard.db")
                using (var link = System.Diagnostics.Process.Start("ln", [Database, _folder.File(name)]))
                    await link.WaitForExitAsync(TestContext.Current.CancellationToken);
            using (var connection = _folder.Open())
            using (var command = connection.CreateCommand())
            {
                command.CommandText = $"UPDATE thing SET picture = '{name}' WHERE id = 1";
                command.ExecuteNonQuery();
            }

            Assert.Equal(404, (await service.GetAsync("/_jexa/pictures/thing/picture/1")).Status);
            await service.GetAsync("/things/1");
        }

        for (var i = 0; i < 3; i++)
        {
            _folder.Write(
                "app.yaml",
                App.Replace("app: Things", $"app: Other {i}").Replace("list: thing,", "list: thing, title: No,")
            );
            await Task.Delay(400, TestContext.Current.CancellationToken);
            _folder.Write(
                "app.yaml",
                App.Replace("app: Things", $"app: Other {i}\nframe: {{ style: data.db, footer: data.db }}")
            );
            await Task.Delay(400, TestContext.Current.CancellationToken);
            await service.GetAsync("/things");
        }

        Assert.Empty(held.Except(LocksOf(service)));
    }

    /// <summary>The locks that the service holds on the files of the database, as the system lists them.</summary>
    private List<string> LocksOf(RunningService service)
    {
        var inodes = new[] { "", "-shm" }
            .Where(ending => File.Exists(Database + ending))
            .Select(ending => $":{InodeOf(Database + ending)} ")
            .ToList();
        return
        [
            .. File.ReadAllLines("/proc/locks")
                .Where(line => line.Contains($" {service.ProcessId} ", StringComparison.Ordinal) && inodes.Exists(line.Contains))
                .Select(line => line[(line.IndexOf(':') + 1)..])
                .Distinct(),
        ];
    }

    private static string InodeOf(string file)
    {
        using var stat = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo("stat", ["-c", "%i", file]) { RedirectStandardOutput = true }
        )!;
        return stat.StandardOutput.ReadToEnd().Trim();
    }

    private void Make(string journal) =>
        _folder.MakeDatabase(
            $"PRAGMA journal_mode={journal}; CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, "
                + "picture TEXT); INSERT INTO thing VALUES (1, 'one', NULL); CREATE TABLE outside (x TEXT)"
        );

    private Task<RunningService> ServeAsync() =>
        RunningService.StartAsync("serve", _folder.Write("app.yaml", App), "--log", "none");

    private async Task SaveAsync(RunningService service, string name)
    {
        using var program = new Visitor(service.PagesUrl);
        var reply = await program.AddAsync("/things/new", JsonSerializer.Serialize(new { fields = new { name } }));
        if (reply.Status == 201)
            _saved.Add(name);
        else if (reply.Status == 503)
            _refused++;
        else
            Assert.Fail($"{reply.Status}: {reply.Body}");
    }

    private async Task WorksAgainAsync(RunningService service)
    {
        var clock = System.Diagnostics.Stopwatch.StartNew();
        for (var i = 0; ; i++)
        {
            var before = _saved.Count;
            await SaveAsync(service, $"again {i}");
            if (_saved.Count > before)
                return;
            Assert.True(clock.Elapsed.TotalSeconds < 60, "It never saved again.");
            await Task.Delay(50);
        }
    }

    private static async Task MadeAsync(RunningService service, int count)
    {
        var made = 0;
        var before = "";
        while (true)
        {
            using var page = JsonDocument.Parse(
                await RunningServiceApi.GetAsync(service, $"api/changes?limit=1000&state=made{before}")
            );
            var changes = page.RootElement.GetProperty("changes").EnumerateArray().ToList();
            made += changes.Count;
            if (!page.RootElement.GetProperty("more").GetBoolean())
                break;
            before = $"&before={changes[^1].GetProperty("number").GetInt64()}";
        }

        Assert.Equal(count, made);
    }
}
