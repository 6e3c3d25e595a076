using System.Text.RegularExpressions;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>The console as a developer uses it, in a real browser.</summary>
public class ConsoleTests(DemoService demo, Browser browser)
{
    private RunningService Service => demo.Service;

    [Fact]
    public async Task The_start_URL_signs_one_tab_in_and_works_once()
    {
        using var service = await RunningService.StartAsync("demo");
        var page = await browser.OpenAsync();
        await page.GotoAsync($"{service.ConsoleUrl}#code={service.StartCode}");
        await Expect(page.Locator("h1")).ToHaveTextAsync("Pages and their links");
        Assert.Equal(service.ConsoleUrl, page.Url);
        await page.ReloadAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Pages and their links");

        var other = await browser.OpenAsync();
        await other.GotoAsync($"{service.ConsoleUrl}#code={service.StartCode}");
        await Expect(other.Locator("h1")).ToHaveTextAsync("This tab is not signed in");
        Assert.DoesNotContain("code=", other.Url);
        Assert.Empty(await Browser.FaultsAsync(other));

        var asked = await service.AskAsync("console");
        Assert.Equal(0, asked.ExitCode);
        await other.GotoAsync(asked.Out.Trim());
        await other.ReloadAsync();
        await Expect(other.Locator("h1")).ToHaveTextAsync("Pages and their links");
    }

