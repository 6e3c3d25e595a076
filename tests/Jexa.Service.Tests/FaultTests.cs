using System.Diagnostics;
using System.Net.Sockets;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>Visitors who are slow or leave, and a disk with no room left: the others are served, and nothing dies.</summary>
public class FaultTests
{
    [Fact]
    public async Task A_thousand_slow_connections_hold_nobody_up()
    {
        using var service = await RunningService.StartAsync("demo");
        await service.GetAsync("/bridges/7");
        var slow = new List<TcpClient>();
        try
        {
            for (var i = 0; i < 1000; i++)
            {
                var client = new TcpClient { NoDelay = true };
                slow.Add(client);
                await client.ConnectAsync("127.0.0.1", service.Port, TestContext.Current.CancellationToken);
                await client
                    .GetStream()
                    .WriteAsync(Encoding.ASCII.GetBytes("GET /bridges/7 HTTP/1.1\r\nHo"), TestContext.Current.CancellationToken);
            }

            var clock = Stopwatch.StartNew();
            for (var i = 0; i < 50; i++)
                Assert.Equal(200, (await service.GetAsync($"/bridges/{i + 20}")).Status);
            Assert.InRange(clock.Elapsed.TotalSeconds, 0, 10);

            // One of them goes on after all, a byte at a time, and gets its answer.
            var stream = slow[500].GetStream();
            foreach (var letter in $"st: 127.0.0.1:{service.Port}\r\nConnection: close\r\n\r\n")
                await stream.WriteAsync(new[] { (byte)letter }, TestContext.Current.CancellationToken);
            Assert.StartsWith(
                "HTTP/1.1 200",
                await new StreamReader(stream).ReadToEndAsync(TestContext.Current.CancellationToken)
            );
        }
        finally
        {
            foreach (var client in slow)
                client.Dispose();
        }

        Assert.Equal(200, (await service.GetAsync("/bridges")).Status);
        Assert.InRange((await service.EndAsync()).Took.TotalSeconds, 0, 5);
    }

    [Fact]
    public async Task A_visitor_who_leaves_in_mid_answer_is_no_trouble()
    {
        using var service = await RunningService.StartAsync("demo");
        for (var i = 0; i < 300; i++)
        {
            using var client = new TcpClient();
            await client.ConnectAsync("127.0.0.1", service.Port, TestContext.Current.CancellationToken);
            client.LingerState = new LingerOption(true, 0);
            var asked = string.Concat(Enumerable.Repeat($"GET /bridges HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\n\r\n", 20));
            await client.GetStream().WriteAsync(Encoding.ASCII.GetBytes(asked), TestContext.Current.CancellationToken);
            if (i % 3 > 0)
                await client.GetStream().ReadExactlyAsync(new byte[i % 3 * 700], TestContext.Current.CancellationToken);
        }

        Assert.Equal(200, (await service.GetAsync("/bridges")).Status);
        Assert.DoesNotContain("ended failed", service.Errors);
        Assert.DoesNotContain("Exception", service.Errors);
        Assert.Equal(0, (await service.EndAsync()).ExitCode);
    }

    [Fact]
    public async Task A_full_disk_is_unavailable_until_there_is_room()
    {
        using var folder = new AppFolder();
        using var disk = SmallDisk.TryMake(folder.File("disk"));
        Assert.SkipWhen(disk is null, "A disk of its own can be made by root only.");
        // In this mode a reader needs a file beside the database, which a full disk has no room for.
        folder.MakeDatabase($"PRAGMA journal_mode = WAL; {AppFolder.Schema}", "disk/data.db");
        using var service = await RunningService.StartAsync(
            "serve",
            folder.Write("app.yaml", AppFolder.App.Replace("data.db", "disk/data.db"))
        );
        Assert.Equal(200, (await service.GetAsync("/things/1")).Status);
        File.Move(folder.File("disk/data.db"), folder.File("disk/aside.db"));
        await AnswersAsync(service, 503);
        foreach (var left in new[] { "disk/data.db-shm", "disk/data.db-wal" })
            File.Delete(folder.File(left));
        await Task.Delay(600, TestContext.Current.CancellationToken);
        disk.Fill();
        File.Move(folder.File("disk/aside.db"), folder.File("disk/data.db"));
        await Task.Delay(600, TestContext.Current.CancellationToken);
        var full = await service.GetAsync("/things/1");
        Assert.Equal((503, "5"), (full.Status, full.Header("Retry-After")));
        disk.Empty();
        await AnswersAsync(service, 200);
    }

