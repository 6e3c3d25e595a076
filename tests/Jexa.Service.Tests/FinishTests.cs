using System.Text;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>What a page has room for, its palettes, and what helps on it.</summary>
public sealed class FinishTests(DemoService demo, Browser browser)
{
    private string Url(string path) => demo.Service.PagesUrl.TrimEnd('/') + path;

    /// <summary>How many of these elements are seen whole without scrolling.</summary>
    private static Task<int> SeenAsync(IPage page, string selector) =>
        page.EvaluateAsync<int>(
            "selector => [...document.querySelectorAll(selector)]"
                + ".filter(one => one.getBoundingClientRect().bottom <= innerHeight).length",
            selector
        );

    [Fact]
    public async Task A_screen_has_room_for_fourteen_bridges_and_for_the_facts_and_picture_of_one()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/bridges"));
        Assert.InRange(await SeenAsync(page, "tbody tr"), 14, 50);

        // Codes, dates and short words stay on one line.
        Assert.True(
            await page.EvaluateAsync<bool>(
                "[...document.querySelectorAll('tbody tr')].every(row => row.getBoundingClientRect().height < 40)"
            )
        );
        await page.GotoAsync(Url("/bridges/7"));
        Assert.Equal(1, await SeenAsync(page, ".record .picture"));
        Assert.InRange(await SeenAsync(page, ".record > div:not(.wide)"), 12, 14);
        await page.GotoAsync(Url("/bridges/new"));
        var save = await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add bridge", Exact = true })
            .BoundingBoxAsync();
        Assert.InRange(save!.Y + save.Height, 500, 1200);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task Headings_of_a_table_stay_when_it_is_scrolled()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/bridges"));
        await page.EvaluateAsync("scrollTo(0, 900)");
        Assert.InRange(await page.Locator("th").First.EvaluateAsync<double>("cell => cell.getBoundingClientRect().top"), -1, 1);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task Actions_have_their_weight_and_the_grave_one_stands_apart()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/bridges/7"));
        var edit = page.Locator(".links").GetByText("Edit", new LocatorGetByTextOptions { Exact = true });
        var delete = page.Locator(".links").GetByText("Delete", new LocatorGetByTextOptions { Exact = true });
        Assert.NotEqual(await ColourAsync(edit), await ColourAsync(delete));
        Assert.True((await delete.BoundingBoxAsync())!.X > (await edit.BoundingBoxAsync())!.X + 500);
        await page.Context.CloseAsync();

