using System.Net.Http.Headers;
using System.Text.Json;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>
/// What one sees of the app as a whole: visits as they happen, all pages with all IDs, the map, tables and rows.
/// </summary>
public sealed class WatchTests(Browser browser)
{
    private static AppFolder Folder(string more = "")
    {
        var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write("app.yaml", AppFolder.App + "\n" + more);
        return folder;
    }

    private Task<IPage> OpenAsync(string path, RunningService service) => ConsoleTests.OpenAsync(browser, path, service);

    /// <summary>Reads events of the watch until one of them is as it should be.</summary>
    private static async Task<JsonElement> EventAsync(RunningService service, Func<JsonElement, bool> isAsked)
    {
        using var http = new HttpClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, $"{service.ConsoleUrl}api/watch");
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", service.Token);
        using var answer = await http.SendAsync(
            request,
            HttpCompletionOption.ResponseHeadersRead,
            TestContext.Current.CancellationToken
        );
        Assert.Equal("text/event-stream", answer.Content.Headers.ContentType!.MediaType);
        using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(TestContext.Current.CancellationToken));
        for (var lines = 0; lines < 200; lines++)
        {
            var line = await reader.ReadLineAsync(TestContext.Current.CancellationToken) ?? "";
            if (!line.StartsWith("data: ", StringComparison.Ordinal))
                continue;
            var told = JsonDocument.Parse(line[6..]).RootElement;
            if (isAsked(told))
                return told;
        }

        throw new InvalidOperationException("No event was as it should be.");
    }

    [Fact]
    public async Task A_slow_query_is_told_with_its_plan()
    {
        using var folder = Folder();
        // Six million steps of counting take longer than the 50 ms from which a query is slow.
        folder.MakeDatabase(
            """
            CREATE VIEW lengthy AS SELECT 7 AS id,
              (WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000000) SELECT max(i) FROM n) AS most
            """,
            "slow.db"
        );
        folder.Write(
            "app.yaml",
            AppFolder
                .App.Replace("sources: { s:", "sources: { slow: { engine: sqlite, connection: slow.db }, s:")
                .Replace(
                    "records: { thing: { from: s.thing, label: name } }",
                    "records:\n  thing: { from: s.thing, label: name }\n"
                        + "  lengthy: { from: slow.lengthy, key: id, unique: assumed, fields: { id: { type: integer } } }"
                ) + "\n  lengthy: { path: \"/lengthy/{id}\", detail: lengthy }\n"
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Equal(200, (await service.GetAsync("/lengthy/7")).Status);
        var told = await EventAsync(service, told => told.GetProperty("slow").GetArrayLength() > 0);
        var slow = told.GetProperty("slow")[0];
        Assert.Equal("lengthy", slow.GetProperty("page").GetString());
        var number = slow.GetProperty("number").GetInt64();
        var (status, plan) = await service.ManageAsync($"slow-queries/{number}/plan");
        Assert.Equal(200, status);
        Assert.Contains("RECURSIVE", plan.GetProperty("lines").ToString());
        Assert.Equal(404, (await service.ManageAsync($"slow-queries/{number + 1}/plan")).Status);

        var page = await OpenAsync("/watch", service);
        await page.Locator(".slow summary").First.ClickAsync();
        await Expect(page.Locator(".slow .plan")).ToContainTextAsync("RECURSIVE");
        Assert.Empty(await Browser.FaultsAsync(page));
    }

    [Fact]
    public async Task A_query_is_tried_before_it_is_used()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/sources", service);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Try a query" }).ClickAsync();
        await page.GetByRole(AriaRole.Textbox, new PageGetByRoleOptions { Name = "Query" })
            .FillAsync("SELECT id, name FROM thing WHERE id = :id");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Run it" }).ClickAsync();
        await page.GetByLabel(":id").FillAsync("2");
        await page.GetByLabel(":id").PressAsync("Enter");
        await Expect(page.Locator("table.rows tbody")).ToHaveTextAsync("2two");
        await Expect(page.Locator(".plan")).ToContainTextAsync("SEARCH");
        Assert.Empty(await Browser.FaultsAsync(page));
        // It has an address, and shows the same after a refresh.
        await page.ReloadAsync();
        await Expect(page.Locator("table.rows tbody")).ToHaveTextAsync("2two");

        await page.GetByRole(AriaRole.Textbox, new PageGetByRoleOptions { Name = "Query" }).FillAsync("DELETE FROM thing");
        await page.GetByRole(AriaRole.Textbox, new PageGetByRoleOptions { Name = "Query" }).PressAsync("Control+Enter");
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("It writes.");
        var (status, _) = await service.ManageAsync("query-trials", new { source = "nowhere", query = "SELECT 1" });
        Assert.Equal(404, status);
        Assert.Contains("two", (await service.GetAsync("/things")).Body);
    }

    [Fact]
    public async Task Visits_are_told_as_they_happen_and_failed_IDs_by_where_they_came_from()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        // One broken link elsewhere is one line, however many IDs it has led to.
        foreach (var id in (string[])["a", "b", "c", "d", "x", "e", "x", "f"])
            await service.GetAsync($"/things/{id}", "Referer: http://elsewhere.example/list\r\n");
        await service.GetAsync("/things/9");
        for (var i = 0; i < 150; i++)
            await service.GetAsync("/things");
        var first = await EventAsync(service, told => told.GetProperty("visits").GetArrayLength() > 0);

        // However many there were, an event has so many visits at most.
        Assert.Equal(100, first.GetProperty("visits").GetArrayLength());
        var failed = first.GetProperty("failed").EnumerateArray().ToList();
        Assert.Equal(
            ("thing", "malformed", "/things/f /things/x /things/e /things/d /things/c", "http://elsewhere.example/list", 8),
            (
                failed[0].GetProperty("page").GetString(),
                failed[0].GetProperty("outcome").GetString(),
                string.Join(' ', failed[0].GetProperty("targets").EnumerateArray()),
                failed[0].GetProperty("from").GetString(),
                failed[0].GetProperty("visits").GetInt32()
            )
        );
        Assert.Equal("", failed[1].GetProperty("from").GetString());
        var counts = first
            .GetProperty("seconds")
            .EnumerateArray()
            .SelectMany(second => second.GetProperty("outcomes").EnumerateArray())
            .GroupBy(count => count.GetProperty("outcome").GetString()!, count => count.GetProperty("visits").GetInt32())
            .ToDictionary(group => group.Key, group => group.Sum());
        Assert.Equal((150, 8, 1), (counts["listed"], counts["malformed"], counts["unknown"]));
        var things = first.GetProperty("pages").EnumerateArray().Single(page => page.GetProperty("page").GetString() == "things");
        Assert.Equal(150, things.GetProperty("visits").GetInt64());
        Assert.True(things.GetProperty("median").GetDouble() <= things.GetProperty("most").GetDouble());
    }

    [Fact]
    public async Task The_watch_needs_the_token_and_ends_with_the_service()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var refused = await RunningService.SendAsync(
            service.ConsolePort,
            System.Text.Encoding.ASCII.GetBytes(
                $"GET /api/watch HTTP/1.1\r\nHost: 127.0.0.1:{service.ConsolePort}\r\nConnection: close\r\n\r\n"
            )
        );
        Assert.Equal(401, refused.Status);
        var watching = EventAsync(service, _ => false);
        await Task.Delay(1500, TestContext.Current.CancellationToken);
        var (took, code) = await service.EndAsync();
        Assert.Equal(0, code);
        Assert.True(took < TimeSpan.FromSeconds(20), $"It took {took}.");
        await Assert.ThrowsAnyAsync<Exception>(() => watching);
    }

    [Fact]
    public async Task One_watches_a_visit_come_in_and_opens_its_trace()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/watch", service);
        await Expect(page.GetByRole(AriaRole.Status).Filter(new LocatorFilterOptions { HasText = "as they happen" }))
            .ToBeVisibleAsync();
        await service.GetAsync("/things/7", "Referer: http://elsewhere.example/\r\n");
        var rows = page.GetByRole(AriaRole.Region, new PageGetByRoleOptions { Name = "Visits as they happen, newest first" });
        await Expect(rows).ToContainTextAsync("/things/7");
        await Expect(page.Locator("main")).ToContainTextAsync("http://elsewhere.example/");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Hold still" }).ClickAsync();
        await rows.GetByRole(AriaRole.Link).First.ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("unknown");
        await page.GoBackAsync();

        // The service goes and comes back: the watch goes on by itself.
        await service.EndAsync("KILL");
        await Expect(page.Locator("main")).ToContainTextAsync("Waiting for the service");
        await service.RestartAsync();
        await Expect(page.Locator("main")).ToContainTextAsync("as they happen");
    }

    [Fact]
    public async Task All_pages_are_tried_with_right_and_wrong_IDs()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/try/ids", service);
        // Only the working copy can show a list as if it had no records.
        string[] live = ["listed", "found", "malformed", "not-canonical", "unknown"];
        foreach (
            var (on, outcomes) in new[]
            {
                ("Try what is served instead", ["listed", .. live]),
                ("Try the working copy instead", live),
            }
        )
        {
            var count = outcomes.Length;
            await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = $"Try all {count}" }).ClickAsync();
            await Expect(page.Locator("main")).ToContainTextAsync($"{count} tried, each as declared.");
            await Expect(page.Locator(".case .outcome")).ToHaveTextAsync(outcomes);
            await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = on }).ClickAsync();
        }

        await page.GetByRole(AriaRole.Row).Last.GetByRole(AriaRole.Link).Last.ClickAsync();
        await Expect(page.Locator(".address-line .outcome")).ToHaveTextAsync("unknown");

        // Two addresses side by side: which step differs.
        await ConsoleTests.GoAsync(page, "/try?address=/things/1", service);
        await page.GetByLabel("Another address", new PageGetByLabelOptions { Exact = true }).FillAsync("/things/9");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Compare" }).ClickAsync();
        await Expect(page.Locator("main"))
            .ToContainTextAsync("They differ in what is read: id 1; id 9. They come to found and unknown.");
    }

    [Fact]
    public async Task Pages_are_folded_and_drawn_by_their_records()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/pages", service);
        await Expect(page.Locator("tbody tr")).ToHaveCountAsync(2);
        await page.GetByText("Records", new PageGetByTextOptions { Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "thing", Exact = true }).ClickAsync();
        await Expect(page.Locator(".fold tbody tr")).ToHaveCountAsync(2);
        await page.ReloadAsync();
        await Expect(page.Locator(".fold tbody tr")).ToHaveCountAsync(2);
        Assert.Empty(await Browser.FaultsAsync(page));
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "thing, drawn" }).ClickAsync();
        await Expect(page.Locator(".map svg a")).ToHaveCountAsync(1);
        await Expect(page.Locator(".map aside")).ToContainTextAsync("/things/{id}");
        await page.GetByText("Pages", new PageGetByTextOptions { Exact = true }).Last.ClickAsync();
        await Expect(page.Locator(".map svg a")).ToHaveCountAsync(2);
        Assert.Empty(await Browser.FaultsAsync(page));
    }

    [Fact]
    public async Task The_map_of_900_pages_is_about_one_of_them()
    {
        var more = string.Concat(
            Enumerable.Range(0, 900).Select(i => $"  list-{i}: {{ path: /l/{i}, list: thing, links: [{{ to: thing }}] }}\n")
        );
        using var folder = Folder(more);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/map?about=thing", service);
        await Expect(page.Locator("svg a")).ToHaveCountAsync(60);
        await Expect(page.Locator("main")).ToContainTextAsync("more that are not drawn");
        await page.Locator("svg a").Filter(new LocatorFilterOptions { HasText = "list-7" }).First.ClickAsync();
        await Expect(page.Locator("svg a.about")).ToContainTextAsync("list-7");
        await page.ReloadAsync();
        await Expect(page.Locator("svg a")).ToHaveCountAsync(2);

        // The table of all of them, the text, and a page's form still answer.
        await ConsoleTests.GoAsync(page, "/pages?find=list-89", service);
        await Expect(page.Locator("main table > tbody > tr")).ToHaveCountAsync(11);
        await ConsoleTests.GoAsync(page, "/make/pages/list-899?part=title", service);
        await page.GetByLabel("Title", new PageGetByLabelOptions { Exact = true }).FillAsync("The last");
        await Expect(page.FrameLocator("iframe[title='Preview of the page']").Locator("h1")).ToHaveTextAsync("The last");
    }

    [Fact]
    public async Task A_change_of_a_record_is_taken_back_in_the_console()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write("app.yaml", AppFolder.App.Replace("detail: thing }", "detail: thing, forms: [edit] }"));
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var visitor = await browser.OpenAsync();
        await visitor.GotoAsync($"{service.PagesUrl}things/1/edit");
        await visitor.GetByLabel("Name").FillAsync("changed");
        await visitor.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(visitor.Locator("h1")).ToHaveTextAsync("changed");

        var page = await OpenAsync("/changes", service);
        await Expect(page.Locator("main tbody tr")).ToContainTextAsync("name: one → changed");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Take back change 1" }).ClickAsync();
        await Expect(page.Locator("main tbody tr")).ToHaveCountAsync(2);
        await Expect(page.Locator("main tbody tr").First).ToContainTextAsync("taking back 1");
        await Expect(page.Locator("main tbody tr").Last).ToContainTextAsync("by 2");
        await visitor.ReloadAsync();
        await Expect(visitor.Locator("h1")).ToHaveTextAsync("one");
    }

    [Fact]
    public async Task A_table_is_looked_into_and_a_row_opened_on_its_page()
    {
        const string Markup = "<script>alert(1)</script>";
        using var folder = new AppFolder();
        folder.MakeDatabase(
            AppFolder.Schema
                + $"""
                CREATE TABLE "{Markup}" (id INTEGER PRIMARY KEY, "a ""b""/c" TEXT, thing INTEGER REFERENCES thing (id));
                INSERT INTO "{Markup}" VALUES (1, '{Markup}', 2);
                CREATE TABLE wide (id INTEGER PRIMARY KEY, {string.Join(", ", Enumerable.Range(0, 1900).Select(i => $"c{i}"))});
                INSERT INTO wide (id) VALUES (1);
                """
        );
        folder.Write("app.yaml", AppFolder.App);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/sources", service);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = Markup, Exact = true }).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(Markup);
        await Expect(page.Locator("main")).ToContainTextAsync("a \"b\"/c");
        await page.ReloadAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "thing", Exact = true }).First.ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "thing /things/2" }).ClickAsync();
        await Expect(page.Locator(".pane-head .outcome")).ToHaveTextAsync("found");
        await ConsoleTests.GoAsync(page, "/sources/s/wide", service);
        await Expect(page.Locator("main")).ToContainTextAsync("1,901 columns");
        await ConsoleTests.GoAsync(page, "/sources/s/none", service);
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("no source “s” with a table “none”");
    }
}
