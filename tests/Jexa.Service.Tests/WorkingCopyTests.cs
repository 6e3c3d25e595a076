using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>The working copy of an app file through the management API, and its preview through the pages' door.</summary>
public sealed class WorkingCopyTests
{
    private static AppFolder Folder(string? app = null)
    {
        var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write("app.yaml", app ?? AppFolder.App);
        return folder;
    }

    private static Task<RunningService> ServeAsync(AppFolder folder) =>
        RunningService.StartAsync("serve", folder.File("app.yaml"));

    private static string Text(AppFolder folder) => File.ReadAllText(folder.File("app.yaml"));

    private static object Set(string place, object value) =>
        new
        {
            changes = new[]
            {
                new
                {
                    change = "set",
                    place,
                    value,
                },
            },
        };

    /// <summary>Asks the management API below <c>/api/working-copy</c>.</summary>
    private static Task<(int Status, JsonElement Body)> AskAsync(
        RunningService service,
        string path = "",
        object? body = null,
        string? method = null
    ) => service.ManageAsync("working-copy" + path, body, method);

    private static async Task<JsonElement> ChangedAsync(RunningService service, object body, string path = "/changes")
    {
        var (status, answer) = await AskAsync(service, path, body);
        Assert.True(status == 200, answer.ToString());
        return answer;
    }

    private static string Of(JsonElement copy, string member) => copy.GetProperty(member).GetString()!;

    private static string[] Steps(JsonElement copy) =>
        [
            .. copy.GetProperty("steps")
                .EnumerateArray()
                .Take(copy.GetProperty("done").GetInt32())
                .Select(step => step.GetString()!),
        ];

    [Fact]
    public async Task A_change_shows_in_the_preview_and_nowhere_else_before_it_is_saved()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/pages/things/title", "All the things"));
        Assert.True(copy.GetProperty("changed").GetBoolean());
        Assert.Equal(AppFolder.App, Text(folder));
        var preview = Of(copy, "preview");
        Assert.Contains("<h1>All the things</h1>", (await service.GetAsync($"{preview}/things")).Body);
        Assert.Contains("<h1>Things</h1>", (await service.GetAsync("/things")).Body);
        // Links stay in the preview; the record's page is the preview's.
        Assert.Contains($"href=\"{preview}/things/1", (await service.GetAsync($"{preview}/things")).Body);

