namespace Jexa.Service.Tests;

/// <summary>Named changes of an app file: from the command line, and from programs while the file is served.</summary>
public sealed class AppFileChangeTests
{
    private const string Things = """
        # An app to be changed.
        app: Things     # its name
        home: things

        sources: { data: { engine: sqlite, connection: data.db } }

        records:
          thing: { from: data.thing, label: name }
          part: { from: data.part, label: name }

        pages:
          # All of them.
          things:
            path: /things
            list: thing   # the kind
            links: [{ to: thing }, { to: thing-edit, text: Change }]
          thing: { path: "/things/{id}", detail: thing, forms: [edit] }
          about: { path: /about, text: about.md }
        """;

    private static AppFolder Folder()
    {
        var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
            CREATE TABLE part (id INTEGER PRIMARY KEY, thing_id INTEGER NOT NULL REFERENCES thing (id), name TEXT NOT NULL);
            INSERT INTO thing VALUES (7, 'Crane');
            INSERT INTO part VALUES (3, 7, 'Hook');
            """
        );
        folder.Write("app.yaml", Things);
        folder.Write("about.md", "See [the things](page:things), or [this](page:about).\n");
        return folder;
    }

    /// <summary>Runs a command that changes the app file of a folder.</summary>
    private static Task<Ran> ChangeAsync(AppFolder folder, string change, params string[] parts) =>
        RunningService.RunAsync(["app", change, folder.File("app.yaml"), .. parts]);

    private static string Text(AppFolder folder, string file = "app.yaml") => File.ReadAllText(folder.File(file));

    [Fact]
    public async Task A_command_changes_what_it_names_and_nothing_else()
    {
        using var folder = Folder();
        var shown = await ChangeAsync(folder, "set", "/app", "Parts", "--show");
        Assert.Equal(0, shown.ExitCode);
        Assert.Contains("2 - app: Things     # its name", shown.Out);
        Assert.Contains("2 + app: Parts     # its name", shown.Out);
        Assert.Equal(Things, Text(folder));

        Assert.Equal(0, (await ChangeAsync(folder, "set", "/app", "Parts")).ExitCode);
        Assert.Equal(Things.Replace("app: Things ", "app: Parts "), Text(folder));
        Assert.Equal(0, (await ChangeAsync(folder, "set", "/app", "Things")).ExitCode);
        Assert.Equal(0, (await ChangeAsync(folder, "set", "/pages/things/show", "name", "id")).ExitCode);
        Assert.Contains("    show: [name, id]\n", Text(folder));
        Assert.Equal(0, (await ChangeAsync(folder, "reset", "/pages/things/show")).ExitCode);
        Assert.Equal(Things, Text(folder));
        Assert.Contains("says so already", (await ChangeAsync(folder, "set", "/app", "Things")).Out);
    }

    [Fact]
    public async Task A_renamed_page_is_renamed_wherever_it_is_named()
    {
        using var folder = Folder();
        var renamed = await ChangeAsync(folder, "rename-page", "thing", "item");
        Assert.Equal(0, renamed.ExitCode);
        Assert.EndsWith("is saved: no findings.\n", renamed.Out);
        Assert.Equal(Things.Replace("to: thing", "to: item").Replace("  thing: { path", "  item: { path"), Text(folder));
        Assert.Equal("See [the things](page:things), or [this](page:about).\n", Text(folder, "about.md"));

        // A heading that was made from the name stays as it is.
        Assert.Equal(0, (await ChangeAsync(folder, "rename-page", "things", "all-things")).ExitCode);
        Assert.Contains("    title: Things\n", Text(folder));
        Assert.Contains("home: all-things\n", Text(folder));
        Assert.Contains("(page:all-things)", Text(folder, "about.md"));
    }

    [Fact]
    public async Task Pages_are_added_for_a_record_and_work()
    {
        using var folder = Folder();
        Assert.Equal(0, (await ChangeAsync(folder, "add-pages", "part")).ExitCode);
        Assert.Equal(
            Things
                + "\n  parts: { path: /parts, list: part }\n"
                + "  part: { path: \"/parts/{id}\", detail: part, forms: [edit, new, delete] }",
            Text(folder)
        );
        // Those that a record has already are left alone.
        Assert.Equal(0, (await ChangeAsync(folder, "add-pages", "thing")).ExitCode);
        Assert.EndsWith("  thing-delete: { path: \"/things/{id}/delete\", delete: thing }", Text(folder));
        Assert.Contains("  thing-new: { path: \"/things/new\", new: thing }\n", Text(folder));
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Contains("Hook", (await service.GetAsync("/parts")).Body);
        foreach (
            var (address, status) in new[] { ("/parts/3", 200), ("/parts/3/edit", 200), ("/parts/new", 200), ("/parts/9", 404) }
        )
            Assert.Equal(status, (await service.GetAsync(address)).Status);
    }

    [Fact]
    public async Task A_moved_page_redirects_and_a_renamed_parameter_means_what_it_meant()
    {
        using var folder = Folder();
        Assert.Equal(0, (await ChangeAsync(folder, "move-page", "thing", "/goods/{id}")).ExitCode);
        Assert.Contains("path: \"/goods/{id}\", detail: thing, forms: [edit], was: \"/things/{id}\" }", Text(folder));
        Assert.Equal(0, (await ChangeAsync(folder, "rename-parameter", "thing", "id", "number")).ExitCode);
        Assert.Contains("path: \"/goods/{number}\"", Text(folder));
        Assert.Contains("was: \"/things/{number}\", by: { number: id } }", Text(folder));
        Assert.Contains("no findings", (await RunningService.RunAsync("check", folder.File("app.yaml"))).Out);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Equal(200, (await service.GetAsync("/goods/7")).Status);
        var moved = await service.GetAsync("/things/7");
        Assert.Equal(301, moved.Status);
        Assert.Contains("Location: /goods/7", moved.Head);
        Assert.Contains("href=\"/goods/7", (await service.GetAsync("/things")).Body);

        // Back again: the path that the page had is its own, and the other one is kept.
        Assert.Equal(0, (await ChangeAsync(folder, "move-page", "thing", "/things/{number}")).ExitCode);
        Assert.Contains("path: \"/things/{number}\"", Text(folder));
        Assert.Contains("was: \"/goods/{number}\"", Text(folder));
    }

    [Fact]
    public async Task A_parameter_of_a_list_is_renamed_in_conditions_titles_and_links()
    {
        using var folder = Folder();
        folder.Write(
            "app.yaml",
            Things
                + """

                  parts: { path: "/things/{thing}/parts{?name}", list: part, where: { thing_id: "{thing}" }, title: "Of {thing}" }
                  part: { path: "/parts/{id}", detail: part, links: [{ to: parts, with: { thing: thing_id } }] }
                """
        );
        Assert.Equal(0, (await ChangeAsync(folder, "rename-parameter", "parts", "thing", "whole")).ExitCode);
        Assert.Contains(
            "parts: { path: \"/things/{whole}/parts{?name}\", list: part, where: { thing_id: \"{whole}\" }, "
                + "title: \"Of {whole}\" }",
            Text(folder)
        );
        Assert.Contains("with: { whole: thing_id }", Text(folder));

        // What the name alone meant is written out.
        Assert.Equal(0, (await ChangeAsync(folder, "rename-parameter", "parts", "name", "called")).ExitCode);
        Assert.Contains("{?called}\", list: part, where: { thing_id: \"{whole}\", name: \"{called}\" }", Text(folder));
    }

    [Theory]
    [InlineData("has no parameter “nine”", "rename-parameter", "thing", "nine", "ten")]
    [InlineData("is no name for a parameter", "rename-parameter", "thing", "id", "no-name")]
    [InlineData("There is no page “nine”.", "move-page", "nine", "/nine")]
    [InlineData("There is no record “nonsense”. There are: thing, part.", "add-pages", "nonsense")]
    [InlineData("The record “thing” has a list page already.", "add-pages", "thing", "--kind", "list")]
    [InlineData("The record “thing” has all of these pages already.", "add-pages", "thing", "--kind", "detail", "--kind", "edit")]
    [InlineData("“nine” is no kind of page of a record", "add-pages", "part", "--kind", "nine")]
    [InlineData("There is no page “nine”.", "rename-page", "nine", "ten")]
    [InlineData("The page “about” is there already.", "rename-page", "thing", "about")]
    [InlineData("“9 lives” is no name for a page.", "rename-page", "thing", "9 lives")]
    [InlineData("There is no page “nine”.", "remove-page", "nine")]
    [InlineData("“app” is no place", "set", "app", "x")]
    [InlineData("There is no app.more", "reset", "/app/more")]
    [InlineData("is no mapping", "set", "/app/more", "x")]
    public async Task A_change_that_cannot_be_made_changes_nothing(string why, string change, params string[] parts)
    {
        using var folder = Folder();
        var refused = await ChangeAsync(folder, change, parts);
        Assert.Equal(2, refused.ExitCode);
        Assert.Contains(why, refused.Error);
        Assert.Equal(Things, Text(folder));
    }

    [Fact]
    public async Task A_file_that_may_not_be_written_is_said_and_a_link_stays_a_link()
    {
        using var folder = Folder();
        File.CreateSymbolicLink(folder.File("link.yaml"), folder.File("app.yaml"));
        Assert.Equal(0, (await RunningService.RunAsync("app", "set", folder.File("link.yaml"), "/app", "Linked")).ExitCode);
        Assert.NotNull(new FileInfo(folder.File("link.yaml")).LinkTarget);
        Assert.Contains("app: Linked ", Text(folder));
        Assert.Contains(
            "There is no file",
            (await RunningService.RunAsync("app", "set", folder.File("none.yaml"), "/app", "x")).Error
        );
        folder.Write("broken.yaml", "app: [\n");
        Assert.Contains(
            "cannot be read as YAML",
            (await RunningService.RunAsync("app", "set", folder.File("broken.yaml"), "/app", "x")).Error
        );
    }

    [Fact]
    public async Task A_program_changes_the_file_that_is_served()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var version = (await service.ManageAsync("app-file")).Body.GetProperty("version").GetString()!;
        object Rename(string page, string name) =>
            new
            {
                change = "rename-page",
                page,
                name,
            };

        var trial = (
            await service.ManageAsync("app-file/changes", new { changes = new[] { Rename("thing", "item") }, version })
        ).Body;
        Assert.False(trial.GetProperty("saved").GetBoolean());
        Assert.Equal(4, trial.GetProperty("lines").GetArrayLength());
        Assert.Equal(Things, Text(folder));

        var saved = (
            await service.ManageAsync(
                "app-file/changes",
                new
                {
                    changes = new object[]
                    {
                        Rename("thing", "item"),
                        new
                        {
                            change = "set",
                            place = "/pages/things/title",
                            value = "All of them",
                        },
                    },
                    save = true,
                    version,
                }
            )
        ).Body;
        Assert.True(saved.GetProperty("saved").GetBoolean());
        Assert.Empty(saved.GetProperty("findings").EnumerateArray());
        await service.ServesAsync("/things", "<h1>All of them");

        // The same version again is stale, and one wrong change keeps all from being made.
        var now = Text(folder);
        var stale = await service.ManageAsync(
            "app-file/changes",
            new
            {
                changes = new[] { Rename("item", "piece") },
                save = true,
                version,
            }
        );
        Assert.Equal(409, stale.Status);
        var half = await service.ManageAsync(
            "app-file/changes",
            new { changes = new[] { Rename("item", "piece"), Rename("nine", "ten") }, save = true }
        );
        Assert.Equal(422, half.Status);
        Assert.Contains("There is no page “nine”.", half.Body.GetProperty("detail").GetString());
        Assert.Equal(now, Text(folder));
    }
}
