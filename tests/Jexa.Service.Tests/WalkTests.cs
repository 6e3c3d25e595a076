using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>Lists as people walk them on the demo: over HTTP and in Chromium, with scripts and without.</summary>
public class WalkTests(DemoService demo, Browser browser)
{
    private RunningService Service => demo.Service;

    private string Url(string path) => Service.PagesUrl.TrimEnd('/') + path;

    [Fact]
    public async Task A_district_a_bridge_an_inspection_and_all_the_way_back_without_scripts()
    {
        var page = await PlainAsync();
        await page.GotoAsync(Url("/districts"));
        await page.Locator(".bullets li", new PageLocatorOptions { HasText = "Løkke" })
            .GetByRole(AriaRole.Link, new LocatorGetByRoleOptions { Name = "Its bridges" })
            .ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Bridges in Løkke");
        await page.Locator(".side a").Nth(1).ClickAsync();
        await Expect(page.Locator(".side a[aria-current]")).ToHaveCountAsync(1);
        Assert.Contains("/districts/l%C3%B8kke/bridges?kind=", page.Url);
        var list = page.Url;
        var second = page.Locator("tbody tr").Nth(1).Locator("a").First;
        var name = await second.TextContentAsync();
        await second.ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(name!);
        await page.ReloadAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(name!);
        await page.Locator(".back a").ClickAsync();
        Assert.Equal(list, page.Url);

        // The bare address of an inspection knows where it belongs.
        await page.GotoAsync(Url("/inspections/12"));
        var trail = await page.Locator(".trail a").AllTextContentsAsync();
        Assert.Equal(("Districts", 3), (trail[0], trail.Count));
        await page.Locator(".trail a").Last.ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(trail[2]);
        await page.Locator(".trail a").Last.ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync(trail[1]);
        await page.Locator(".more a").ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync($"Bridges in {trail[1]}");
    }

    [Fact]
    public async Task A_form_and_headings_order_and_search_without_scripts()
    {
        var page = await PlainAsync();
        await page.GotoAsync(Url("/bridges?status=closed"));
        await page.GetByLabel("Find").FillAsync("mill");
        await page.GetByLabel("Rows").SelectOptionAsync("20");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Show" }).ClickAsync();
        Assert.Equal(Url("/bridges?status=closed&find=mill&size=20"), page.Url);
        await page.Locator("th").GetByRole(AriaRole.Link, new LocatorGetByRoleOptions { Name = "Length" }).ClickAsync();
        Assert.Equal(Url("/bridges?status=closed&find=mill&order=length_m&size=20"), page.Url);
        await Expect(page.Locator("th[aria-sort=ascending]")).ToHaveTextAsync("Length");
        var rising = await LengthsAsync();
        Assert.Equal(rising.Order(), rising);
        await page.Locator("th").GetByRole(AriaRole.Link, new LocatorGetByRoleOptions { Name = "Length" }).ClickAsync();
        await Expect(page.Locator("th[aria-sort=descending]")).ToHaveTextAsync("Length");
        var falling = await LengthsAsync();
        Assert.Equal(falling.OrderDescending(), falling);
        Assert.True(rising.Count > 1);

        async Task<List<double>> LengthsAsync() =>
            [
                .. (await page.Locator("tbody td.number").AllTextContentsAsync()).Select(text =>
                    double.Parse(Regex.Match(text, "[0-9.]+").Value, System.Globalization.CultureInfo.InvariantCulture)
                ),
            ];
    }

    [Fact]
    public async Task A_whole_card_and_a_whole_row_lead_to_their_record_by_one_link()
    {
        var page = await PlainAsync();
        await page.GotoAsync(Url("/gallery"));
        var card = page.Locator(".card").Nth(2);
        Assert.Equal(1, await card.Locator("a:not([aria-hidden])").CountAsync());
        var name = await card.Locator(".card-title").TextContentAsync();
        await card.ClickAsync(
            new LocatorClickOptions
            {
                Position = new Position { X = 20, Y = 20 },
            }
        );
        await Expect(page.Locator("h1")).ToHaveTextAsync(name!);
        await page.GotoAsync(Url("/defects"));
        var row = page.Locator("tbody tr").Nth(4);
        var kind = await row.Locator("td").Nth(1).TextContentAsync();
        await row.Locator("td").Nth(1).ClickAsync(new LocatorClickOptions { Force = true });
        Assert.StartsWith(Url("/defects?defect="), page.Url);
        await Expect(page.Locator("dl")).ToContainTextAsync(kind!);
    }

    [Fact]
    public async Task Beside_its_list_a_record_changes_alone_and_its_address_is_enough()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/inspectors/4afab698-b6ba-42a5-9e12-a7197a665ded"));
        await Expect(page.Locator(".index li.current")).ToHaveTextAsync("Corin Maddern");
        await page.EvaluateAsync("() => { document.querySelector('.index').dataset.kept = 'yes'; }");
        await page.Locator(".index").GetByText("Greta Lindqvale").ClickAsync();
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Greta Lindqvale");
        await Expect(page.Locator(".index li.current")).ToHaveTextAsync("Greta Lindqvale");
        Assert.Equal("yes", await page.Locator(".index").GetAttributeAsync("data-kept"));
        Assert.StartsWith("Greta Lindqvale", await page.TitleAsync());
        var address = page.Url;
        await page.GoBackAsync();
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Corin Maddern");
        await Expect(page.Locator(".index li.current")).ToHaveTextAsync("Corin Maddern");
        await page.GoForwardAsync();
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Greta Lindqvale");
        await page.ReloadAsync();
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Greta Lindqvale");
        Assert.Equal(address, page.Url);
        await page.Context.CloseAsync();

