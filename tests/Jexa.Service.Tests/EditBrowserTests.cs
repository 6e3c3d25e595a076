using AngleSharp.Html.Parser;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>A copy of the demo that can be changed, with a service of its own.</summary>
public sealed class DemoCopy : IAsyncLifetime
{
    public AppFolder Folder { get; } = new();

    public RunningService Service { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        // The demo's own service makes its data at start.
        using (await RunningService.StartAsync("demo")) { }

        foreach (var file in Directory.EnumerateFiles(Repository.File("demo"), "*", SearchOption.AllDirectories))
        {
            var name = Path.GetRelativePath(Repository.File("demo"), file);
            if (
                Path.GetExtension(name) is not (".yaml" or ".md" or ".db" or ".svg" or ".html" or ".css")
                || name.StartsWith("bin", StringComparison.Ordinal)
                || name.StartsWith("obj", StringComparison.Ordinal)
            )
                continue;
            Directory.CreateDirectory(Path.GetDirectoryName(Folder.File(name))!);
            File.Copy(file, Folder.File(name));
        }

        Service = await RunningService.StartAsync("serve", Folder.File("bridges.yaml"), "--log", "none");
    }

    public ValueTask DisposeAsync()
    {
        Service.Dispose();
        Folder.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>Editing in Chromium, as somebody does who has never seen the app.</summary>
public class EditBrowserTests(DemoCopy demo, Browser browser) : IClassFixture<DemoCopy>
{
    private string Url(string path) => demo.Service.PagesUrl.TrimEnd('/') + path;

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_bridge_an_inspection_and_a_defect_are_added_changed_and_deleted(bool scripts)
    {
        var context = await browser.Chromium.NewContextAsync(
            new BrowserNewContextOptions
            {
                JavaScriptEnabled = scripts,
                ViewportSize = new ViewportSize { Width = 1280, Height = 800 },
            }
        );
        var page = await context.NewPageAsync();
        var code = scripts ? "AV-8001" : "AV-8002";
        await page.GotoAsync(Url("/bridges"));
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "New bridge" }).ClickAsync();
        await page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true }).FillAsync("Heron Crossing");
        await page.GetByLabel("Code").FillAsync(code);
        await page.GetByLabel("District").SelectOptionAsync(new SelectOptionValue { Label = "Løkke" });
        await page.GetByLabel("Kind").SelectOptionAsync("arch");
        await page.GetByLabel("River").FillAsync("Alder");
        await page.GetByLabel("Length (m)").FillAsync("31.5");
        await page.GetByLabel("Toll bridge").CheckAsync();
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add bridge" }).ClickAsync();
        await Expect(page.Locator(".said")).ToHaveTextAsync("Added: Heron Crossing.");
        await Expect(page.Locator("h1")).ToHaveTextAsync("Heron Crossing");
        var bridge = page.Url;
        await page.ReloadAsync();
        await Expect(page.Locator(".said")).ToHaveCountAsync(0);

        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Edit", Exact = true }).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Edit Heron Crossing");
        await page.GetByLabel("Opened").FillAsync("1901-02-03");
        await page.GetByLabel("Note").FillAsync("Two\nlines.");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator(".said")).ToHaveTextAsync("Saved: Heron Crossing.");
        await Expect(page.Locator(".record")).ToContainTextAsync("3 February 1901");
        await Expect(page.Locator(".record")).ToContainTextAsync("Yes");

        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Add an inspection" }).ClickAsync();
        await Expect(page.Locator(".decided")).ToHaveTextAsync("Heron Crossing");
        await page.GetByLabel("Verdict").SelectOptionAsync("watch");
        await page.GetByLabel("Score").FillAsync("61");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add inspection" }).ClickAsync();
        await Expect(page.Locator(".said")).ToContainTextAsync("Added: Inspection");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Edit", Exact = true }).ClickAsync();
        await page.GetByLabel("Score").FillAsync("62");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator(".record")).ToContainTextAsync("62");

        // A bridge with inspections stays; without, it goes, and its address says so.
        await page.GotoAsync(bridge + "/delete");
        await Expect(page.Locator(".hang")).ToContainTextAsync("1 inspection: as long as it is there, this cannot be deleted");
        await Expect(page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Delete this bridge" }))
            .ToHaveCountAsync(0);
        await page.GotoAsync(bridge);
        await page.Locator(".block")
            .Filter(new LocatorFilterOptions { HasText = "Inspections" })
            .Locator("tbody a")
            .First.ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Delete", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Delete this inspection" }).ClickAsync();
        await Expect(page.Locator(".said")).ToContainTextAsync("Deleted: Inspection");
        await page.GotoAsync(bridge + "/delete");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Delete this bridge" }).ClickAsync();
        await Expect(page.Locator(".said")).ToHaveTextAsync("Deleted: Heron Crossing.");
        await page.GotoAsync(bridge);
        await Expect(page.Locator("h1")).ToHaveTextAsync("This bridge is not there any more");

        // A defect: its span is looked for among many, by its bridge's name; a trigger has the last word.
        await page.GotoAsync(Url("/defects/new"));
        await page.GetByLabel("Find another for Span").FillAsync("oak footbridge");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Find" }).First.ClickAsync();
        await page.GetByLabel("Span", new PageGetByLabelOptions { Exact = true }).SelectOptionAsync("7/1");
        await page.GetByLabel("Kind").FillAsync("rust");
        await page.GetByLabel("Severity").SelectOptionAsync("2");
        await page.GetByLabel("Mended on").FillAsync("1999-01-01");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add defect" }).ClickAsync();
        await Expect(page.Locator(".faults li"))
            .ToHaveTextAsync("Mended on: Mended on must not be before the day it was reported.");
        await page.GetByLabel("Mended on").FillAsync("");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Add defect" }).ClickAsync();
        await Expect(page.Locator(".said")).ToContainTextAsync("Added: Defect");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Delete", Exact = true }).ClickAsync();
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Delete this defect" }).ClickAsync();
        await Expect(page.Locator(".said")).ToContainTextAsync("Deleted: Defect");
        await context.CloseAsync();
    }

    [Fact]
    public async Task Leaving_what_is_not_saved_is_asked_about()
    {
        var page = await browser.OpenAsync();
        var asked = 0;
        page.Dialog += async (_, dialog) =>
        {
            asked++;
            await dialog.AcceptAsync();
        };
        await page.GotoAsync(Url("/bridges/12/edit"));
        await page.GotoAsync(Url("/bridges/12/edit"));
        Assert.Equal(0, asked);
        await page.GetByLabel("River").FillAsync("Typed");
        await page.GotoAsync(Url("/bridges/12"));
        Assert.Equal(1, asked);

        // Saving and the link that says so are meant.
        await page.GotoAsync(Url("/bridges/12/edit"));
        await page.GetByLabel("River").FillAsync("Typed again");
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "Do not save" }).ClickAsync();
        await Expect(page.Locator("dl.record")).Not.ToContainTextAsync("Typed");
        await page.GotoAsync(Url("/bridges/12/edit"));
        await page.GetByLabel("River").FillAsync("Saved");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator(".said")).ToBeVisibleAsync();
        Assert.Equal(1, asked);

        // A form that came back unsaved is unsaved from the start.
        await page.GotoAsync(Url("/bridges/12/edit"));
        await page.GetByLabel("Code").FillAsync("AV-0007");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator(".faults")).ToBeVisibleAsync();
        await Expect(page.Locator("#f-code")).ToBeFocusedAsync();
        await page.ClickAsync("h1");
        await page.GotoAsync(Url("/bridges/12"));
        Assert.Equal(2, asked);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task The_button_cannot_be_pressed_while_it_saves_and_a_double_click_saves_once()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(Url("/bridges/14/edit"));
        var posts = 0;
        await page.RouteAsync("**/bridges/14/edit", async route =>
        {
            if (route.Request.Method == "POST")
                posts++;
            await Task.Delay(600);
            await route.ContinueAsync();
        });
        await page.GetByLabel("River").FillAsync("Double");
        var button = page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" });
        await button.DblClickAsync();
        await Expect(page.Locator(".said")).ToBeVisibleAsync();
        Assert.Equal(1, posts);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task Browsers_help_before_anything_is_sent()
    {
        var page = await browser.OpenAsync();
        var posts = 0;
        page.Request += (_, request) => posts += request.Method == "POST" ? 1 : 0;
        await page.GotoAsync(Url("/bridges/12/edit"));
        await page.GetByLabel("Name", new PageGetByLabelOptions { Exact = true }).FillAsync("");
        await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" }).ClickAsync();
        await Expect(page.Locator("#f-name")).ToBeFocusedAsync();
        Assert.Equal(0, posts);
        await page.Context.CloseAsync();
    }

    [Theory]
    [InlineData("edit")]
    [InlineData("faults")]
    [InlineData("conflict")]
    [InlineData("delete")]
    [InlineData("refused")]
    [InlineData("new")]
    [InlineData("search")]
    [InlineData("said")]
    [InlineData("gone")]
    public async Task Every_page_with_a_form_is_valid_and_fit_for_all_in_each_width_and_palette(string what)
    {
        var page = await browser.OpenAsync();
        await ShowAsync(page, what);
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();

        using var visitor = new Visitor(demo.Service.PagesUrl);
        if (what is "edit" or "delete" or "new")
        {
            var body = (await visitor.GetAsync(what == "new" ? "/bridges/new" : $"/bridges/21/{what}")).Body;
            var document = new HtmlParser(new HtmlParserOptions { IsStrictMode = true }).ParseDocument(body);
            Assert.Equal(
                document.QuerySelectorAll("[id]").Length,
                document.QuerySelectorAll("[id]").Select(element => element.Id).Distinct().Count()
            );
        }
    }

    /// <summary>Leads a page to where something is to be seen.</summary>
    private async Task ShowAsync(IPage page, string what)
    {
        var save = page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Save" });
        switch (what)
        {
            case "edit":
                await page.GotoAsync(Url("/bridges/21/edit"));
                break;
            case "new":
                await page.GotoAsync(Url("/inspections/new?bridge=7"));
                break;
            case "delete":
                await page.GotoAsync(Url("/inspections/5/delete"));
                break;
            case "refused":
                await page.GotoAsync(Url("/bridges/21/delete"));
                break;
            case "faults":
                await page.GotoAsync(Url("/bridges/21/edit"));
                await page.GetByLabel("Code").FillAsync("AV-0007");
                await save.ClickAsync();
                await Expect(page.Locator(".faults")).ToBeVisibleAsync();
                break;
            case "search":
                await page.GotoAsync(Url("/defects/new"));
                await page.GetByLabel("Find another for Span").FillAsync("oak");
                await page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "Find" }).First.ClickAsync();
                await Expect(page.Locator("#f--record-span_no option").Nth(1)).ToBeAttachedAsync();
                break;
            case "said":
                await page.GotoAsync(Url("/bridges/22/edit"));
                await page.GetByLabel("River").FillAsync($"River {Guid.NewGuid():N}");
                await save.ClickAsync();
                await Expect(page.Locator(".said")).ToBeVisibleAsync();
                break;
            case "gone":
                using (var program = new Visitor(demo.Service.PagesUrl))
                {
                    var made = await program.AddAsync("/new-district", "{\"fields\":{\"slug\":\"gone\",\"name\":\"Gone\"}}");
                    Assert.InRange(made.Status, 200, 201);
                    Assert.Equal(
                        204,
                        (await program.SendAsync(HttpMethod.Delete, "/districts/gone/delete", null, ("If-Match", "*"))).Status
                    );
                }

                await page.GotoAsync(Url("/districts/gone"));
                break;
            default:
                await page.GotoAsync(Url("/bridges/23/edit"));
                using (var program = new Visitor(demo.Service.PagesUrl))
                    Assert.Equal(
                        200,
                        (
                            await program.PatchAsync(
                                "/bridges/23/edit",
                                "{\"fields\":{\"river\":\"Theirs " + Guid.NewGuid().ToString("N") + "\",\"name\":\"Theirs\"}}",
                                "*"
                            )
                        ).Status
                    );
                await page.GetByLabel("River").FillAsync("Mine");
                await save.ClickAsync();
                await Expect(page.Locator(".clash").First).ToBeVisibleAsync();
                break;
        }
    }
}