    [Fact]
    public async Task The_pages_are_one_table_with_who_links_where_and_an_address_that_works()
    {
        using var service = await RunningService.StartAsync("demo");
        var page = await OpenAsync("/pages", service);
        var rows = page.Locator("main table > tbody > tr");
        await Expect(rows).ToHaveCountAsync(50);
        var bridge = rows.Filter(
            new LocatorFilterOptions
            {
                Has = page.Locator("strong", new PageLocatorOptions { HasTextRegex = new Regex("^bridge$") }),
            }
        );
        await Expect(bridge.Locator("strong")).ToHaveTextAsync("bridge");
        await Expect(bridge).ToContainTextAsync("detail of bridge");
        await Expect(bridge).ToContainTextAsync("id is bridge_id (integer)");
        await Expect(bridge).ToContainTextAsync("bridges, on name: id ← bridge_id");
        await Expect(bridge).ToContainTextAsync("inspections, on bridge_id, by foreign key: id ← bridge_id");
        await Expect(page.Locator("tr", new PageLocatorOptions { HasText = "/bridges/{bridge}/spans/{number}" }))
            .ToContainTextAsync("bridge ← bridge_id, number ← span_no");

        // Every sample leads to a record, or the table says why there is none. They come by a request of their own.
        await Expect(page.Locator("td:last-child a")).ToHaveCountAsync(50);
        var samples = await page.Locator("td:last-child a").AllTextContentsAsync();
        foreach (var sample in samples.Where(sample => !sample.StartsWith("/trials", StringComparison.Ordinal)))
            Assert.Equal(200, (await service.GetJsonAsync(sample)).Status);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "/districts/50%25-common", Exact = true })
            .ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("found");

        await page.GoBackAsync();
        await page.GetByLabel("Find a page").FillAsync("span");
        await Expect(rows).ToHaveCountAsync(3);
        await page.ReloadAsync();
        await Expect(rows).ToHaveCountAsync(3);
        await page.GetByLabel("Find a page").FillAsync("zzz");
        await Expect(page.GetByText("No page is like that")).ToBeVisibleAsync();
    }

    [Theory]
    [InlineData("/bridges/7", "found", "Status 200")]
    [InlineData("/bridges/007", "not-canonical", "Status 301, to /bridges/7")]
    [InlineData("/bridges/x", "malformed", "Status 400")]
    [InlineData("/bridges/a%2Fb", "malformed", "Status 400")]
    [InlineData("/bridges/../bridges/7", "malformed", "Status 400")]
    [InlineData("/bridges/13", "hidden", "Status 404")]
    [InlineData("/lookup?code=", "missing", "Status 302")]
    [InlineData("/districts/%3Cscript%3Ealert(1)%3C%2Fscript%3E", "unknown", "Status 404")]
    public async Task A_pasted_address_is_traced_beside_the_page(string address, string outcome, string answer)
    {
        var page = await OpenAsync("/try");
        await Address(page).FillAsync(address);
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Try it" }).ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync(outcome);
        await Expect(page.Locator("[data-step=answer]")).ToContainTextAsync(answer);
        await Expect(page.Locator(".steps > li")).ToHaveCountAsync(5);
        Assert.NotEmpty((await page.FrameLocator("iframe").Locator("h1").TextContentAsync())!);
        await page.ReloadAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync(outcome);
        await Expect(Address(page)).ToHaveValueAsync(address);
    }

    [Fact]
    public async Task An_address_is_built_from_page_and_ID_or_refused_with_the_reason()
    {
        var page = await OpenAsync("/try");
        await page.GetByLabel("Page", new PageGetByLabelOptions { Exact = true }).SelectOptionAsync("span");
        await page.GetByLabel("bridge", new PageGetByLabelOptions { Exact = true }).FillAsync("7");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Build and try" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("is no number");
        await page.GetByLabel("number", new PageGetByLabelOptions { Exact = true }).FillAsync("1");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Build and try" }).ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("found");
        Assert.EndsWith("/try?address=%2Fbridges%2F7%2Fspans%2F1", page.Url);

        await Address(page).FillAsync("bridges/7");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Try it" }).ClickAsync();
        await Expect(page.GetByText("An address begins with a slash")).ToBeVisibleAsync();
        await Address(page).FillAsync($"{Service.PagesUrl}bridges/7#top");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Try it" }).ClickAsync();
        await Expect(page.Locator("[data-step=parse]")).ToContainTextAsync("integer 7");
    }

    [Fact]
    public async Task The_trace_follows_the_visitor_in_the_frame()
    {
        using var service = await RunningService.StartAsync("demo");
        var page = await OpenAsync("/try?address=/bridges/7", service);
        var frame = page.FrameLocator("iframe");
        var district = frame.Locator("dl a").First;
        var name = await district.TextContentAsync();
        await district.ClickAsync();
        await Expect(frame.Locator("h1")).ToHaveTextAsync(name!);
        await Expect(page.Locator(".pane-head").First).ToContainTextAsync("/districts/");
        await Expect(page.Locator("[data-step=match] strong")).ToHaveTextAsync("district");
        await Expect(Address(page)).ToHaveValueAsync(new Regex("^/districts/"));
        await frame.GetByRole(AriaRole.Link, new FrameLocatorGetByRoleOptions { Name = "Inspectors" }).ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("listed");
        await page.ReloadAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("listed");
        await Expect(frame.Locator("h1")).ToHaveTextAsync("Inspectors");
        Assert.Equal(
            0,
            await page.EvaluateAsync<int>(
                "() => { try { return document.querySelector('iframe').contentDocument ? 1 : 0; } catch { return 0; } }"
            )
        );
    }

    [Fact]
    public async Task Recent_visits_are_chosen_from_by_outcome()
    {
        using var service = await RunningService.StartAsync("demo");
        var page = await OpenAsync("/try", service);
        await Expect(page.GetByText("Nobody has visited yet")).ToBeVisibleAsync();
        foreach (var target in new[] { "/bridges/7", "/bridges/x", "/bridges/y", "/nothing" })
            await service.GetAsync(target);
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(4);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "malformed 2" }).ClickAsync();
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(2);
        await page.ReloadAsync();
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(2);
        await page.Locator("main tbody tr").First.GetByRole(AriaRole.Link).ClickAsync();
        Assert.EndsWith("/visits/3", page.Url);
        await Expect(page.Locator("[data-step=parse]")).ToContainTextAsync("malformed: ");
        await Expect(page.Locator("[data-step=load]")).ToContainTextAsync("not reached");
        await page.ReloadAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Visit 3");
        await page.GotoAsync(service.ConsoleUrl + "visits/4711");
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("The visit 4711 is not kept");
        await page.GotoAsync(service.ConsoleUrl + "nowhere");
        await Expect(page.GetByText("There is no such screen")).ToBeVisibleAsync();
    }

    [Fact]
    public async Task Findings_stand_at_their_place_in_the_text_and_go_when_they_are_mended()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", AppFolder.App));
        var page = await OpenAsync("/findings", service);
        await Expect(page.Locator("main")).ToContainTextAsync("Nothing is wrong with");
        await Expect(page.Locator(".file > li")).ToHaveCountAsync(AppFolder.App.Split('\n').Length);

        folder.Write("app.yaml", AppFolder.App.Replace("order: [name]", "order: [nmae]"));
        await Expect(page.Locator(".banner")).ToContainTextAsync("makes no site as it is now");
        await Expect(page.Locator(".file mark")).ToHaveTextAsync("nmae");
        await Expect(page.Locator(".file .finding")).ToContainTextAsync("Write name.");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Pages" }).ClickAsync();
        await Expect(page.Locator("tr:has(.finding)")).ToContainTextAsync("line 5, column ");
        await page.Locator(".finding").GetByRole(AriaRole.Link).ClickAsync();
        await Expect(page.Locator("[data-chosen=yes]")).ToContainTextAsync("nmae");
        Assert.Empty(await Browser.FaultsAsync(page));

        File.Delete(folder.File("app.yaml"));
        await Expect(page.GetByText("cannot be read")).ToBeVisibleAsync();
        folder.Write("app.yaml", AppFolder.App);
        await Expect(page.Locator("main")).ToContainTextAsync("Nothing is wrong with");
        await Expect(page.Locator(".banner")).ToHaveCountAsync(0);
    }

    [Fact]
    public async Task Sources_show_how_they_are_and_a_page_that_waits_is_said_to()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        var app = AppFolder
            .App.Replace("sources: { s:", "sources: { far: { engine: sqlite, connection: far.db }, s:")
            .Replace("pages:", "  part: { from: far.part }\npages:\n  parts: { path: /parts, list: part }")
            .Replace("records: { thing: { from: s.thing, label: name } }", "records:\n  thing: { from: s.thing, label: name }");
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", app));
        var page = await OpenAsync("/pages", service);
        await Expect(page.Locator(".banner")).ToContainTextAsync("1 page waits for a source that is away.");
        await page.Locator(".banner").GetByRole(AriaRole.Link).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Sources");
        await Expect(page.Locator("main")).ToContainTextAsync("There is no file far.db.");
        await Expect(page.Locator("tr:has(strong:text-is('s'))")).ToContainTextAsync("yes");
        await Expect(page.Locator("section tr:has(strong:text-is('thing'))")).ToContainTextAsync("id");
        Assert.Empty(await Browser.FaultsAsync(page));

        folder.MakeDatabase("CREATE TABLE part (id INTEGER PRIMARY KEY)", "far.db");
        await Expect(page.Locator(".banner")).ToHaveCountAsync(0, new LocatorAssertionsToHaveCountOptions { Timeout = 15_000 });
        await Expect(page.Locator("main")).ToContainTextAsync("all of them answer");
        Assert.Equal(200, (await service.GetAsync("/parts")).Status);
    }

    [Fact]
    public async Task A_service_that_is_gone_is_said_to_be_and_taken_up_again_when_it_is_back()
    {
        using var service = await RunningService.StartAsync("demo");
        var page = await OpenAsync("/pages", service);
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(50);
        await service.EndAsync();
        await Expect(page.Locator(".banner")).ToContainTextAsync("The service does not answer.");
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(50);
        Assert.Empty(await Browser.FaultsAsync(page));
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Try" }).ClickAsync();
        await Expect(page.GetByText("This could not be loaded")).ToBeVisibleAsync();
        await service.RestartAsync();
        await Expect(page.Locator(".banner")).ToHaveCountAsync(0);
        await Expect(page.GetByText("Nobody has visited yet")).ToBeVisibleAsync();
    }

    [Fact]
    public async Task Loading_and_failing_are_shown_as_such()
    {
        var page = await OpenAsync("/findings");
        var held = new TaskCompletionSource();
        await page.RouteAsync("**/api/pages", async route =>
        {
            await held.Task;
            await route.FulfillAsync(
                new RouteFulfillOptions
                {
                    Status = 500,
                    ContentType = "application/problem+json",
                    Body = """{"detail":"The shelf is empty."}""",
                }
            );
        });
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Pages" }).ClickAsync();
        await Expect(page.GetByRole(AriaRole.Status, new PageGetByRoleOptions { Name = "Loading the pages" })).ToBeVisibleAsync();
        held.SetResult();
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("The shelf is empty.");
        await page.UnrouteAsync("**/api/pages");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Try again" }).ClickAsync();
        await Expect(page.Locator("main tbody tr").First).ToContainTextAsync("about");
    }

    [Theory]
    [InlineData("/pages")]
    [InlineData("/try")]
    [InlineData("/try?address=/bridges/7")]
    [InlineData("/try?address=/bridges/x")]
    [InlineData("/findings")]
    [InlineData("/make")]
    [InlineData("/make/pages/bridges?part=links")]
    [InlineData("/make/pages/bridge?part=related&at=/bridges/x")]
    [InlineData("/make/records/bridge?part=fields")]
    [InlineData("/make/sources/gauges?part=endpoints")]
    [InlineData("/make/app?part=frame")]
    [InlineData("/make/pages/nowhere")]
    [InlineData("/text?line=150")]
    [InlineData("/watch")]
    [InlineData("/changes")]
    [InlineData("/try/ids")]
    [InlineData("/try?address=/bridges/7&beside=/bridges/x")]
    [InlineData("/map")]
    [InlineData("/map?about=bridge&steps=2")]
    [InlineData("/map?about=nowhere")]
    [InlineData("/map?of=record&about=bridge")]
    [InlineData("/pages?by=record&open=bridge")]
    [InlineData("/query?source=register&query=SELECT%20name%20FROM%20bridge%20WHERE%20bridge_id%20%3D%20%3Aid&value.id=7")]
    [InlineData("/sources/register/bridge")]
    [InlineData("/sources/register/nowhere")]
    [InlineData("/save")]
    [InlineData("/sources")]
    [InlineData("/proofs")]
    [InlineData("/proofs/999")]
    [InlineData("/nowhere")]
    public async Task Every_screen_is_clean_at_every_width_and_in_both_palettes(string path)
    {
        var page = await browser.OpenAsync();
        var complaints = new List<string>();
        string[] expected = ["status of 40", "the document's frame is sandboxed"];

        // A page of the frame that is a 400 or a 404 is what was asked for; the frame runs no scripts, and says so.
        page.Console += (_, message) =>
        {
            if (message.Type is "error" or "warning" && !expected.Any(message.Text.Contains))
                complaints.Add(message.Text);
        };
        page.PageError += (_, error) => complaints.Add(error);
        await GoAsync(page, path, Service);
        await Expect(page.Locator("main h1, main h2").First).ToBeVisibleAsync();
        // Where visits come in as they happen, the network is never idle.
        if (path != "/watch")
            await page.WaitForLoadStateAsync(LoadState.NetworkIdle);
        await Browser.AssertFitAsync(page);
        Assert.Empty(complaints);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task The_keyboard_goes_from_screen_to_screen()
    {
        var page = await OpenAsync("/pages");
        await Expect(page.Locator("main tbody tr").First).ToBeVisibleAsync();
        await page.Keyboard.PressAsync("Tab");
        Assert.Equal("Skip to the content", await page.Locator(":focus").TextContentAsync());
        for (var i = 0; i < 4; i++)
            await page.Keyboard.PressAsync("Tab");
        Assert.Equal("Try", await page.Locator(":focus").TextContentAsync());
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.Locator("main")).ToBeFocusedAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Try an address");
        Assert.Equal("Try · Jexa console", await page.TitleAsync());
        await page.Keyboard.PressAsync("Tab");
        await page.Keyboard.TypeAsync("/bridges/7");
        await page.Keyboard.PressAsync("Enter");
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("found");
    }

    [Fact]
    public async Task The_console_runs_nothing_but_its_own_scripts_and_stays_with_who_has_it()
    {
        var answer = await RunningService.SendAsync(
            Service.ConsolePort,
            System.Text.Encoding.ASCII.GetBytes(
                $"GET /pages HTTP/1.1\r\nHost: 127.0.0.1:{Service.ConsolePort}\r\nConnection: close\r\n\r\n"
            )
        );
        var policy = answer.Header("Content-Security-Policy")!;
        Assert.Contains("default-src 'none'; script-src 'self'; style-src 'self' 'nonce-", policy);
        Assert.Contains($"frame-src http://127.0.0.1:{Service.Port};", policy);
        Assert.Contains("frame-ancestors 'none'", policy);
        Assert.DoesNotContain("unsafe", policy);
        Assert.Equal("no-store", answer.Header("Cache-Control"));
        var script = Regex.Match(answer.Body, "src=\"(/assets/[^\"]+)\"").Groups[1].Value;
        var file = await RunningService.SendAsync(
            Service.ConsolePort,
            System.Text.Encoding.ASCII.GetBytes(
                $"GET {script} HTTP/1.1\r\nHost: 127.0.0.1:{Service.ConsolePort}\r\nAccept-Encoding: "
                    + "br\r\nConnection: close\r\n\r\n"
            )
        );
        Assert.Equal((200, "br"), (file.Status, file.Header("Content-Encoding")));
        Assert.Contains("immutable", file.Header("Cache-Control"));
        // The pages let nobody but the console frame them.
        Assert.Contains(
            $"frame-ancestors http://127.0.0.1:{Service.ConsolePort} http://localhost:{Service.ConsolePort}",
            (await Service.GetAsync("/bridges")).Header("Content-Security-Policy")
        );
    }

    private static ILocator Address(IPage page) =>
        page.GetByRole(AriaRole.Textbox, new PageGetByRoleOptions { Name = "Address", Exact = true });

    private Task<IPage> OpenAsync(string path, RunningService? service = null) => OpenAsync(browser, path, service ?? Service);

    /// <summary>A new page with a screen, signed in.</summary>
    internal static async Task<IPage> OpenAsync(Browser browser, string path, RunningService service)
    {
        var page = await browser.OpenAsync();
        await GoAsync(page, path, service);
        return page;
    }

    /// <summary>Opens a screen signed in, with a code asked for by the command line's own way.</summary>
    internal static async Task GoAsync(IPage page, string path, RunningService service)
    {
        var url = (await service.AskAsync("console")).Out.Trim();
        await page.GotoAsync(url.Replace("/#", path + "#", StringComparison.Ordinal));
    }
}
