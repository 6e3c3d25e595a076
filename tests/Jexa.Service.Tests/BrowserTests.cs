using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>The demo as a new user walks it, with JavaScript switched off: pages need none.</summary>
public class BrowserTests(DemoService demo, Browser browser)
{
    private string Url(string path) => demo.Service.PagesUrl.TrimEnd('/') + path;

    private async Task<IPage> OpenAsync()
    {
        var context = await browser.Chromium.NewContextAsync(
            new BrowserNewContextOptions
            {
                JavaScriptEnabled = false,
                ViewportSize = new ViewportSize { Width = 1280, Height = 800 },
            }
        );
        return await context.NewPageAsync();
    }

    [Fact]
    public async Task List_record_refresh_and_typed_IDs_all_show_the_right_thing()
    {
        var page = await OpenAsync();
        await page.GotoAsync(Url("/"));
        Assert.Equal(Url("/bridges"), page.Url);
        Assert.Equal("Bridges · Alder Valley bridge register", await page.TitleAsync());
        Assert.Equal("1 to 50 of 1,204 bridges", await page.Locator(".total").TextContentAsync());
        Assert.Equal(50, await page.Locator("tbody tr").CountAsync());

        var row = page.Locator("tbody tr").Nth(3);
        var (name, code) = (await row.Locator("td").Nth(0).TextContentAsync(), await row.Locator("td").Nth(1).TextContentAsync());
        await row.Locator("td").Nth(0).Locator("a").ClickAsync();
        await AssertRecordAsync(page, name!, code!);
        var address = page.Url;

        await page.ReloadAsync();
        Assert.Equal(address, page.Url);
        await AssertRecordAsync(page, name!, code!);

        await page.GotoAsync(Url("/bridges/0042"));
        Assert.Equal(Url("/bridges/42"), page.Url);
        Assert.Contains("AV-0042", await page.Locator("dl").TextContentAsync());

        var answer = await page.GotoAsync(Url("/bridges/forty-two"));
        Assert.Equal(400, answer!.Status);
        Assert.Contains("“forty-two” is not a bridge’s ID.", await page.Locator("main").TextContentAsync());

        answer = await page.GotoAsync(Url("/bridges/99999"));
        Assert.Equal(404, answer!.Status);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "All bridges" }).ClickAsync();
        Assert.Equal(Url("/bridges"), page.Url);
    }

    [Fact]
    public async Task Every_awkward_district_is_reached_by_its_link_and_by_refresh()
    {
        var page = await OpenAsync();
        await page.GotoAsync(Url("/districts"));
        var names = await page.Locator(".bullets li a.whole").AllTextContentsAsync();
        Assert.Equal(12, names.Count);
        foreach (var name in names)
        {
            await page.GotoAsync(Url("/districts"));
            await page.Locator("main")
                .GetByRole(AriaRole.Link, new LocatorGetByRoleOptions { Name = name, Exact = true })
                .ClickAsync();
            Assert.Equal(name, await page.Locator("h1").TextContentAsync());
            await page.ReloadAsync();
            Assert.Equal(name, await page.Locator("h1").TextContentAsync());
        }
    }

    [Fact]
    public async Task The_list_can_be_walked_to_its_end_by_next_alone()
    {
        var page = await OpenAsync();
        await page.GotoAsync(Url("/bridges"));
        var codes = new HashSet<string>();
        while (true)
        {
            foreach (var code in await page.Locator("tbody tr td:nth-child(2)").AllTextContentsAsync())
                Assert.True(codes.Add(code));
            var next = page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Next" });
            if (await next.CountAsync() == 0)
                break;
            await next.ClickAsync();
        }

        Assert.Equal(1204, codes.Count);
        Assert.Equal("1,201 to 1,204 of 1,204 bridges", await page.Locator(".total").TextContentAsync());
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Previous" }).ClickAsync();
        Assert.Equal("1,151 to 1,200 of 1,204 bridges", await page.Locator(".total").TextContentAsync());
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "First" }).ClickAsync();
        Assert.Equal(Url("/bridges"), page.Url);
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Last" }).ClickAsync();
        Assert.Equal("1,155 to 1,204 of 1,204 bridges", await page.Locator(".total").TextContentAsync());
    }

    [Fact]
    public async Task A_lookup_without_its_code_leads_to_the_list_which_says_so()
    {
        var page = await OpenAsync();
        await page.GotoAsync(Url("/lookup?code="));
        Assert.Equal(Url("/bridges?lacking=lookup.code"), page.Url);
        Assert.Contains("lacked a bridge’s code", await page.GetByRole(AriaRole.Status).TextContentAsync());
    }

    private static async Task AssertRecordAsync(IPage page, string name, string code)
    {
        Assert.Equal(name, await page.Locator("h1").TextContentAsync());
        Assert.Equal($"{name} · Alder Valley bridge register", await page.TitleAsync());
        Assert.Equal(
            code,
            await page.Locator("dl.record div", new PageLocatorOptions { HasText = "Code" }).Locator("dd").TextContentAsync()
        );
    }
}