    [Fact]
    public async Task A_state_folder_on_a_full_disk_is_a_sentence_and_exit_code_2()
    {
        using var folder = new AppFolder();
        using var disk = SmallDisk.TryMake(folder.File("disk"));
        Assert.SkipWhen(disk is null, "A disk of its own can be made by root only.");
        disk.Fill();
        var ran = await RunningService.RunAsync("demo", "--port", "0", "--state", folder.File("disk/state"));
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains("No space left on device", ran.Error);
        Assert.DoesNotContain("unforeseen", ran.Error);
    }

    private static async Task AnswersAsync(RunningService service, int status)
    {
        var clock = Stopwatch.StartNew();
        while ((await service.GetAsync("/things/1")).Status is var seen && seen != status)
        {
            Assert.True(clock.Elapsed.TotalSeconds < 10, $"It went on answering {seen}.");
            await Task.Delay(50);
        }
    }

    [Fact]
    public async Task A_save_on_a_full_disk_changes_nothing_and_loses_nothing_that_was_typed()
    {
        using var folder = new AppFolder();
        using var disk = SmallDisk.TryMake(folder.File("disk"));
        Assert.SkipWhen(disk is null, "A disk of its own can be made by root only.");
        folder.MakeDatabase(AppFolder.Schema, "disk/data.db");
        using var service = await RunningService.StartAsync(
            "serve",
            folder.Write("app.yaml", Editable("disk/data.db")),
            "--log",
            "none"
        );
        using var visitor = new Visitor(service.PagesUrl);
        var form = (await visitor.FormAsync("/things/1/edit")).With(("name", new string('x', 30_000)));
        disk.Fill();
        var full = await visitor.PostAsync(form);
        Assert.Equal((503, 30_000), (full.Status, Visitor.FormOf(full).Fields["name"].Length));
        Assert.Equal(200, (await visitor.GetAsync("/things/1")).Status);
        Assert.Contains("one", (await visitor.GetAsync("/things/1")).Body);
        disk.Empty();
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(full))).Status);
        Assert.Contains("xxxx", (await visitor.GetAsync("/things/1")).Body);
    }

    [Fact]
    public async Task A_change_that_the_log_cannot_take_is_not_made()
    {
        using var folder = new AppFolder();
        using var disk = SmallDisk.TryMake(folder.File("disk"), "2m");
        Assert.SkipWhen(disk is null, "A disk of its own can be made by root only.");
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartInAsync(
            folder.File("disk/state"),
            "serve",
            folder.Write("app.yaml", Editable("data.db")),
            "--log",
            "none"
        );
        using var visitor = new Visitor(service.PagesUrl);
        Assert.Equal(303, (await visitor.PostAsync((await visitor.FormAsync("/things/2/edit")).With(("name", "before")))).Status);
        var form = (await visitor.FormAsync("/things/1/edit")).With(("name", new string('y', 30_000)));
        disk.Fill();
        var full = await visitor.PostAsync(form);
        Assert.Equal((503, 30_000), (full.Status, Visitor.FormOf(full).Fields["name"].Length));
        Assert.Contains("one", (await visitor.GetAsync("/things/1")).Body);
        disk.Empty();
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(full))).Status);
        Assert.Contains("yyyy", (await visitor.GetAsync("/things/1")).Body);
    }

    private static string Editable(string database) =>
        AppFolder.App.Replace("data.db", database) + "\n  thing-edit: { path: \"/things/{id}/edit\", edit: thing }\n";
}