        static Task<string> ColourAsync(ILocator one) =>
            one.EvaluateAsync<string>("link => getComputedStyle(link).backgroundColor");
    }

    [Fact]
    public async Task Neighbours_that_are_called_alike_are_told_apart()
    {
        var json = (await demo.Service.GetJsonAsync("/bridges/7")).Body;
        Assert.Contains("\"prev_text\":\"Oak Footbridge (1129)\",\"next_text\":\"Oak Footbridge (311)\"", json);
        Assert.Contains("</span>Oak Footbridge (1129)</a>", (await demo.Service.GetAsync("/bridges/7")).Body);

        // Those that differ need nothing more.
        Assert.Contains(
            "\"prev_text\":\"Lime Bridge\",\"next_text\":\"Lime Footbridge\"",
            (await demo.Service.GetJsonAsync("/bridges/1")).Body
        );
    }

    /// <summary>An app of thirty lists.</summary>
    private static string App(string frame)
    {
        var app = new StringBuilder("app: Things\nsources: { s: { engine: sqlite, connection: data.db } }\n");
        app.Append("records: { thing: { from: s.thing, label: name } }\n").Append(frame).Append("pages:\n");
        app.Append("  thing: { path: \"/things/{id}\", detail: thing, forms: [edit, delete] }\n");
        for (var i = 1; i <= 30; i++)
            app.Append($"  list-{i}: {{ path: /list-{i}, list: thing, title: \"List {i}\" }}\n");
        return app.ToString();
    }

    [Theory]
    [InlineData("", "rgb(251, 250, 246)", "rgb(20, 25, 27)")]
    [InlineData("frame: { theme: contrast, rows: roomy }\n", "rgb(255, 255, 255)", "rgb(0, 0, 0)")]
    [InlineData("frame: { theme: warm }\n", "rgb(253, 246, 238)", "rgb(28, 22, 18)")]
    public async Task Each_theme_is_fit_for_all_and_a_long_menu_keeps_its_rest_in_reach(string frame, string light, string dark)
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", App(frame)));
        foreach (var (scheme, paper) in new[] { (ColorScheme.Light, light), (ColorScheme.Dark, dark) })
        {
            var page = await browser.OpenAsync(1280, scheme);
            await page.GotoAsync(service.PagesUrl + "list-1");
            Assert.Equal(paper, await page.EvaluateAsync<string>("getComputedStyle(document.body).backgroundColor"));
            Assert.InRange((await page.Locator("header.top").BoundingBoxAsync())!.Height, 30, 100);
            await page.GetByText("More", new PageGetByTextOptions { Exact = true }).ClickAsync();
            await page.GetByText("List 30", new PageGetByTextOptions { Exact = true }).ClickAsync();
            await page.WaitForURLAsync("**/list-30");
            foreach (var path in new[] { "list-1", "things/1", "things/1/edit", "things/1/delete", "things/9" })
            {
                await page.GotoAsync(service.PagesUrl + path);
                Assert.Empty(await Browser.FaultsAsync(page));
            }

            await page.Context.CloseAsync();
        }
    }

    [Fact]
    public async Task A_slow_page_is_announced_and_a_quick_one_is_not()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/bridges"));
        await page.RouteAsync("**/gallery", async route =>
        {
            await Task.Delay(1500);
            await route.ContinueAsync();
        });
        await page.EvaluateAsync(
            """
            new MutationObserver(() => sessionStorage.setItem("told", "yes")).observe(document.documentElement, { attributes: true });
            document.querySelector("header a[href$='/gallery']").click();
            """
        );
        await page.WaitForURLAsync("**/gallery");
        Assert.Equal("yes", await page.EvaluateAsync<string>("sessionStorage.getItem('told')"));
        Assert.Equal(0, await page.Locator("html[data-loading]").CountAsync());
        await page.Context.CloseAsync();
    }

    [Theory]
    [InlineData("loading: hidden", "loading.js")]
    [InlineData("prefetch: none", "ahead.js")]
    public async Task The_sign_of_loading_and_the_prefetch_can_be_left_out(string key, string script)
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", App($"frame: {{ {key} }}\n")));
        Assert.DoesNotContain(script, (await service.GetAsync("/list-1")).Body);
        Assert.Contains(script, (await demo.Service.GetAsync("/bridges")).Body);
    }

    [Fact]
    public async Task What_is_pointed_at_is_in_the_cache_and_the_click_asks_whether_it_is_still_right()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", App("")));
        var page = await browser.OpenAsync();
        var fetched = new List<string>();
        page.Request += (_, request) =>
        {
            if (request.ResourceType == "fetch")
                fetched.Add(new Uri(request.Url).PathAndQuery);
        };
        await page.GotoAsync(service.PagesUrl + "list-1");
        foreach (var (name, then, status) in new[] { ("one", "one", 304), ("two", "changed", 200) })
        {
            var link = page.Locator("main tbody a").GetByText(name, new LocatorGetByTextOptions { Exact = true });
            var ahead = page.WaitForRequestFinishedAsync(
                new PageWaitForRequestFinishedOptions { Predicate = request => request.ResourceType == "fetch" }
            );
            await link.HoverAsync();
            await ahead;

            // The browser writes its cache when it has a moment.
            await Task.Delay(1000);
            if (then != name)
                folder.MakeDatabase($"UPDATE thing SET name = '{then}' WHERE name = '{name}'");
            var statuses = await StatusesAsync(page);
            await link.ClickAsync();
            await Assertions.Expect(page.Locator("h1")).ToHaveTextAsync(then);
            Assert.Equal(status, statuses[0]);
            await page.GoBackAsync();
        }

        Assert.Equal(2, fetched.Count(target => target.StartsWith("/things/", StringComparison.Ordinal)));
        await page.Context.CloseAsync();
    }

    /// <summary>The statuses that a page's network meets from now on, as they come in.</summary>
    private static async Task<List<int>> StatusesAsync(IPage page)
    {
        var statuses = new List<int>();
        var network = await page.Context.NewCDPSessionAsync(page);
        network.Event("Network.responseReceivedExtraInfo").OnEvent += (_, told) =>
            statuses.Add(told!.Value.GetProperty("statusCode").GetInt32());
        await network.SendAsync("Network.enable");
        return statuses;
    }

    [Fact]
    public async Task One_of_a_records_own_is_chosen_in_the_address_and_no_other()
    {
        var json = (await demo.Service.GetJsonAsync("/bridges/1")).Body;
        Assert.Contains("\"chosen\":\"1\"", json);
        var page = (await demo.Service.GetAsync("/bridges/1?picture=2")).Body;
        Assert.Contains("<a aria-current=\"true\" href=\"/bridges/1?picture=2#chosen-picture\">", page);
        Assert.Contains("src=\"/_jexa/pictures/photo/file/2\"", page);
        Assert.DoesNotContain("src=\"/_jexa/pictures/photo/file/1\"", page);
        Assert.Contains("\"chosen\":\"2\"", (await demo.Service.GetJsonAsync("/bridges/1?picture=2")).Body);

        // That of another bridge, none at all, two at once, another spelling.
        foreach (var wrong in new[] { "picture=900", "picture=x", "picture=", "picture=1&picture=2", "picture=02", "Picture=2" })
        {
            var answer = await demo.Service.GetAsync($"/bridges/1?{wrong}");
            Assert.Equal(404, answer.Status);
            Assert.Contains("There is no such photo here", answer.Body);
            Assert.Contains("<a href=\"/bridges/1\">The bridge</a>", answer.Body);
        }

        // A bridge without pictures has nothing to choose.
        Assert.Equal(200, (await demo.Service.GetAsync("/bridges/7")).Status);
        Assert.Equal(404, (await demo.Service.GetAsync("/bridges/7?picture=1")).Status);
    }
}
