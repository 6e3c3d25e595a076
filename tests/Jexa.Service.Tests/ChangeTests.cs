using System.Collections.Concurrent;
using System.Diagnostics;

namespace Jexa.Service.Tests;

/// <summary>What happens while the service runs: to the app file, and to the database under it.</summary>
public sealed class ChangeTests : IAsyncLifetime
{
    private readonly AppFolder _folder = new();
    private RunningService _service = null!;

    public async ValueTask InitializeAsync()
    {
        _folder.MakeDatabase(AppFolder.Schema);
        _service = await RunningService.StartAsync("serve", _folder.Write("app.yaml", AppFolder.App));
    }

    public ValueTask DisposeAsync()
    {
        _service.Dispose();
        _folder.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task A_saved_app_file_is_served_within_a_second()
    {
        _folder.Write("app.yaml", AppFolder.App.Replace("app: Things", "app: Other things"));
        await ComesAsync(async () =>
            (await _service.GetAsync("/things")).Body.Contains("Other things", StringComparison.Ordinal)
        );
        // By rename, as many editors save.
        _folder.Write("draft.yaml", AppFolder.App.Replace("path: /things,", "path: /all,"));
        File.Move(_folder.File("draft.yaml"), _folder.File("app.yaml"), overwrite: true);
        await ComesAsync(async () => (await _service.GetAsync("/all")).Status == 200);
        Assert.Equal(404, (await _service.GetAsync("/things")).Status);
    }

    [Fact]
    public async Task A_broken_save_keeps_the_last_good_site_and_tells_why_in_log_and_command_line()
    {
        foreach (
            var broken in new[]
            {
                AppFolder.App.Replace("list: thing", "list: thign"),
                "app: [",
                "",
                "\u0000",
                AppFolder.App[..90],
            }
        )
        {
            _folder.Write("app.yaml", broken);
            await ComesAsync(async () =>
                (await _service.AskAsync("pages")).Error.Contains("makes no site", StringComparison.Ordinal)
            );
            Assert.Equal(200, (await _service.GetAsync("/things/1")).Status);
            _folder.Write("app.yaml", AppFolder.App);
            await ComesAsync(async () => (await _service.AskAsync("pages")).Error.Length == 0);
        }

        await _service.SaysAsync("JX305");
    }

    [Fact]
    public async Task A_deleted_or_moved_app_file_keeps_the_last_good_site_until_it_is_back()
    {
        File.Move(_folder.File("app.yaml"), _folder.File("elsewhere.yaml"));
        await ComesAsync(async () => (await _service.AskAsync("pages")).Error.Contains("JX109", StringComparison.Ordinal));
        Assert.Equal(200, (await _service.GetAsync("/things/1")).Status);
        Directory.CreateDirectory(_folder.File("app.yaml"));
        await Task.Delay(500);
        Assert.Equal(200, (await _service.GetAsync("/things/1")).Status);
        Directory.Delete(_folder.File("app.yaml"));
        _folder.Write("app.yaml", AppFolder.App.Replace("/things/{id}", "/thing/{id}"));
        await ComesAsync(async () => (await _service.GetAsync("/thing/1")).Status == 200);
    }

    [Fact]
    public async Task Half_a_file_is_never_taken_for_the_whole()
    {
        var whole = AppFolder.App.Replace("app: Things", "app: Other things");
        var half = whole.IndexOf("  thing: { path", StringComparison.Ordinal);
        await using (var slow = new StreamWriter(_folder.File("app.yaml")))
        {
            // A file counts as whole once nobody has written to it for 75 ms; this writer pauses for less, as far as the machine
            // lets it.
            var longest = TimeSpan.Zero;
            var clock = Stopwatch.StartNew();
            for (var i = 0; i < 40; i++)
            {
                await slow.WriteAsync(whole[(half * i / 40)..(half * (i + 1) / 40)]);
                await slow.FlushAsync();
                longest = clock.Elapsed > longest ? clock.Elapsed : longest;
                clock.Restart();
                await Task.Delay(10);
                var status = (await _service.GetAsync("/things/1")).Status;
                Assert.True(
                    status == 200 || longest > TimeSpan.FromMilliseconds(50),
                    $"{status} although no pause was longer than {longest.TotalMilliseconds:0} ms"
                );
            }

            await slow.WriteAsync(whole[half..]);
        }

        await ComesAsync(async () =>
            (await _service.GetAsync("/things/1")).Body.Contains("Other things", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Many_saves_under_load_drop_no_request()
    {
        using var ending = new CancellationTokenSource();
        var wrong = new ConcurrentQueue<string>();
        var asked = 0;
        var visitors = Enumerable
            .Range(0, 4)
            .Select(_ =>
                Task.Run(async () =>
                {
                    while (!ending.IsCancellationRequested)
                    {
                        var answer = await _service.GetAsync("/things/2");
                        Interlocked.Increment(ref asked);
                        if (answer.Status != 200 || !answer.Body.Contains("<h1>two</h1>", StringComparison.Ordinal))
                            wrong.Enqueue($"{answer.Status} {answer.Body}");
                    }
                })
            )
            .ToList();
        for (var i = 0; i < 200; i++)
        {
            _folder.Write("app.yaml", i % 7 == 3 ? "app: [" : AppFolder.App.Replace("app: Things", $"app: Things {i}"));
            await Task.Delay(100);
        }

        _folder.Write("app.yaml", AppFolder.App.Replace("app: Things", "app: Things at last"));
        await ComesAsync(async () =>
            (await _service.GetAsync("/things")).Body.Contains("Things at last", StringComparison.Ordinal)
        );
        await ending.CancelAsync();
        await Task.WhenAll(visitors);
        Assert.Empty(wrong);
        Assert.True(asked > 100);
    }

    [Fact]
    public async Task A_database_that_is_replaced_removed_corrupt_or_locked_recovers_without_a_restart()
    {
        Assert.Equal(200, (await _service.GetAsync("/things/1")).Status);

        // Replaced by another file of the same name.
        _folder.MakeDatabase(AppFolder.Schema.Replace("'one'", "'another'"), "new.db");
        File.Move(_folder.File("new.db"), _folder.File("data.db"), overwrite: true);
        await ComesAsync(async () => (await _service.GetAsync("/things/1")).Body.Contains("another", StringComparison.Ordinal));

        // Removed: not made anew.
        File.Move(_folder.File("data.db"), _folder.File("kept.db"));
        await ComesAsync(async () => (await _service.GetAsync("/things/1")).Status == 503);
        Assert.False(File.Exists(_folder.File("data.db")));

        // Corrupt.
        _folder.Write("data.db", new string('x', 20_000));
        await Task.Delay(300);
        Assert.Equal(503, (await _service.GetAsync("/things/1")).Status);
        File.Move(_folder.File("kept.db"), _folder.File("data.db"), overwrite: true);
        await ComesAsync(async () => (await _service.GetAsync("/things/1")).Status == 200);

        // Locked by a writer for longer than a query may wait.
        using (var writer = _folder.Open())
        {
            using var locking = writer.CreateCommand();
            locking.CommandText = "BEGIN EXCLUSIVE";
            locking.ExecuteNonQuery();
            Assert.Equal(503, (await _service.GetAsync("/things/1")).Status);
        }

        Assert.Equal(200, (await _service.GetAsync("/things/1")).Status);
    }

    [Fact]
    public async Task Other_origins_read_JSON_only_where_the_app_file_lists_them()
    {
        const string json = "Accept: application/json\r\nOrigin: https://app.example\r\n";
        Assert.Null((await _service.GetAsync("/things/1", json)).Header("Access-Control-Allow-Origin"));
        _folder.Write("app.yaml", AppFolder.App + "\norigins: [\"https://app.example\"]\n");
        await ComesAsync(async () =>
            (await _service.GetAsync("/things/1", json)).Header("Access-Control-Allow-Origin") == "https://app.example"
        );
        Assert.Null(
            (await _service.GetAsync("/things/1", "Origin: https://app.example\r\n")).Header("Access-Control-Allow-Origin")
        );
        Assert.Null(
            (await _service.GetAsync("/things/1", json.Replace("app.example", "app.example.other"))).Header(
                "Access-Control-Allow-Origin"
            )
        );
        Assert.Null((await _service.GetAsync("/things/1", json)).Header("Access-Control-Allow-Credentials"));
        Assert.Equal("https://app.example", (await _service.GetAsync("/things/9", json)).Header("Access-Control-Allow-Origin"));
    }

    [Fact]
    public async Task Health_tells_whether_the_process_and_its_sources_answer()
    {
        Assert.Equal((200, "live\n"), Told(await _service.GetAsync("/_jexa/health/live")));
        Assert.Equal((200, "ready\n"), Told(await _service.GetAsync("/_jexa/health/ready")));
        File.Move(_folder.File("data.db"), _folder.File("kept.db"));
        await ComesAsync(async () => Told(await _service.GetAsync("/_jexa/health/ready")) == (503, "not ready\n"));
        Assert.Equal((200, "live\n"), Told(await _service.GetAsync("/_jexa/health/live")));
        File.Move(_folder.File("kept.db"), _folder.File("data.db"));
        await ComesAsync(async () => Told(await _service.GetAsync("/_jexa/health/ready")) == (200, "ready\n"));
        Assert.Null((await _service.GetAsync("/_jexa/health/ready")).Header("Jexa-Visit"));
        Assert.Equal(404, (await _service.GetAsync("/_jexa/health/other")).Status);

        static (int, string) Told(RawAnswer answer) => (answer.Status, answer.Body);
    }

    [Fact]
    public async Task The_log_has_one_line_a_visit_where_that_is_wanted_and_what_a_visitor_sent_stays_harmless()
    {
        using var talkative = await RunningService.StartAsync("serve", _folder.File("app.yaml"), "--log", "visits");
        using var silent = await RunningService.StartAsync("serve", _folder.File("app.yaml"), "--log", "none");
        foreach (var service in new[] { talkative, silent, _service })
        {
            await service.GetAsync("/things/1");
            await service.GetAsync("/things/%1B%5B31m");
        }

        await ComesAsync(() =>
            Task.FromResult(talkative.Errors.Contains("GET /things/%1B%5B31m malformed 400", StringComparison.Ordinal))
        );
        await talkative.SaysAsync("GET /things/1 found 200");
        Assert.DoesNotContain('\u001b', talkative.Errors);
        Assert.Equal("", silent.Errors.Trim());
        Assert.DoesNotContain("found 200", _service.Errors);
        var loud = await RunningService.RunAsync("serve", _folder.File("app.yaml"), "--log", "loud");
        Assert.Equal(
            (2, "jexa: --log must be none or trouble or visits, not “loud”."),
            (loud.ExitCode, loud.Error.Split('\n')[0])
        );
    }

    [Fact]
    public async Task A_changed_schema_is_taken_up_and_a_spoilt_one_is_a_finding()
    {
        _folder.MakeDatabase("ALTER TABLE thing RENAME COLUMN name TO title");
        await ComesAsync(async () =>
            (await _service.GetAsync("/things/1")).Status == 500
            && (await _service.AskAsync("pages")).Error.Contains("JX301", StringComparison.Ordinal)
        );
        _folder.MakeDatabase("ALTER TABLE thing RENAME COLUMN title TO name");
        await ComesAsync(async () => (await _service.GetAsync("/things/1")).Status == 200);
    }

    /// <summary>Waits for what comes by itself; how fast is measured in bench.</summary>
    private static async Task ComesAsync(Func<Task<bool>> holds)
    {
        var clock = Stopwatch.StartNew();
        while (!await holds())
        {
            Assert.True(clock.Elapsed.TotalSeconds < 60, "It did not come true.");
            await Task.Delay(40);
        }
    }
}
