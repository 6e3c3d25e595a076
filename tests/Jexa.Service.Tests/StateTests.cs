using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// The state folder: what is lost in it is never lost without a word, and trouble with it keeps nobody from reading.
/// </summary>
public sealed class StateTests : IDisposable
{
    private readonly AppFolder _folder = new();
    private readonly string _state = Directory.CreateTempSubdirectory("jexa-state-").FullName;

    private static string App => AppFolder.App + "\n  thing-edit: { path: \"/things/{id}/edit\", edit: thing }\n";

    public void Dispose()
    {
        _folder.Dispose();
        if (Directory.Exists(_state))
            Directory.Delete(_state, recursive: true);
    }

    private async Task<RunningService> ServeAsync(params string[] options)
    {
        if (!File.Exists(_folder.File("data.db")))
            _folder.MakeDatabase(AppFolder.Schema);
        return await RunningService.StartInAsync(_state, ["serve", _folder.Write("app.yaml", App), .. options]);
    }

    private Task<Ran> RefusedAsync() =>
        RunningService.RunAsync("serve", _folder.File("app.yaml"), "--port", "0", "--console-port", "0", "--state", _state);

    private async Task MakeStateAsync()
    {
        var service = await ServeAsync();
        using (var visitor = new Visitor(service.PagesUrl))
            Assert.Equal(200, (await visitor.PatchAsync("/things/1/edit", """{"fields":{"name":"changed"}}""", "*")).Status);
        await service.EndAsync();
    }

    [Theory]
    [InlineData("changes.db", true)]
    [InlineData("changes.db", false)]
    [InlineData("token", true)]
    [InlineData("token", false)]
    [InlineData("cursor-secret", true)]
    [InlineData("version-secret", true)]
    [InlineData("keys", true)]
    [InlineData("keys", false)]
    public async Task What_was_emptied_or_deleted_while_the_service_was_stopped_is_refused_at_start_with_what_to_do(
        string name,
        bool emptied
    )
    {
        await MakeStateAsync();
        foreach (var file in name == "keys" ? Directory.GetFiles(Path.Combine(_state, name)) : [Path.Combine(_state, name)])
        {
            if (emptied)
                await File.WriteAllBytesAsync(file, [], TestContext.Current.CancellationToken);
            else
                File.Delete(file);
        }

        var refused = await RefusedAsync();
        Assert.Equal(2, refused.ExitCode);
        Assert.Contains($"is not whole: {name}", refused.Error);
        Assert.Contains("Put it back from a backup", refused.Error);
        Assert.DoesNotContain("unforeseen", refused.Error);

        // What is said there helps.
        if (name == "keys")
            foreach (var left in Directory.GetFiles(Path.Combine(_state, name)))
                File.Delete(left);
        else
            File.Delete(Path.Combine(_state, name));
        File.Delete(Path.Combine(_state, "identity"));
        using var service = await ServeAsync();
        Assert.Equal(200, (await service.GetAsync("/things/1/edit")).Status);
    }

    [Fact]
    public async Task The_change_log_of_another_folder_is_refused()
    {
        await MakeStateAsync();
        var other = Directory.CreateTempSubdirectory("jexa-state-").FullName;
        using (var service = await RunningService.StartInAsync(other, "serve", _folder.File("app.yaml")))
        {
            await service.EndAsync();
            File.Copy(Path.Combine(other, "changes.db"), Path.Combine(_state, "changes.db"), overwrite: true);
        }

        var refused = await RefusedAsync();
        Assert.Equal(
            (2, true),
            (refused.ExitCode, refused.Error.Contains("changes.db is the log of another state folder", StringComparison.Ordinal))
        );
    }

    [Theory]
    [InlineData("delete")]
    [InlineData("empty")]
    [InlineData("replace")]
    public async Task A_change_log_that_is_taken_away_while_the_service_runs_lets_nobody_save_and_is_shouted_about(string how)
    {
        var before = Path.Combine(_folder.Path, "before.db");
        await MakeStateAsync();
        File.Copy(Path.Combine(_state, "changes.db"), before);
        using var service = await ServeAsync();
        using var visitor = new Visitor(service.PagesUrl);
        Assert.Equal(200, (await visitor.PatchAsync("/things/1/edit", """{"fields":{"name":"one more"}}""", "*")).Status);
        var form = (await visitor.FormAsync("/things/1/edit")).With(("name", "lost?"));
        var log = Path.Combine(_state, "changes.db");
        if (how == "empty")
            await File.WriteAllBytesAsync(log, [], TestContext.Current.CancellationToken);
        else if (how == "delete")
            foreach (var file in Directory.GetFiles(_state, "changes.db*"))
                File.Delete(file);
        else
            File.Move(before, log, overwrite: true);
        var answer = await visitor.PostAsync(form);
        Assert.True(answer.Status == 503, $"{answer.Status} {answer.Html.Body?.TextContent}");
        Assert.Equal("lost?", Visitor.FormOf(answer).Fields["name"]);
        Assert.Equal(503, (await visitor.PatchAsync("/things/2/edit", """{"fields":{"name":"lost?"}}""", "*")).Status);
        Assert.Equal(200, (await visitor.GetAsync("/things/1")).Status);
        Assert.Contains("one more", (await visitor.GetAsync("/things/1")).Body);
        await SaysAsync(service, "was deleted, emptied or replaced while Jexa was using it");
        Assert.Equal(
            (200, 200, 503),
            (await HealthAsync(service, "live"), await HealthAsync(service, "ready"), await HealthAsync(service, "writable"))
        );
    }