        // Without scripts it is ordinary links; a bad ID keeps the list.
        var plain = await PlainAsync();
        await plain.GotoAsync(address);
        await plain.Locator(".index").GetByText("Hob Tarrant").ClickAsync();
        await Expect(plain.Locator("#record h1")).ToHaveTextAsync("Hob Tarrant");
        await Expect(plain.Locator(".index a[aria-current=true]")).ToHaveTextAsync("Hob Tarrant");
        foreach (var (id, status) in new[] { ("nobody", 400), ("4afab698-b6ba-42a5-9e12-a7197a665dee", 404) })
        {
            Assert.Equal(status, (await plain.GotoAsync(Url("/inspectors/" + id)))!.Status);
            await Expect(plain.Locator(".index li")).ToHaveCountAsync(12);
            await Expect(plain.Locator(".index [aria-current]")).ToHaveCountAsync(0);
        }
    }

    [Fact]
    public async Task Beside_its_list_the_last_click_wins_whatever_order_answers_come_in()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/inspectors/4afab698-b6ba-42a5-9e12-a7197a665ded"));
        var held = new TaskCompletionSource();
        var slow = await page.Locator(".index a", new PageLocatorOptions { HasText = "Ansel Thorrowby" })
            .GetAttributeAsync("href");
        await page.RouteAsync(
            url => url.Contains(slow!.Split('?')[0], StringComparison.Ordinal),
            async route =>
            {
                await held.Task;
                try
                {
                    await route.ContinueAsync();
                }
                catch (PlaywrightException)
                {
                    // It was given up meanwhile, which is what is wanted.
                }
            }
        );
        await page.Locator(".index").GetByText("Ansel Thorrowby").ClickAsync();
        await Expect(page.Locator("#record[aria-busy]")).ToHaveCountAsync(1);
        await page.Locator(".index").GetByText("Edda Ravensko").ClickAsync();
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Edda Ravensko");
        held.SetResult();
        await page.WaitForTimeoutAsync(300);
        await Expect(page.Locator("#record h1")).ToHaveTextAsync("Edda Ravensko");
        await Expect(page.Locator("#record[aria-busy]")).ToHaveCountAsync(0);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task JSON_tells_as_much_as_the_page()
    {
        var list = await JsonAsync("/bridges?kind=arch&find=mill&order=-name&size=20");
        Assert.Equal(
            ("mill", "-name", 20),
            (list.GetProperty("find").GetString(), list.GetProperty("order").GetString(), list.GetProperty("size").GetInt32())
        );
        Assert.Equal(
            ["Kind", "Status"],
            list.GetProperty("sides").EnumerateArray().Select(side => side.GetProperty("title").GetString())
        );
        var record = await JsonAsync("/bridges/7");
        Assert.Equal(
            ["span", "inspection", "photo", "gauge"],
            record.GetProperty("related").EnumerateArray().Select(block => block.GetProperty("record").GetString())
        );
        Assert.Equal("/bridges/7/spans", record.GetProperty("related")[0].GetProperty("all").GetString());
        Assert.Equal(
            "/_jexa/pictures/bridge/photo/7",
            record.GetProperty("fields").GetProperty("photo").GetProperty("address").GetString()
        );
        Assert.False(record.GetProperty("fields").TryGetProperty("toll_site", out _));
        Assert.StartsWith("/bridges/", record.GetProperty("next").GetString());
        Assert.Equal(
            ["Districts", "Café Row"],
            record.GetProperty("trail").EnumerateArray().Select(step => step.GetProperty("text").GetString()!.Normalize())
        );
        Assert.Equal("shown", (await JsonAsync("/about")).GetProperty("outcome").GetString());
    }

    [Fact]
    public async Task A_missing_picture_is_named_and_a_picture_is_seen_where_its_record_is()
    {
        Assert.Contains("bridge-0003.svg <span class=\"none\">is missing</span>", (await Service.GetAsync("/bridges/3")).Body);
        Assert.Equal(404, (await Service.GetAsync("/_jexa/pictures/bridge/photo/3")).Status);
        var picture = await Service.GetAsync("/_jexa/pictures/bridge/photo/7");
        Assert.Equal(
            (200, "image/svg+xml", "default-src 'none'; style-src 'unsafe-inline'; sandbox"),
            (picture.Status, picture.Header("Content-Type"), picture.Header("Content-Security-Policy"))
        );
        Assert.Equal(
            304,
            (await Service.GetAsync("/_jexa/pictures/bridge/photo/7", $"If-None-Match: {picture.Header("ETag")}\r\n")).Status
        );
        foreach (
            var other in new[]
            {
                "/bridge/photo/13",
                "/bridge/photo/99999",
                "/bridge/photo/007",
                "/bridge/photo/x",
                "/bridge/name/7",
                "/district/photo/7",
                "/bridge/photo/7/8",
                "/bridge/photo/",
            }
        )
            Assert.Equal(404, (await Service.GetAsync("/_jexa/pictures" + other)).Status);
        Assert.Equal(405, (await Service.GetAsync("/_jexa/pictures/bridge/photo/7", method: "POST")).Status);
    }

    private async Task<IPage> PlainAsync() =>
        await (await browser.Chromium.NewContextAsync(new BrowserNewContextOptions { JavaScriptEnabled = false })).NewPageAsync();

    private async Task<JsonElement> JsonAsync(string target)
    {
        using var document = JsonDocument.Parse((await Service.GetJsonAsync(target)).Body);
        return document.RootElement.Clone();
    }
}
