using AngleSharp.Html.Parser;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>Pages as they look: HTML, widths, palettes, keyboard. It is the same whatever server the data stand in.</summary>
public sealed class LookTests(DemoService demo, PostgresDemo postgres, MariaDbDemo mariaDb, Browser browser)
{
    private RunningService Service => demo.Service;

    private string Url(string path) => Service.PagesUrl.TrimEnd('/') + path;

    private async Task<IPage> PlainAsync(ColorScheme scheme = ColorScheme.Light)
    {
        var context = await browser.Chromium.NewContextAsync(
            new BrowserNewContextOptions
            {
                JavaScriptEnabled = false,
                ViewportSize = new ViewportSize { Width = 1280, Height = 800 },
                ColorScheme = scheme,
            }
        );
        return await context.NewPageAsync();
    }

    public static TheoryData<string> Pages { get; } =
    [
        "/bridges",
        "/bridges?kind=arch&kind=beam&find=a&order=-length_m",
        "/bridges?find=nothing-like-that",
        "/gallery",
        "/bridges/7",
        "/bridges/1",
        "/bridges/3",
        "/districts",
        "/districts/l%C3%B8kke",
        "/districts/l%C3%B8kke/bridges?opened_from=1900-01-01",
        "/districts/nowhere/bridges",
        "/inspections?year=2020",
        "/inspections?year=2020&month=3",
        "/inspections",
        "/inspections/verdicts/repair",
        "/inspectors/4afab698-b6ba-42a5-9e12-a7197a665ded",
        "/inspectors/nobody",
        "/inspectors/4afab698-b6ba-42a5-9e12-a7197a665dee",
        "/bridges/7/spans",
        "/bridges/7/inspections",
        "/bridges/7/spans/1",
        "/defects",
        "/defects?severity=3",
        "/defects?defect=5",
        "/defects?defect=5&severity=3",
        "/tallies",
        "/tallies/new",
        "/about",
        "/no/such/page",
        "/bridges?size=7",
        "/photos/3",
        "/districts/q%3F-hill",
        "/bridges/abc",
        "/bridges?lacking=lookup.code",
        "/nothing",
    ];

    [Theory]
    [MemberData(nameof(Pages))]
    public async Task Every_page_is_valid_and_fit_for_all_in_each_width_and_palette(string path)
    {
        var body = (await Service.GetAsync(path)).Body;
        var document = new HtmlParser(new HtmlParserOptions { IsStrictMode = true }).ParseDocument(body);
        Assert.Single(document.QuerySelectorAll("h1"));
        Assert.Equal(
            document.QuerySelectorAll("[id]").Length,
            document.QuerySelectorAll("[id]").Select(element => element.Id).Distinct().Count()
        );
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url(path));
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();
    }

    [Theory]
    [MemberData(nameof(Pages))]
    public async Task Every_page_is_of_the_same_elements_whatever_server_its_data_stand_in(string path)
    {
        var expected = await ElementsAsync(Service);
        Assert.Equal(expected, await ElementsAsync(postgres.Service));
        Assert.Equal(expected, await ElementsAsync(mariaDb.Service));

        // Texts are not compared: cursors differ, and a mean has more digits in one source than in another.
        // A slow count is kept for a minute, and the page says so: that depends on the machine alone.
        async Task<string> ElementsAsync(RunningService service)
        {
            var body = (await service.GetAsync(path)).Body;

            // A block of another service's may be late on a busy machine.
            for (var left = 40; left > 0 && body.Contains("cannot be shown just now", StringComparison.Ordinal); left--)
            {
                await Task.Delay(250);
                body = (await service.GetAsync(path)).Body;
            }

            var document = new HtmlParser().ParseDocument(body);
            return string.Join(
                ' ',
                document
                    .QuerySelectorAll("*")
                    .Where(element => element.TextContent != "Counted within the last minute.")
                    .Select(element => $"{element.LocalName}.{element.ClassName}")
            );
        }
    }

    [Fact]
    public async Task A_Markdown_value_reads_as_one_column_beside_its_name()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE TABLE note (id INTEGER PRIMARY KEY, name TEXT, story TEXT);
            INSERT INTO note VALUES (1, 'One', 'First words.' || char(10, 10) || '- a point' || char(10, 10) || 'Last words.');
            """
        );
        folder.Write(
            "app.yaml",
            """
            app: Notes
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { note: { from: s.note, label: name, fields: { story: { as: markdown } } } }
            pages: { notes: { path: /notes, list: note }, note: { path: "/notes/{id}", detail: note } }
            """
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await PlainAsync();
        await page.GotoAsync($"{service.PagesUrl}notes/1");
        var name = await page.GetByText("Story", new PageGetByTextOptions { Exact = true }).BoundingBoxAsync();
        var first = await page.GetByText("First words.").BoundingBoxAsync();
        var point = await page.GetByText("a point").BoundingBoxAsync();
        var last = await page.GetByText("Last words.").BoundingBoxAsync();
        Assert.True(first!.X > name!.X + 100, "The value stands beside its name.");
        Assert.Equal(first.X, last!.X);
        Assert.True(first.Y < point!.Y && point.Y < last.Y, "Its parts stand below each other.");
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task The_keyboard_reaches_the_content_the_menu_and_the_records()
    {
        var page = await PlainAsync();
        await page.GotoAsync(Url("/bridges"));
        var reached = new List<string>();
        var name = await page.Locator("tbody a").First.TextContentAsync();
        while (reached.Count < 40 && reached.LastOrDefault() != name)
        {
            await page.Keyboard.PressAsync("Tab");
            reached.Add((await page.Locator(":focus").TextContentAsync())!);
        }

        // Past the menu, the search and the headings.
        Assert.Equal(["Skip to the content", "Alder Valley bridge register", "Bridges", "Gallery"], reached[..4]);
        Assert.Equal(["Show", "Name", "Code"], reached[^8..^5]);
        await page.Keyboard.PressAsync("Enter");
        await Assertions.Expect(page.Locator("h1")).ToHaveTextAsync(name!);
    }

    [Fact]
    public async Task Dark_mode_is_dark()
    {
        var page = await PlainAsync(ColorScheme.Dark);
        await page.GotoAsync(Url("/bridges"));
        Assert.Equal(
            "rgb(20, 25, 27)",
            await page.Locator("body").EvaluateAsync<string>("element => getComputedStyle(element).backgroundColor")
        );
    }
}