    [Fact]
    public async Task A_write_ahead_log_of_the_change_log_that_is_taken_away_loses_nothing()
    {
        await MakeStateAsync();
        using var service = await ServeAsync();
        using var visitor = new Visitor(service.PagesUrl);
        for (var round = 0; round < 3; round++)
        {
            Assert.Equal(
                200,
                (await visitor.PatchAsync("/things/1/edit", $"{{\"fields\":{{\"name\":\"round {round}\"}}}}", "*")).Status
            );
            File.Delete(Path.Combine(_state, "changes.db-wal"));
            File.Delete(Path.Combine(_state, "changes.db-shm"));
            await visitor.PatchAsync("/things/2/edit", """{"fields":{"name":"perhaps"}}""", "*");
        }

        var changes = JsonDocument
            .Parse((await service.AskAsync("changes", "--json", "--id", "1")).Out)
            .RootElement.GetProperty("changes");
        Assert.Equal(4, changes.GetArrayLength());
    }

    [Fact]
    public async Task On_a_full_disk_pages_and_forms_are_read_saves_are_503_and_a_start_says_that_nothing_can_be_changed()
    {
        using var disk = SmallDisk.TryMake(_folder.File("disk"), "1m");
        Assert.SkipWhen(disk is null, "A disk of its own can be made by root only.");
        _folder.MakeDatabase(AppFolder.Schema);
        string[] command = ["serve", _folder.Write("app.yaml", App)];
        using var service = await RunningService.StartInAsync(_folder.File("disk/state"), command);
        using var visitor = new Visitor(service.PagesUrl);
        disk.Fill();
        var form = await visitor.FormAsync("/things/1/edit");
        var full = await visitor.PostAsync(form.With(("name", new string('z', 60_000))));
        Assert.Equal(503, full.Status);
        Assert.Equal((200, 503), (await HealthAsync(service, "ready"), await HealthAsync(service, "writable")));
        var told = await service.AskAsync("changes");
        Assert.DoesNotContain("cannot rollback", told.Error + service.Errors);
        await service.EndAsync();

        disk.Fill();
        await service.RestartAsync();
        await service.SaysAsync("nothing can be changed through them");
        Assert.Equal(200, (await visitor.GetAsync("/things/1")).Status);
        Assert.Equal(200, (await visitor.GetAsync("/things/1/edit")).Status);
        Assert.Equal(503, (await visitor.PatchAsync("/things/1/edit", """{"fields":{"name":"no"}}""", "*")).Status);
        disk.Empty();
        await SavesAsync(visitor);
    }

    [Fact]
    public async Task A_damaged_change_log_lets_people_read_and_says_what_is_wrong()
    {
        await MakeStateAsync();
        var log = Path.Combine(_state, "changes.db");
        var bytes = await File.ReadAllBytesAsync(log, TestContext.Current.CancellationToken);
        Array.Fill<byte>(bytes, 0x5a, 100, bytes.Length - 100);
        await File.WriteAllBytesAsync(log, bytes, TestContext.Current.CancellationToken);
        using var service = await ServeAsync();
        await service.SaysAsync("nothing can be changed through them");
        await service.SaysAsync("malformed");
        using var visitor = new Visitor(service.PagesUrl);
        Assert.Equal(
            (200, 200),
            ((await visitor.GetAsync("/things/1")).Status, (await visitor.GetAsync("/things/1/edit")).Status)
        );
        Assert.Equal(503, (await visitor.PatchAsync("/things/1/edit", """{"fields":{"name":"no"}}""", "*")).Status);
        Assert.Equal(404, (await visitor.GetAsync("/things/99")).Status);
    }

    [Fact]
    public async Task A_state_folder_that_others_can_write_to_is_refused_with_the_command_that_mends_it()
    {
        await MakeStateAsync();
        File.SetUnixFileMode(
            _state,
            UnixFileMode.UserRead
                | UnixFileMode.UserWrite
                | UnixFileMode.UserExecute
                | UnixFileMode.OtherWrite
                | UnixFileMode.OtherExecute
        );
        var refused = await RefusedAsync();
        Assert.Equal((2, true), (refused.ExitCode, refused.Error.Contains($"chmod go-w '{_state}'", StringComparison.Ordinal)));
    }

    private static async Task<int> HealthAsync(RunningService service, string what) =>
        (await service.GetAsync($"/_jexa/health/{what}")).Status;

    private static async Task SaysAsync(RunningService service, string words)
    {
        var clock = System.Diagnostics.Stopwatch.StartNew();
        while (!service.Errors.Contains(words, StringComparison.Ordinal))
        {
            Assert.True(clock.Elapsed.TotalSeconds < 30, service.Errors);
            await Task.Delay(50);
        }
    }

    private static async Task SavesAsync(Visitor visitor)
    {
        var clock = System.Diagnostics.Stopwatch.StartNew();
        while (
            (await visitor.PatchAsync("/things/1/edit", """{"fields":{"name":"at last"}}""", "*")).Status is var seen
            && seen != 200
        )
        {
            Assert.True(clock.Elapsed.TotalSeconds < 30, $"It went on answering {seen}.");
            await Task.Delay(100);
        }
    }
}
