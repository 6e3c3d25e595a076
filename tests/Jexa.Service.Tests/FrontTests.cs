using System.Text.Json;
using Jexa.Demo;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>A copy of the demo that can be changed, and its front end on an origin of its own.</summary>
public sealed class FrontDemo : IAsyncLifetime
{
    private readonly DemoCopy _demo = new();
    private readonly int _port = PrivateServer.FreePort();
    private readonly GaugeService _gauges = GaugeService.Start(0)!;

    public RunningService Service => _demo.Service;

    public FrontService Front { get; private set; } = null!;

    public string AppFile => _demo.Folder.File("bridges.yaml");

    public async ValueTask InitializeAsync()
    {
        await _demo.InitializeAsync();
        var app = await File.ReadAllTextAsync(_demo.Folder.File("bridges.yaml"));
        Assert.Contains("http://127.0.0.1:7448", app);
        Assert.Contains("http://127.0.0.1:7449", app);
        _demo.Folder.Write(
            "bridges.yaml",
            app.Replace("127.0.0.1:7448", $"127.0.0.1:{_port}").Replace("http://127.0.0.1:7449", _gauges.Url)
        );
        Front = FrontService.Start(Repository.File("demo"), _port)
            ?? throw new InvalidOperationException("The front end was not built.");
        Front.Register = Service.PagesUrl.TrimEnd('/');
        for (var until = DateTime.UtcNow.AddSeconds(20); DateTime.UtcNow < until; await Task.Delay(100))
            if ((await Service.GetAsync("/sketches/7")).Header("Location") == $"{Front.Url}/sketches/7")
                return;
        Assert.Fail("The app file was not taken up.");
    }

    public async ValueTask DisposeAsync()
    {
        Front.Dispose();
        _gauges.Dispose();
        await _demo.DisposeAsync();
    }
}

/// <summary>Front ends of one's own: drawn elsewhere, over the pages' JSON, by what jexa client has written.</summary>
public sealed class FrontTests(FrontDemo demo, Browser browser) : IClassFixture<FrontDemo>
{
    private string Front => demo.Front.Url;