        var saved = await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.False(saved.GetProperty("changed").GetBoolean());
        Assert.Equal(AppFolder.App.Replace("order: [name] }", "order: [name], title: All the things }"), Text(folder));
        await service.ServesAsync("/things", "<h1>All the things</h1>");
    }

    [Fact]
    public async Task A_visitor_never_gets_the_preview()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/pages/things/title", "A secret draft"));
        var preview = Of(copy, "preview");
        var unknown = await service.GetAsync("/_jexa/preview/0123456789abcdef0123456789abcdef/things");
        Assert.Equal(404, unknown.Status);
        Assert.DoesNotContain("A secret draft", unknown.Body);
        foreach (var wrong in new[] { preview[..^1], preview + "0", preview[..^1] + "x", preview.ToUpperInvariant() })
            Assert.Equal(404, (await service.GetAsync($"{wrong}/things")).Status);

        // Opened by itself it is as unknown; in a frame it is there, and only the console may frame it.
        async Task<RawAnswer> GetAsync(string head, string method = "GET") =>
            await RunningService.SendAsync(
                service.Port,
                System.Text.Encoding.ASCII.GetBytes(
                    $"{method} {preview}/things HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\n{head}Connection: close\r\n\r\n"
                )
            );
        Assert.Equal(404, (await GetAsync("Sec-Fetch-Dest: document\r\n")).Status);
        var framed = await GetAsync("Sec-Fetch-Dest: iframe\r\n");
        Assert.Equal(200, framed.Status);
        Assert.Equal("no-store", framed.Header("Cache-Control"));
        Assert.Equal("no-referrer", framed.Header("Referrer-Policy"));
        Assert.Contains(
            $"frame-ancestors http://127.0.0.1:{service.ConsolePort} http://localhost:{service.ConsolePort}",
            framed.Header("Content-Security-Policy")
        );
        Assert.Null(framed.Header("Set-Cookie"));
        foreach (var method in new[] { "POST", "PATCH", "DELETE", "PUT" })
            Assert.Equal(405, (await GetAsync("Content-Length: 0\r\n", method)).Status);

        // It leaves no visit behind, and the health of the service knows nothing of it.
        using var visits = JsonDocument.Parse(
            (await service.AskAsync("trace", "--json")).Out is { Length: > 0 } list ? list : "[]"
        );
        Assert.DoesNotContain(preview, visits.RootElement.ToString());
        Assert.Equal(404, (await service.GetAsync("/_jexa/point.js/x")).Status);
    }

    [Fact]
    public async Task A_preview_shows_forms_and_changes_nothing()
    {
        using var folder = Folder(AppFolder.App.Replace("detail: thing }", "detail: thing, forms: [edit, new, delete] }"));
        using var service = await ServeAsync(folder);
        var preview = Of((await AskAsync(service)).Body, "preview");
        Assert.Contains("<form", (await service.GetAsync($"{preview}/things/1/edit")).Body);
        var sent = await RunningService.SendAsync(
            service.Port,
            System.Text.Encoding.ASCII.GetBytes(
                $"POST {preview}/things/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\n"
                    + "Content-Type: application/x-www-form-urlencoded\r\nContent-Length: 8\r\nConnection: close\r\n\r\nname=new"
            )
        );
        Assert.Equal(405, sent.Status);
        Assert.Contains("changes nothing", sent.Body);
        using var database = folder.Open();
        using var asking = database.CreateCommand();
        asking.CommandText = "SELECT group_concat(name) FROM thing";
        Assert.Equal("one,two", asking.ExecuteScalar());
    }

    [Fact]
    public async Task Steps_are_taken_back_and_made_again_across_forms_and_text()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var first = await ChangedAsync(service, Set("/pages/things/title", "One"));
        var typed = (
            await AskAsync(
                service,
                "/text",
                new { version = Of(first, "version"), text = Of(first, "text").Replace("app: Things", "app: Typed") },
                "PUT"
            )
        ).Body;
        var last = await ChangedAsync(service, Set("/home", "things"));
        Assert.Equal(["set pages things title", "typing", "set home"], Steps(last));
        Assert.Contains("app: Typed", Of(last, "text"));

        // A text typed into an older version is refused.
        var (stale, _) = await AskAsync(service, "/text", new { version = Of(first, "version"), text = "x" }, "PUT");
        Assert.Equal(409, stale);

        var undone = await ChangedAsync(service, new { }, "/undo");
        Assert.Equal(Of(typed, "text"), Of(undone, "text"));
        undone = await ChangedAsync(service, new { }, "/undo");
        Assert.Equal(Of(first, "text"), Of(undone, "text"));
        undone = await ChangedAsync(service, new { }, "/undo");
        Assert.Equal(AppFolder.App, Of(undone, "text"));
        Assert.False(undone.GetProperty("changed").GetBoolean());
        for (var i = 0; i < 3; i++)
            undone = await ChangedAsync(service, new { }, "/redo");
        Assert.Equal(Of(last, "text"), Of(undone, "text"));

        // The same thing said again at once is one step: typing into a field is.
        await ChangedAsync(service, Set("/app", "N"));
        var name = await ChangedAsync(service, Set("/app", "Na"));
        Assert.Equal(4, Steps(name).Length);
        Assert.Equal(Of(last, "text"), Of(await ChangedAsync(service, new { }, "/undo"), "text"));
        var dropped = await ChangedAsync(service, new { }, "/discard");
        Assert.Equal((AppFolder.App, 0), (Of(dropped, "text"), Steps(dropped).Length));
    }

    [Fact]
    public async Task A_restart_loses_nothing_of_the_working_copy()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var before = await ChangedAsync(service, Set("/pages/things/title", "Kept"));
        await service.EndAsync("KILL");
        await service.RestartAsync();
        var after = (await AskAsync(service)).Body;
        Assert.Equal(Of(before, "text"), Of(after, "text"));
        Assert.Equal(["set pages things title"], Steps(after));
        Assert.NotEqual(Of(before, "preview"), Of(after, "preview"));
        Assert.Contains("<h1>Kept</h1>", (await service.GetAsync($"{Of(after, "preview")}/things")).Body);
        Assert.Equal(404, (await service.GetAsync($"{Of(before, "preview")}/things")).Status);
    }

    [Fact]
    public async Task A_file_changed_meanwhile_is_merged_and_never_written_over()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/app", "Mine"));
        folder.Write("app.yaml", AppFolder.App + "\n# somebody else\n");
        copy = (await AskAsync(service)).Body;
        Assert.True(copy.GetProperty("diskDiffers").GetBoolean());
        Assert.Equal(409, (await AskAsync(service, "/save", new { version = Of(copy, "version") })).Status);
        Assert.EndsWith("# somebody else\n", Text(folder));

        var merged = await ChangedAsync(service, new { takeMine = Array.Empty<bool>() }, "/merge");
        Assert.Contains("app: Mine", Of(merged, "text"));
        Assert.EndsWith("# somebody else\n", Of(merged, "text"));
        Assert.False(merged.GetProperty("diskDiffers").GetBoolean());

        // Both change the same line: one of them must be chosen.
        folder.Write("app.yaml", Text(folder).Replace("app: Things", "app: Theirs"));
        Assert.Equal(422, (await AskAsync(service, "/merge", new { takeMine = Array.Empty<bool>() })).Status);
        var parts = (await AskAsync(service, "/difference")).Body.GetProperty("merge").EnumerateArray().ToList();
        Assert.Single(parts, part => part.GetProperty("conflict").GetBoolean());
        merged = await ChangedAsync(service, new { takeMine = new[] { false } }, "/merge");
        Assert.StartsWith("app: Theirs", Of(merged, "text"));
        await ChangedAsync(service, Set("/app", "Both"));
        copy = (await AskAsync(service)).Body;
        await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.StartsWith("app: Both", Text(folder));
    }

    [Fact]
    public async Task A_file_that_is_gone_is_written_anew()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        await ChangedAsync(service, Set("/app", "Kept"));
        File.Delete(folder.File("app.yaml"));
        var copy = (await AskAsync(service)).Body;
        Assert.True(copy.GetProperty("diskGone").GetBoolean());
        Assert.False(copy.GetProperty("diskDiffers").GetBoolean());
        Assert.Equal(422, (await AskAsync(service, "/merge", new { takeMine = Array.Empty<bool>() })).Status);
        // Dropping the changes leaves the text that was in the file: it is all that is left of it.
        Assert.Equal(AppFolder.App, Of(await ChangedAsync(service, new { }, "/discard"), "text"));
        copy = await ChangedAsync(service, Set("/app", "Anew"));
        var saved = await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.False(saved.GetProperty("diskGone").GetBoolean());
        Assert.False(saved.GetProperty("changed").GetBoolean());
        Assert.Equal(AppFolder.App.Replace("app: Things", "app: Anew"), Text(folder));
        // One without changes is kept as well, and can be saved.
        File.Delete(folder.File("app.yaml"));
        copy = (await AskAsync(service)).Body;
        Assert.True(copy.GetProperty("changed").GetBoolean());
        await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.StartsWith("app: Anew", Text(folder));
    }

    [Theory]
    [InlineData("no text")]
    [InlineData("folder")]
    [InlineData("circle")]
    public async Task What_stands_in_the_place_of_the_file_is_never_written_over(string instead)
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        await ChangedAsync(service, Set("/app", "Mine"));
        var file = folder.File("app.yaml");
        File.Delete(file);
        if (instead == "no text")
            File.WriteAllBytes(file, [0x61, 0xFF, 0xFE]);
        else if (instead == "folder")
            Directory.CreateDirectory(file);
        else
            File.CreateSymbolicLink(file, file);
        var copy = (await AskAsync(service)).Body;
        Assert.StartsWith("app: Mine", Of(copy, "text"));
        Assert.NotEmpty(Of(copy, "obstacle"));
        foreach (
            var (path, body) in new (string, object)[]
            {
                ("/save", new { version = Of(copy, "version") }),
                ("/merge", new { takeMine = Array.Empty<bool>() }),
            }
        )
        {
            var (status, answer) = await AskAsync(service, path, body);
            Assert.Equal(422, status);
            Assert.NotEmpty(Of(answer, "detail"));
        }

        Assert.Equal(instead == "folder", Directory.Exists(file));
        if (instead == "no text")
            Assert.Equal([0x61, 0xFF, 0xFE], File.ReadAllBytes(file));
        Assert.Equal(instead == "circle", new FileInfo(file).LinkTarget is not null);
        // Nothing of this ends the service, and the work goes on when the file is back.
        Assert.Equal(200, (await service.GetAsync("/things")).Status);
        if (instead == "folder")
            Directory.Delete(file);
        else
            File.Delete(file);
        folder.Write("app.yaml", AppFolder.App);
        copy = (await AskAsync(service)).Body;
        await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.StartsWith("app: Mine", Text(folder));
    }

    [Fact]
    public async Task A_link_stays_a_link_and_its_file_is_saved()
    {
        using var folder = Folder();
        File.Move(folder.File("app.yaml"), folder.File("real.yaml"));
        File.CreateSymbolicLink(folder.File("app.yaml"), "real.yaml");
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/app", "Linked"));
        await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        Assert.Equal("real.yaml", new FileInfo(folder.File("app.yaml")).LinkTarget);
        Assert.StartsWith("app: Linked", File.ReadAllText(folder.File("real.yaml")));
    }

    [Fact]
    public async Task What_others_saved_just_as_it_stands_here_is_nothing_to_merge()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/app", "Same"));
        folder.Write("app.yaml", Of(copy, "text"));
        copy = (await AskAsync(service)).Body;
        Assert.False(copy.GetProperty("changed").GetBoolean());
        Assert.False(copy.GetProperty("diskDiffers").GetBoolean());
        // The steps are there still.
        var undone = await ChangedAsync(service, new { }, "/undo");
        Assert.Equal(AppFolder.App, Of(undone, "text"));
        Assert.True(undone.GetProperty("changed").GetBoolean());
    }

    [Fact]
    public async Task Earlier_versions_are_kept_and_brought_back()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/app", "Second"));
        await ChangedAsync(service, new { version = Of(copy, "version") }, "/save");
        var versions = (await AskAsync(service, "/versions")).Body.EnumerateArray().ToList();
        Assert.Equal(2, versions.Count);
        Assert.True(versions[0].GetProperty("present").GetBoolean());
        var back = await ChangedAsync(service, new { }, $"/versions/{Of(versions[1], "version")}");
        Assert.Equal(AppFolder.App, Of(back, "text"));
        Assert.True(back.GetProperty("changed").GetBoolean());
        Assert.Equal(422, (await AskAsync(service, "/versions/nonsense", new { })).Status);
        Assert.Equal(404, (await AskAsync(service, "/versions/nonsense")).Status);
        await ChangedAsync(service, new { }, "/discard");
        var (_, seen) = await AskAsync(service, $"/versions/{Of(versions[1], "version")}");
        Assert.Equal(AppFolder.App, Of(seen, "text"));
        Assert.Equal(
            ["False app: Second", "True app: Things"],
            seen.GetProperty("lines").EnumerateArray().Select(line => $"{line.GetProperty("new")} {Of(line, "text")}")
        );

        // What others save is kept as well, and there is a bound.
        for (var i = 0; i < 60; i++)
        {
            folder.Write("app.yaml", AppFolder.App.Replace("app: Things", $"app: Number {i}"));
            await service.ServesAsync("/things", $"Number {i}");
        }

        // What is no text is no version.
        File.WriteAllBytes(folder.File("app.yaml"), [0x61, 0xFF]);
        await BehindAsync(true);
        folder.Write("app.yaml", AppFolder.App.Replace("app: Things", "app: Number 59"));
        await BehindAsync(false);
        versions = [.. (await AskAsync(service, "/versions")).Body.EnumerateArray()];
        Assert.Equal(50, versions.Count);
        Assert.True(versions[0].GetProperty("present").GetBoolean());

        async Task BehindAsync(bool isBehind)
        {
            for (var left = 200; left > 0; left--)
            {
                if ((await service.ManageAsync("site")).Body.GetProperty("behind").GetBoolean() == isBehind)
                    return;
                await Task.Delay(50, TestContext.Current.CancellationToken);
            }

            Assert.Fail($"The service is not {(isBehind ? "behind" : "up to date")}.");
        }
    }

    [Fact]
    public async Task A_read_only_file_gives_a_patch_and_is_not_written()
    {
        using var folder = Folder();
        File.SetUnixFileMode(folder.File("app.yaml"), UnixFileMode.UserRead);
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(service, Set("/app", "Read"));
        Assert.Contains("read-only", Of(copy, "obstacle"));
        Assert.Equal(422, (await AskAsync(service, "/save", new { version = Of(copy, "version") })).Status);
        Assert.Contains("-app: Things\n+app: Read\n", Of((await AskAsync(service, "/difference")).Body, "patch"));
        Assert.Equal(AppFolder.App, Text(folder));
    }

    [Fact]
    public async Task A_wrong_name_is_found_at_its_place_and_mended_by_its_remedy()
    {
        using var folder = Folder(
            AppFolder.App.Replace("order: [name] }", "order: [name], links: [{ to: thing, with: { idd: id } }] }")
        );
        folder.Write("app.yaml", AppFolder.App);
        using var service = await ServeAsync(folder);
        var copy = await ChangedAsync(
            service,
            Set("/pages/things/links", new[] { new { to = "thing", with = new Dictionary<string, string> { ["idd"] = "id" } } })
        );
        var finding = Assert.Single(copy.GetProperty("findings").EnumerateArray());
        Assert.Equal("/pages/things/links/0/with/idd", Of(finding, "place"));
        Assert.Equal("Write id", Of(finding, "remedyLabel"));
        Assert.False(copy.GetProperty("serves").GetBoolean());
        // The page is there all the same, without the faulty link.
        Assert.Equal(200, (await service.GetAsync($"{Of(copy, "preview")}/things")).Status);

        var mended = await ChangedAsync(service, new { changes = new[] { finding.GetProperty("remedy") } });
        Assert.Empty(mended.GetProperty("findings").EnumerateArray());
        Assert.Contains("links: [{ to: thing, with: { id: id } }]", Of(mended, "text"));
        var choices = (await AskAsync(service, "/choices?place=/pages/things/links/0/with&keys=true")).Body;
        Assert.Equal("id", Of(Assert.Single(choices.EnumerateArray()), "text"));
    }

    [Fact]
    public async Task The_links_of_a_page_and_its_ID_cases_are_tried()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var links = (await AskAsync(service, "/links", new { target = "/things" })).Body.EnumerateArray().ToList();
        Assert.Contains(links, link => Of(link, "address") == "/things/1" && Of(link, "page") == "thing");
        Assert.All(links, link => Assert.Equal(200, link.GetProperty("status").GetInt32()));
        var cases = (await AskAsync(service, "/cases?page=thing")).Body.EnumerateArray().ToList();
        Assert.Equal(["right", "malformed", "not-canonical", "unknown"], cases.Select(one => Of(one, "case")));
        foreach (var one in cases)
        {
            var trace = (await AskAsync(service, "/traces", new { target = Of(one, "address") })).Body;
            Assert.Equal(Of(one, "expected"), Of(trace, "outcome"));
        }
    }

    [Fact]
    public async Task A_list_is_looked_at_as_if_it_had_no_records_and_only_in_the_preview()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var preview = Of((await AskAsync(service)).Body, "preview");
        var cases = (await AskAsync(service, "/cases?page=things")).Body.EnumerateArray().ToList();
        var empty = Of(Assert.Single(cases, one => Of(one, "case") == "empty"), "address");
        Assert.Equal("listed", Of((await AskAsync(service, "/traces", new { target = empty })).Body, "outcome"));
        Assert.Contains("<td", (await service.GetAsync($"{preview}/things")).Body);
        var shown = (await service.GetAsync(preview + empty)).Body;
        Assert.Contains("There are no things yet.", shown);
        Assert.DoesNotContain("<td", shown);
        Assert.Contains("<td", (await service.GetAsync(empty)).Body);
    }

    [Theory]
    [InlineData("app: [\n", "cannot be read")]
    [InlineData("app: A\napp: B\n", "")]
    [InlineData("\tapp: A\n", "")]
    [InlineData("", "")]
    [InlineData("\uFEFFapp: A\r\nsources: {}\r\n", "")]
    public async Task Any_text_can_be_typed_and_is_never_lost(string text, string why)
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var copy = (await AskAsync(service)).Body;
        var (status, typed) = await AskAsync(service, "/text", new { version = Of(copy, "version"), text }, "PUT");
        Assert.Equal(200, status);
        Assert.Equal(text, Of(typed, "text"));
        Assert.False(typed.GetProperty("serves").GetBoolean());
        Assert.NotEmpty(typed.GetProperty("findings").EnumerateArray());
        if (!typed.GetProperty("readable").GetBoolean())
        {
            var (refused, answer) = await AskAsync(service, "/changes", Set("/app", "x"));
            Assert.Equal(422, refused);
            Assert.Contains(why, Of(answer, "detail"));
        }

        // The last pages that could be made stay to be looked at, and visitors have theirs.
        Assert.Equal(200, (await service.GetAsync("/things")).Status);
        await ChangedAsync(service, new { }, "/undo");
        Assert.Equal(200, (await service.GetAsync($"{Of(typed, "preview")}/things")).Status);
    }

    [Fact]
    public async Task What_can_be_typed_and_what_it_means_is_told_for_an_unfinished_text()
    {
        using var folder = Folder();
        using var service = await ServeAsync(folder);
        var text = AppFolder.App + "\n  more: { path: /more, list: thing, links: [{ to: th";
        var (_, found) = await AskAsync(service, "/completions", new { text, offset = text.Length });
        Assert.Equal(text.Length - 2, found.GetProperty("from").GetInt32());
        // The page that is being typed is one of them.
        Assert.Equal(
            ["things", "thing", "more"],
            found.GetProperty("completions").EnumerateArray().Select(one => Of(one, "label"))
        );
        var (_, hover) = await AskAsync(
            service,
            "/hover",
            new { text = AppFolder.App, offset = AppFolder.App.IndexOf("list: thing", StringComparison.Ordinal) + 7 }
        );
        Assert.Contains("**thing**: thing, key `id`", Of(hover, "markdown"));
        Assert.Equal(3, hover.GetProperty("line").GetInt32());
    }
}
