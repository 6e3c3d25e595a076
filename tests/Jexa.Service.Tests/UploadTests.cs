using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>Files that forms and programs send: taken whole with their record, or not at all.</summary>
public sealed class UploadTests(Browser browser) : IDisposable
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          thing:
            from: s.thing
            label: name
            fields:
              photo: { as: image, under: media, upload: { up_to: 100 kB, name: "thing-{name}", several: true } }
              paper: { as: file, under: media, upload: { kinds: [txt, pdf] } }
        pages:
          things: { path: /things, list: thing, order: [name] }
          thing: { path: "/things/{id}", detail: thing, forms: [edit, new] }
        """;

    private const string Schema = """
        CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, photo TEXT, paper TEXT);
        INSERT INTO thing VALUES (1, 'one', 'bridge.png', NULL), (2, 'two', NULL, NULL);
        """;

    private readonly AppFolder _folder = new();

    private string Media => _folder.File("media");

    private static byte[] Picture(string name) => File.ReadAllBytes(Repository.File($"tests/pictures/{name}"));

    private Task<RunningService> StartAsync(string app = App)
    {
        _folder.MakeDatabase(Schema);
        _folder.Write("app.yaml", app);
        Directory.CreateDirectory(Media);
        File.WriteAllBytes(Path.Combine(Media, "bridge.png"), Picture("bridge.png"));
        return RunningService.StartAsync("serve", _folder.File("app.yaml"));
    }

    public void Dispose() => _folder.Dispose();

    private string? Ask(string sql)
    {
        using var connection = _folder.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar() as string;
    }

    /// <summary>The files in the folder and those that wait.</summary>
    private string[] Files() =>
        [
            .. Directory
                .GetFiles(Media, "*", SearchOption.AllDirectories)
                .Select(file => Path.GetRelativePath(Media, file))
                .Order(StringComparer.Ordinal),
        ];

    private static MultipartFormDataContent Parts(Form form, params (string Field, string Name, byte[] Content)[] files)
    {
        var parts = new MultipartFormDataContent();
        foreach (var (name, value) in form.Fields.Where(field => !field.Key.StartsWith("_jexa.file.", StringComparison.Ordinal)))
            parts.Add(new StringContent(value), $"\"{name}\"");
        foreach (var (field, name, content) in files)
        {
            var part = new ByteArrayContent(content);
            part.Headers.ContentDisposition = new ContentDispositionHeaderValue("form-data")
            {
                Name = $"\"_jexa.file.{field}\"",
                FileName = $"\"{name}\"",
            };
            parts.Add(part);
        }

        return parts;
    }

    private static Task<Reply> PostAsync(
        Visitor visitor,
        Form form,
        params (string Field, string Name, byte[] Content)[] files
    ) => visitor.SendAsync(HttpMethod.Post, form.Action, Parts(form, files));

    [Fact]
    public async Task A_file_goes_in_with_its_record_under_a_name_of_ours_and_the_old_one_stays()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        Assert.Equal("multipart/form-data", form.Document.QuerySelector("form[data-fill]")!.GetAttribute("enctype"));
        var reply = await PostAsync(
            visitor,
            form.With(("name", "Été / 1")),
            ("photo", "..\\..\\evil/../wide.JPG", Picture("wide.jpg")),
            ("paper", "notes.txt", "levels"u8.ToArray())
        );
        Assert.Equal((303, "/things/1"), (reply.Status, reply.Location));
        var (photo, paper) = (Ask("SELECT photo FROM thing WHERE id = 1")!, Ask("SELECT paper FROM thing WHERE id = 1")!);
        Assert.Matches("^thing-Ete-1-[0-9a-f]{16}\\.jpg$", photo);
        Assert.Matches("^thing-[0-9a-f]{16}\\.txt$", paper);
        Assert.Equal(new[] { "bridge.png", photo, paper }.Order(StringComparer.Ordinal), Files());
        Assert.Equal(Picture("wide.jpg"), File.ReadAllBytes(Path.Combine(Media, photo)));
        Assert.Contains($"\"name\":\"{photo}\",\"address\":\"/_jexa/pictures", (await visitor.JsonAsync("/things/1")).Body);

        // A form without a new file leaves it; the box takes it away, and the file stays for the change log.
        form = await visitor.FormAsync("/things/1/edit");
        Assert.Equal(303, (await PostAsync(visitor, form.With(("name", "uno")))).Status);
        Assert.Equal(photo, Ask("SELECT photo FROM thing WHERE id = 1"));
        form = await visitor.FormAsync("/things/1/edit");
        Assert.Equal(303, (await PostAsync(visitor, form.With(("_jexa.drop.photo", "1")))).Status);
        Assert.Null(Ask("SELECT photo FROM thing WHERE id = 1"));
        Assert.Contains(photo, Files());
    }

    [Theory]
    [InlineData(
        "photo",
        "a.jpg",
        "no picture at all",
        "“a.jpg” is not of a kind that is taken here: JPEG, PNG, WebP, GIF, AVIF."
    )]
    [InlineData("photo", "a.gif", "GIF89a<script>alert(1)</script>", "“a.gif” begins like a picture, and is none.")]
    [InlineData("photo", "a.svg", "<svg onload=\"alert(1)\"></svg>", "“a.svg” is not of a kind that is taken here")]
    [InlineData("photo", "a.png", "", "“a.png” is empty.")]
    [InlineData("paper", "run.exe", "MZ binary", "“run.exe” is not of a kind that is taken here: TXT, PDF.")]
    public async Task What_the_field_does_not_take_is_said_at_it_and_nothing_is_left(
        string field,
        string name,
        string content,
        string fault
    )
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        var reply = await PostAsync(visitor, form.With(("name", "typed")), (field, name, Encoding.UTF8.GetBytes(content)));
        Assert.Equal(422, reply.Status);
        Assert.Contains(fault, Assert.Single(reply.Faults));
        Assert.Equal("typed", Visitor.FormOf(reply).Fields["name"]);
        Assert.Equal("bridge.png", Visitor.FormOf(reply).Fields["photo"]);
        Assert.Equal(["bridge.png"], Files());
        Assert.Equal("one", Ask("SELECT name FROM thing WHERE id = 1"));
    }

    [Fact]
    public async Task A_file_that_is_too_large_is_refused_while_it_comes_in()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        var reply = await PostAsync(visitor, form, ("photo", "a.jpg", new byte[3_000_000]));
        Assert.Equal((422, "Photo: “a.jpg” is larger than 100 kB."), (reply.Status, Assert.Single(reply.Faults).Trim()));
        Assert.Equal(["bridge.png"], Files());

        // 2 GB: refused by its length, before it is read.
        var answer = await service.SendAsync(
            $"POST /things/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\nConnection: close\r\n"
                + "Content-Length: 2000000000\r\n"
                + "Content-Type: multipart/form-data; boundary=x\r\n\r\n--x\r\n"
        );
        Assert.Equal(413, answer.Status);
        Assert.Equal(["bridge.png"], Files());
    }

    [Fact]
    public async Task A_form_that_comes_back_still_holds_its_file()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/new");
        var reply = await PostAsync(visitor, form.With(("name", "two")), ("photo", "wide.jpg", Picture("wide.jpg")));
        Assert.Equal(422, reply.Status);
        var held = Assert.Single(Files(), file => file.StartsWith(".jexa-incoming/", StringComparison.Ordinal));
        Assert.Contains("JPEG picture, 18 kB is chosen already", reply.Html.QuerySelector(".held")!.TextContent);

        // No record names it, so nobody sees it.
        Assert.DoesNotContain("jexa-incoming", (await visitor.GetAsync("/things")).Body);
        reply = await PostAsync(visitor, Visitor.FormOf(reply).With(("name", "three")));
        Assert.Equal(303, reply.Status);
        Assert.Equal(Path.GetFileName(held), Ask("SELECT photo FROM thing WHERE name = 'three'"));
        Assert.Equal(["bridge.png", Path.GetFileName(held)], Files());
    }

    [Fact]
    public async Task A_form_that_is_sent_twice_makes_one_record_with_one_file()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = (await visitor.FormAsync("/things/new")).With(("name", "three"));
        var first = await PostAsync(visitor, form, ("photo", "wide.jpg", Picture("wide.jpg")));
        var second = await PostAsync(visitor, form, ("photo", "wide.jpg", Picture("wide.jpg")));
        Assert.Equal((303, 303, first.Location), (first.Status, second.Status, second.Location));
        Assert.Equal(["bridge.png", Ask("SELECT photo FROM thing WHERE name = 'three'")!], Files());
    }

    [Fact]
    public async Task Nothing_is_stored_for_somebody_without_a_form_from_here()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        using var stranger = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        (string, string, byte[]) file = ("photo", "wide.jpg", Picture("wide.jpg"));
        Assert.Equal(403, (await PostAsync(stranger, form, file)).Status);
        Assert.Equal(403, (await PostAsync(visitor, form.With(("_jexa", "made up")), file)).Status);
        var foreign = await visitor.SendAsync(HttpMethod.Post, form.Action, Parts(form, file), ("Origin", "http://evil.example"));
        Assert.Equal(403, foreign.Status);
        Assert.Equal(["bridge.png"], Files());
        Assert.False(Directory.Exists(Path.Combine(Media, ".jexa-incoming")));
    }

    [Fact]
    public async Task A_connection_that_breaks_leaves_nothing_and_a_killed_process_what_the_next_one_settles()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        var body = await Parts(form, ("photo", "wide.jpg", new byte[90_000])).ReadAsByteArrayAsync();
        var cookies = visitor.Cookies.GetCookieHeader(new Uri(service.PagesUrl));
        var type = Encoding.ASCII.GetString(body[2..body.AsSpan().IndexOf("\r\n"u8)]);
        var incoming = Path.Combine(Media, ".jexa-incoming");
        using (await BeginAsync())
            await UntilAsync(() => Directory.Exists(incoming) && Directory.GetFiles(incoming).Length == 1);
        await UntilAsync(() => Directory.GetFiles(incoming).Length == 0);

        using (await BeginAsync())
        {
            await UntilAsync(() => Directory.GetFiles(incoming).Length == 1);
            await service.EndAsync("KILL");
        }

        // What a process leaves behind: half a file, one that its record names already, one that nobody names.
        var half = Assert.Single(Directory.GetFiles(incoming));
        File.SetLastWriteTimeUtc(half, DateTime.UtcNow.AddHours(-2));
        File.WriteAllBytes(Path.Combine(incoming, "named.jpg"), Picture("wide.jpg"));
        File.WriteAllBytes(Path.Combine(incoming, "old.jpg"), Picture("wide.jpg"));
        File.SetLastWriteTimeUtc(Path.Combine(incoming, "old.jpg"), DateTime.UtcNow.AddHours(-25));
        File.WriteAllBytes(Path.Combine(incoming, "young.jpg"), Picture("wide.jpg"));
        _folder.MakeDatabase("UPDATE thing SET photo = 'named.jpg' WHERE id = 2");
        await service.RestartAsync();
        Assert.Equal(200, (await service.GetAsync("/_jexa/pictures/thing/photo/2")).Status);
        await UntilAsync(() => Files().SequenceEqual([".jexa-incoming/young.jpg", "bridge.png", "named.jpg"]));
        Assert.Equal("bridge.png", Ask("SELECT photo FROM thing WHERE id = 1"));

        async Task<TcpClient> BeginAsync()
        {
            var client = new TcpClient { NoDelay = true };
            await client.ConnectAsync("127.0.0.1", service.Port, TestContext.Current.CancellationToken);
            var head =
                $"POST /things/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\nCookie: {cookies}\r\n"
                + $"Content-Type: multipart/form-data; boundary=\"{type}\"\r\nContent-Length: {body.Length}\r\n\r\n";
            await client.GetStream().WriteAsync(Encoding.ASCII.GetBytes(head), TestContext.Current.CancellationToken);
            await client.GetStream().WriteAsync(body.AsMemory(0, body.Length - 20_000), TestContext.Current.CancellationToken);
            return client;
        }
    }

    private static async Task UntilAsync(Func<bool> holds)
    {
        for (var tries = 0; tries < 200 && !holds(); tries++)
            await Task.Delay(50);
        Assert.True(holds());
    }

    [Fact]
    public async Task A_full_disk_is_said_and_the_rest_of_the_form_is_kept()
    {
        using var disk = SmallDisk.TryMake(_folder.File("media"));
        Assert.SkipWhen(disk is null, "No file system of its own can be mounted here.");
        using var service = await StartAsync();
        disk!.Fill();
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/2/edit");
        var reply = await PostAsync(visitor, form.With(("name", "typed")), ("photo", "wide.jpg", Picture("wide.jpg")));
        Assert.Equal(422, reply.Status);
        Assert.Contains("could not be stored just now", Assert.Single(reply.Faults));
        Assert.Equal("typed", Visitor.FormOf(reply).Fields["name"]);
        disk.Empty();
        reply = await PostAsync(visitor, Visitor.FormOf(reply), ("photo", "wide.jpg", Picture("wide.jpg")));
        Assert.Equal(303, reply.Status);
        Assert.Equal(2, Files().Length);
    }

    [Fact]
    public async Task A_program_sends_a_file_within_JSON()
    {
        using var service = await StartAsync();
        using var visitor = new Visitor(service.PagesUrl);
        var content = Convert.ToBase64String(Picture("wide.jpg"));
        var made = await visitor.AddAsync(
            "/things/new",
            $$"""{ "fields": { "name": "three", "photo": { "name": "wide.jpg", "content": "{{content}}" } } }"""
        );
        Assert.Equal(201, made.Status);
        Assert.Equal(["bridge.png", Ask("SELECT photo FROM thing WHERE name = 'three'")!], Files());

        var version = (await visitor.JsonAsync("/things/1/edit")).Tag;
        var changed = await visitor.PatchAsync(
            "/things/1/edit",
            $$"""{ "fields": { "photo": { "name": "a.png", "content": "{{Convert.ToBase64String("text"u8)}}" } } }""",
            version
        );
        Assert.Equal(422, changed.Status);
        Assert.StartsWith("#/fields/photo “a.png” is not of a kind", Assert.Single(changed.Faults));
        changed = await visitor.PatchAsync("/things/1/edit", """{ "fields": { "photo": { "name": "a.png" } } }""", version);
        Assert.StartsWith("#/fields/photo This must be a name, or a file", Assert.Single(changed.Faults));
        changed = await visitor.PatchAsync("/things/1/edit", """{ "fields": { "photo": null } }""", version);
        Assert.Equal(200, changed.Status);
        Assert.Equal(2, Files().Length);
    }

    [Fact]
    public async Task A_field_that_takes_no_file_asks_for_its_name()
    {
        using var service = await StartAsync(App.Replace("upload: { kinds: [txt, pdf] }", "upload: none"));
        using var visitor = new Visitor(service.PagesUrl);
        var form = await visitor.FormAsync("/things/1/edit");
        Assert.Equal("text", form.Document.QuerySelector("[name=paper]")!.GetAttribute("type"));
        var reply = await PostAsync(visitor, form.With(("paper", "a.txt")), ("paper", "b.txt", "b"u8.ToArray()));
        Assert.Equal(303, reply.Status);
        Assert.Equal("a.txt", Ask("SELECT paper FROM thing WHERE id = 1"));
    }

    [Fact]
    public async Task A_form_of_the_apps_own_design_takes_a_file_as_well()
    {
        _folder.Write(
            "edit.html",
            """
            <main><h1 data-page="title">Edit</h1><form><input name="name"><input type="file" name="photo" class="mine">
            <input name="paper"><button>Save</button></form></main>
            """
        );
        using var service = await StartAsync(
            App.Replace("forms: [edit, new] }", "forms: [new] }")
                + "\n  thing-edit: { path: \"/things/{id}/edit\", edit: thing, body: edit.html }\n"
        );
        using var visitor = new Visitor(service.PagesUrl);
        var document = (await visitor.GetAsync("/things/1/edit")).Html;
        var form = document.QuerySelector("form")!;
        Assert.Equal("multipart/form-data", form.GetAttribute("enctype"));
        Assert.Equal("mine", document.QuerySelector("[name='_jexa.file.photo'][type=file]")!.ClassName);
        Assert.Contains("upload.js", document.Source.Text);
        var fields = form.QuerySelectorAll("input[type=hidden], input[type=text]")
            .ToDictionary(one => one.GetAttribute("name")!, one => one.GetAttribute("value") ?? "");
        var sent = new Form(form.GetAttribute("action")!, fields, document);
        Assert.Equal(303, (await PostAsync(visitor, sent, ("photo", "wide.jpg", Picture("wide.jpg")))).Status);
        Assert.Matches("^thing-one-[0-9a-f]{16}\\.jpg$", Ask("SELECT photo FROM thing WHERE id = 1"));
    }

    [Fact]
    public async Task A_browser_shows_what_was_chosen_and_makes_a_record_of_each_of_several_files()
    {
        using var service = await StartAsync();
        await using var context = await browser.Chromium.NewContextAsync();
        var page = await context.NewPageAsync();
        var errors = new List<string>();
        page.Console += (_, message) => errors.Add(message.Text);
        await page.GotoAsync(service.PagesUrl + "things/1/edit");
        var file = page.GetByLabel("Photo", new PageGetByLabelOptions { Exact = false }).First;
        await file.SetInputFilesAsync(Repository.File("tests/pictures/wide.jpg"));
        await page.WaitForFunctionAsync("document.querySelector('.chosen img')?.naturalWidth === 1000");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save", Exact = true }).ClickAsync();
        await page.WaitForURLAsync("**/things/1");
        Assert.Contains("Saved", await page.Locator(".said").TextContentAsync());
        Assert.Equal("1000", await page.Locator("img.picture").GetAttributeAsync("width"));

        // Names must differ here: the second record is refused, and what is left can be sent again.
        await page.GotoAsync(service.PagesUrl + "things/new");
        await page.GetByLabel("Name").FillAsync("three");
        await page.Locator("[name='_jexa.file.photo']")
            .SetInputFilesAsync([Repository.File("tests/pictures/wide.jpg"), Repository.File("tests/pictures/bridge.png")]);
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add thing", Exact = true }).ClickAsync();
        await page.GetByText("1 of 2 were added. bridge.png:").WaitForAsync();
        await page.GetByLabel("Name").FillAsync("four");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add thing", Exact = true }).ClickAsync();
        await page.WaitForURLAsync("**/things/4");
        Assert.Matches("^thing-three-.*jpg$", Ask("SELECT photo FROM thing WHERE id = 3"));
        Assert.Matches("^thing-four-.*png$", Ask("SELECT photo FROM thing WHERE id = 4"));

        // One that is too large is not even sent.
        await page.GotoAsync(service.PagesUrl + "things/2/edit");
        File.WriteAllBytes(_folder.File("large.jpg"), new byte[200_000]);
        await page.Locator("[name='_jexa.file.photo']").SetInputFilesAsync(_folder.File("large.jpg"));
        Assert.Equal(
            "“large.jpg” is larger than 100 kB.",
            await page.Locator("[name='_jexa.file.photo']").EvaluateAsync<string>("input => input.validationMessage")
        );
        Assert.DoesNotContain(errors, error => error.Contains("Content Security Policy"));
    }
}