    [Fact]
    public async Task The_demo_s_front_end_lists_shows_and_changes_bridges_from_another_origin()
    {
        var page = await browser.OpenAsync();
        var trouble = new List<string>();
        page.PageError += (_, error) => trouble.Add(error);
        await page.GotoAsync(Front + "/");
        await Expect(page.Locator("h1")).ToHaveTextAsync("Sketches");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Next page" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Previous page" })).ToBeVisibleAsync();
        var first = page.Locator("ul.rows a").First;
        var name = await first.InnerTextAsync();
        await first.ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(name);

        // Refreshed, from the address alone; and back through the history.
        await page.ReloadAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(name);
        await page.GoBackAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Sketches");

        await page.GotoAsync(Front + "/sketches/7");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Edit" }).ClickAsync();
        await Expect(page.Locator("h1")).ToContainTextAsync("Edit ");
        await Expect(page.GetByLabel("District").Locator("option").Nth(3)).ToBeAttachedAsync();
        var was = await page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true }).InputValueAsync();
        await page.GetByLabel("Lanes").FillAsync("77");
        await page.GetByLabel("Code").FillAsync("nonsense");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator("[role=alert]")).ToContainTextAsync("2 things are wrong");
        await Expect(page.Locator("#fault-lanes")).ToHaveTextAsync("This must be 12 or less.");
        await Expect(page.Locator("#fault-code")).ToContainTextAsync("AV-0007");
        await page.GetByLabel("Lanes").FillAsync("3");
        await page.GetByLabel("Code").FillAsync("AV-0007");
        await page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true }).FillAsync(was + " II");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(was + " II");
        await Expect(page.Locator("[role=status]")).ToHaveTextAsync("Saved.");

        // Somebody else is quicker.
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Edit" }).ClickAsync();
        await Expect(page.Locator("h1")).ToContainTextAsync("Edit ");
        using var other = new Visitor(demo.Service.PagesUrl);
        Assert.Equal(200, (await other.PatchAsync("/bridges/7/edit", """{ "fields": { "river": "Elsewhere" } }""", "*")).Status);
        await page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true }).FillAsync("Lost");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.GetByLabel("River")).ToHaveValueAsync("Elsewhere");
        await Expect(page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true })).ToHaveValueAsync(was + " II");
        Assert.Empty(trouble);
    }

    [Theory]
    [InlineData("/sketches/99999", "There is no such bridge")]
    [InlineData("/sketches/13", "There is no such bridge")]
    [InlineData("/sketches/seven", "Not an address")]
    [InlineData("/nowhere", "Something is wrong")]
    public async Task The_demo_s_front_end_has_an_answer_for_every_ID(string path, string heading)
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Front + path);
        await Expect(page.Locator("h1")).ToHaveTextAsync(heading);
    }

    [Fact]
    public async Task The_demo_s_front_end_is_fit_for_all()
    {
        foreach (var path in new[] { "/sketches", "/sketches/8", "/bridges/8/edit" })
        {
            var page = await browser.OpenAsync();
            await page.GotoAsync(Front + path);
            await Expect(page.Locator("h1")).ToBeVisibleAsync();
            await Expect(page.Locator("h1")).Not.ToHaveTextAsync("Loading …");
            await Browser.AssertFitAsync(page);
            await page.Context.CloseAsync();
        }
    }

    [Theory]
    [InlineData("dom")]
    [InlineData("react")]
    [InlineData("vue")]
    public async Task A_watcher_keeps_a_screen_in_step_in_each_style_of_front_end(string style)
    {
        var page = await browser.OpenAsync();
        var trouble = new List<string>();
        page.PageError += (_, error) => trouble.Add(error);
        await page.GotoAsync($"{Front}/styles/{style}.html#/bridges/8");
        using var eight = JsonDocument.Parse((await demo.Service.GetJsonAsync("/bridges/8")).Body);
        await Expect(page.Locator("main"))
            .ToHaveTextAsync(eight.RootElement.GetProperty("fields").GetProperty("name").GetString()!);
        foreach (
            var (address, shown) in new[]
            {
                ("/bridges/99999", "unknown"),
                ("/bridges/x", "malformed"),
                ("/districts/moor", "no-page"),
            }
        )
        {
            await page.EvaluateAsync("address => { location.hash = address; }", address);
            await Expect(page.Locator("main")).ToHaveTextAsync(shown);
        }

        // Many changes at once: the last one stays.
        using var nine = JsonDocument.Parse((await demo.Service.GetJsonAsync("/bridges/9")).Body);
        await page.EvaluateAsync("() => { for (const id of [7, 8, 10, 11, 12, 9]) location.hash = `/bridges/${id}`; }");
        await Expect(page.Locator("main"))
            .ToHaveTextAsync(nine.RootElement.GetProperty("fields").GetProperty("name").GetString()!);
        await Task.Delay(300);
        await Expect(page.Locator("main"))
            .ToHaveTextAsync(nine.RootElement.GetProperty("fields").GetProperty("name").GetString()!);
        Assert.Empty(trouble);
    }

    [Fact]
    public async Task Pages_drawn_elsewhere_lead_there_in_lists_menus_and_links_and_their_JSON_is_here()
    {
        var list = (await demo.Service.GetAsync("/bridges")).Body;
        Assert.Contains($"<a href=\"{Front}/sketches\">Sketches</a>", list);
        Assert.Contains($"href=\"{Front}/sketches/8", (await demo.Service.GetAsync("/bridges/8")).Body);
        var led = await demo.Service.GetAsync("/sketches/8?from=bridges");
        Assert.Equal((302, $"{Front}/sketches/8?from=bridges"), (led.Status, led.Header("Location")));
        using var json = JsonDocument.Parse((await demo.Service.GetJsonAsync("/sketches/8")).Body);
        Assert.Equal(
            ("found", $"{Front}/sketches/8"),
            (json.RootElement.GetProperty("outcome").GetString(), json.RootElement.GetProperty("address").GetString())
        );
        Assert.Equal(404, (await demo.Service.GetJsonAsync("/sketches/99999")).Status);
        Assert.Contains("elsewhere", (await demo.Service.AskAsync("trace", "/sketches/8")).Out);
    }

    [Theory]
    [InlineData("writer", "PATCH", "application/merge-patch+json", 200)]
    [InlineData("https://elsewhere.example", "PATCH", "application/merge-patch+json", 403)]
    [InlineData("writer", "POST", "application/x-www-form-urlencoded", 403)]
    [InlineData("null", "PATCH", "application/json", 403)]
    public async Task Only_scripts_of_origins_that_may_write_do_and_only_by_JSON(
        string origin,
        string method,
        string type,
        int status
    )
    {
        if (origin == "writer")
            origin = Front;
        using var visitor = new Visitor(demo.Service.PagesUrl);
        var reply = await visitor.SendAsync(
            new HttpMethod(method),
            "/bridges/10/edit",
            new StringContent(
                type.Contains("json") ? """{ "fields": { "lanes": 2 } }""" : "lanes=3",
                System.Text.Encoding.UTF8,
                type
            ),
            ("Origin", origin),
            ("Sec-Fetch-Site", "cross-site"),
            ("If-Match", "*"),
            ("Accept", "application/json")
        );
        Assert.Equal(status, reply.Status);

        var asked = await visitor.SendAsync(
            HttpMethod.Options,
            "/bridges/10/edit",
            null,
            ("Origin", origin),
            ("Access-Control-Request-Method", method)
        );
        var allowed = asked.Headers.TryGetValues("Access-Control-Allow-Methods", out var methods)
            ? string.Join(", ", methods)
            : "";
        Assert.Equal(origin == Front, allowed.Contains("PATCH"));
        Assert.False(asked.Headers.Contains("Access-Control-Allow-Credentials"));

        // Whoever keeps the document keeps it for the origin that it may be read by.
        var document = await visitor.GetAsync("/_jexa/app/openapi.json", ("Origin", origin));
        Assert.Equal(
            origin == Front ? origin : null,
            document.Headers.TryGetValues("Access-Control-Allow-Origin", out var may) ? may.Single() : null
        );
        Assert.Contains("Origin", document.Headers.Vary);
    }

    [Fact]
    public async Task An_origin_that_may_read_only_is_told_so_before_it_writes()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync(
            "serve",
            folder.Write(
                "app.yaml",
                AppFolder.App.Replace(
                    "app: Things",
                    "app: Things\norigins: [https://reader.example]\nwriters: [https://writer.example]"
                ) + "\n  thing-edit: { path: \"/things/{id}/edit\", edit: thing }\n"
            )
        );
        using var visitor = new Visitor(service.PagesUrl);
        foreach (
            var (origin, methods, status) in new[]
            {
                ("https://reader.example", "GET, HEAD", 403),
                ("https://writer.example", "GET, HEAD, POST, PATCH, DELETE", 200),
            }
        )
        {
            var asked = await visitor.SendAsync(
                HttpMethod.Options,
                "/things/1/edit",
                null,
                ("Origin", origin),
                ("Access-Control-Request-Method", "PATCH")
            );
            Assert.Equal(methods, string.Join(", ", asked.Headers.GetValues("Access-Control-Allow-Methods")));
            Assert.Equal(
                status,
                (
                    await visitor.SendAsync(
                        HttpMethod.Patch,
                        "/things/1/edit",
                        new StringContent("""{"fields":{"name":"x"}}""", System.Text.Encoding.UTF8, "application/json"),
                        ("Origin", origin),
                        ("Sec-Fetch-Site", "cross-site"),
                        ("If-Match", "*")
                    )
                ).Status
            );
        }

        var stranger = await visitor.SendAsync(
            HttpMethod.Options,
            "/things/1/edit",
            null,
            ("Origin", "https://other.example"),
            ("Access-Control-Request-Method", "PATCH")
        );
        Assert.False(stranger.Headers.Contains("Access-Control-Allow-Origin"));
        Assert.False(stranger.Headers.Contains("Access-Control-Allow-Methods"));
    }

    [Fact]
    public async Task What_can_be_chosen_is_told_by_label_and_nothing_hidden_is()
    {
        async Task<string> AskAsync(string path) => (await demo.Service.GetJsonAsync("/_jexa/app/choices/" + path)).Body;
        Assert.Contains("""{"value":"n/w-moor","label":"North-West Moor"}""", await AskAsync("bridge-edit/district?find=north"));
        Assert.Contains("""{"value":"open","label":"In use"}""", await AskAsync("bridge-edit/status"));
        var many = await AskAsync("inspection-edit/bridge_id?find=bridge");
        Assert.Contains("\"more\":true", many);
        var hidden = (await demo.Service.GetJsonAsync("/lookup?code=AV-0013")).Status;
        Assert.Equal(404, hidden);
        Assert.DoesNotContain("\"value\":\"13\"", await AskAsync("inspection-edit/bridge_id?find=13"));
        foreach (var none in new[] { "bridge-edit/name", "bridge-edit/nothing", "nothing/at", "bridges/kind" })
            Assert.Equal(404, (await demo.Service.GetAsync("/_jexa/app/choices/" + none)).Status);
        Assert.Equal(405, (await demo.Service.GetAsync("/_jexa/app/choices/bridge-edit/district", method: "POST")).Status);
    }

    [Theory]
    [InlineData("", "", "html")]
    [InlineData("*/*", "", "html")]
    [InlineData("*/*", "cors", "json")]
    [InlineData("", "cors", "json")]
    [InlineData("*/*", "navigate", "html")]
    [InlineData("application/*", "", "json")]
    [InlineData("application/*;q=0.5, text/html;q=0.6", "", "html")]
    [InlineData("text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8", "cors", "html")]
    [InlineData("application/json", "", "json")]
    [InlineData("application/json, */*;q=0.1", "", "json")]
    [InlineData("application/xml", "", "406")]
    [InlineData("image/png", "cors", "406")]
    [InlineData("application/json;q=0", "", "406")]
    [InlineData("nonsense", "", "html")]
    public async Task A_page_has_the_form_that_is_asked_for(string accept, string mode, string form)
    {
        var answer = await demo.Service.GetAsync(
            "/bridges/7",
            $"{(accept.Length > 0 ? $"Accept: {accept}\r\n" : "")}{(mode.Length > 0 ? $"Sec-Fetch-Mode: {mode}\r\n" : "")}"
        );
        Assert.Equal(
            form switch
            {
                "html" => (200, "text/html; charset=utf-8"),
                "json" => (200, "application/json"),
                _ => (406, "application/problem+json"),
            },
            (answer.Status, answer.Header("Content-Type"))
        );
    }

    [Theory]
    [InlineData("/_jexa/json/bridges/7", 200, null)]
    [InlineData("/_jexa/json/bridges/007", 301, "/_jexa/json/bridges/7")]
    [InlineData("/_jexa/json/bridges?size=20", 200, null)]
    [InlineData("/_jexa/json/districts/n%2Fw-moor", 200, null)]
    [InlineData("/_jexa/json", 302, "/_jexa/json/bridges")]
    [InlineData("/_jexa/json/bridges/99999", 404, null)]
    [InlineData("/_jexa/json/nothing", 404, null)]
    [InlineData("/_jexa/jsonx/bridges", 404, null)]
    public async Task An_address_of_its_own_asks_for_JSON_without_a_header(string target, int status, string? location)
    {
        var answer = await demo.Service.GetAsync(target);
        Assert.Equal((status, location), (answer.Status, answer.Header("Location")));
        if (status == 200)
            Assert.Equal(Exact(answer.Body), Exact((await demo.Service.GetJsonAsync(target["/_jexa/json".Length..])).Body));

        // A count that took long is kept for a minute, and says so.
        static string Exact(string body) => body.Replace("\"exact\":false", "\"exact\":true");
    }

    [Fact]
    public async Task A_plain_OPTIONS_tells_what_a_page_takes()
    {
        foreach (
            var (target, allow) in new[]
            {
                ("/bridges/7", "GET, HEAD, OPTIONS"),
                ("/bridges/7/edit", "GET, HEAD, POST, PATCH, OPTIONS"),
                ("/bridges/new", "GET, HEAD, POST, OPTIONS"),
            }
        )
        {
            var answer = await demo.Service.GetAsync(target, method: "OPTIONS");
            Assert.Equal((204, allow), (answer.Status, answer.Header("Allow")));
        }
    }

    [Fact]
    public async Task Everything_that_HTML_links_to_JSON_does_too()
    {
        foreach (
            var path in new[]
            {
                "/bridges",
                "/bridges?kind=arch",
                "/bridges/8",
                "/gallery",
                "/districts",
                "/districts/n%2Fw-moor",
                "/inspections?year=2020",
                "/inspectors",
                "/defects",
                "/tallies",
                "/bridges/8/spans",
                "/bridges/8/edit",
                "/bridges/new",
            }
        )
        {
            var html = (await demo.Service.GetAsync(path)).Body;
            var document = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(html);
            var told = new HashSet<string>();
            using var json = JsonDocument.Parse((await demo.Service.GetJsonAsync(path)).Body);
            Gather(json.RootElement, told);
            foreach (
                var href in document
                    .QuerySelectorAll("main a[href]")
                    .Select(link => link.GetAttribute("href")!)
                    .Where(href => href.StartsWith('/') && !href.Contains("order="))
            )
                Assert.True(told.Contains(Plain(href)), $"{path} as JSON does not tell of {href}.");
        }

        static string Plain(string address) => System.Text.RegularExpressions.Regex.Replace(address, "[?&]from=.*$", "");

        static void Gather(JsonElement element, HashSet<string> told)
        {
            if (element.ValueKind == JsonValueKind.String)
                told.Add(Plain(element.GetString()!));
            else if (element.ValueKind == JsonValueKind.Array)
                foreach (var item in element.EnumerateArray())
                    Gather(item, told);
            else if (element.ValueKind == JsonValueKind.Object)
                foreach (var member in element.EnumerateObject())
                    Gather(member.Value, told);
        }
    }

    [Fact]
    public async Task What_the_demo_ships_is_what_would_be_written_and_a_build_fails_where_it_is_not()
    {
        foreach (var (language, file) in new[] { ("typescript", "bridges.ts"), ("csharp", "Bridges.cs") })
        {
            string[] more = language == "csharp" ? ["--namespace", "Valley"] : [];
            var current = await RunningService.RunAsync([
                "client",
                language,
                Repository.File("demo/bridges.yaml"),
                "--check",
                Repository.File("demo/clients/" + file),
                .. more,
            ]);
            Assert.True(current.ExitCode == 0, $"Write demo/clients/{file} again: {current.Error}");
            using var folder = new AppFolder();
            var old = folder.Write(
                file,
                (await File.ReadAllTextAsync(Repository.File("demo/clients/" + file))).Replace("/bridges/new", "/bridges/fresh")
            );
            var behind = await RunningService.RunAsync([
                "client",
                language,
                Repository.File("demo/bridges.yaml"),
                "--check",
                old,
                "--json",
                .. more,
            ]);
            Assert.Equal(1, behind.ExitCode);
            Assert.Contains("\"current\":false", behind.Out.Replace(" ", ""));
        }
    }

    [Theory]
    [InlineData(2, "client", "cobol", "x.yaml")]
    [InlineData(2, "client", "typescript", "none.yaml")]
    [InlineData(2, "client", "typescript", "APP", "--namespace", "X")]
    [InlineData(2, "client", "csharp", "APP", "--namespace", "not a name")]
    [InlineData(2, "client", "csharp", "APP", "--out", "a", "--check", "b")]
    [InlineData(2, "client", "typescript", "APP", "--check", "none.ts")]
    [InlineData(2, "client", "typescript", "APP", "--below", "../up")]
    [InlineData(2, "client", "typescript", "APP", "--out", "/nowhere/at/all.ts")]
    public async Task A_client_that_cannot_be_written_is_a_sentence(int exitCode, params string[] command)
    {
        var ran = await RunningService.RunAsync([
            .. command.Select(word => word == "APP" ? Repository.File("demo/bridges.yaml") : word),
        ]);
        Assert.Equal(exitCode, ran.ExitCode);
        Assert.StartsWith("jexa: ", ran.Error);
        Assert.DoesNotContain(" at Jexa.", ran.Error);
    }

    [Fact]
    public async Task The_demo_s_program_lists_shows_and_renames_by_the_CSharp_file()
    {
        var url = demo.Service.PagesUrl.TrimEnd('/');
        Task<Ran> Read(params string[] arguments) =>
            RunAsync("dotnet", [Repository.File("demo/reader/bin/Release/net10.0/register-reader.dll"), url, .. arguments]);
        var listed = await Read("list", "otter");
        Assert.Equal(0, listed.ExitCode);
        Assert.EndsWith("in all\n", listed.Out);
        Assert.Contains("(AV-0011)", (await Read("show", "/bridges/11")).Out);
        Assert.Equal("North-West Moor\n", (await Read("show", "/districts/n%2Fw-moor")).Out);
        Assert.Equal(
            (0, "It is called Reed Span now.\n"),
            await Read("rename", "11", "Reed Span") is var renamed ? (renamed.ExitCode, renamed.Out) : default
        );
        Assert.Equal(
            (1, "name: Please fill this in.\n"),
            await Read("rename", "11", " ") is var empty ? (empty.ExitCode, empty.Error) : default
        );
        Assert.Equal(1, (await Read("show", "/bridges/99999")).ExitCode);
        Assert.Contains("No address", (await Read("show", "/bridges/x")).Error);
        Assert.Equal(
            3,
            (
                await RunAsync(
                    "dotnet",
                    Repository.File("demo/reader/bin/Release/net10.0/register-reader.dll"),
                    "http://127.0.0.1:9",
                    "list"
                )
            ).ExitCode
        );
    }

    private static async Task<Ran> RunAsync(string program, params string[] arguments)
    {
        using var process = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo(program, arguments)
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return new Ran(process.ExitCode, output, await error);
    }
}
