using System.Text.RegularExpressions;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>Whole journeys through the screens where pages are made, in a real browser.</summary>
public sealed class WorkshopTests(Browser browser)
{
    private const string Schema = """
        CREATE TABLE district (code TEXT PRIMARY KEY, name TEXT NOT NULL);
        CREATE TABLE bridge (id INTEGER PRIMARY KEY, name TEXT NOT NULL, district TEXT REFERENCES district (code), built INTEGER);
        INSERT INTO district VALUES ('n/w', 'North-West'), ('s', 'South');
        INSERT INTO bridge VALUES (7, 'Oak Bridge', 'n/w', 1901), (8, 'Elm Bridge', 's', 1950), (9, 'Ash Bridge', NULL, NULL);
        """;

    private const string App = """
        # A small register.
        app: Register
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          bridge: { from: s.bridge, label: name }
          district: { from: s.district, label: name }   # no pages yet

        pages:
          bridges:
            path: /bridges
            list: bridge        # all of them
            show: [name, district, built]
          bridge: { path: "/bridges/{id}", detail: bridge }

        """;

    private static AppFolder Folder()
    {
        var folder = new AppFolder();
        folder.MakeDatabase(Schema);
        folder.Write("app.yaml", App);
        return folder;
    }

    private Task<IPage> OpenAsync(string path, RunningService service) => ConsoleTests.OpenAsync(browser, path, service);

    private static ILocator Button(IPage page, string name) =>
        page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = name, Exact = true });

    private static ILocator Link(IPage page, string name) =>
        page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = name, Exact = true });

    private static ILocator Field(IPage page, string label) => page.GetByLabel(label, new PageGetByLabelOptions { Exact = true });

    private static IFrameLocator Preview(IPage page) => page.FrameLocator("iframe[title='Preview of the page']");

    private static string Text(AppFolder folder) => File.ReadAllText(folder.File("app.yaml"));

    [Fact]
    public async Task From_a_table_to_linked_pages_seen_tried_and_saved()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make", service);
        await Field(page, "Record").First.SelectOptionAsync(new SelectOptionValue { Label = "district (no pages yet)" });
        await Button(page, "Make the pages").ClickAsync();

        // The first of the new pages is open beside its form, with real records.
        await Expect(page.Locator("h1")).ToHaveTextAsync("districts");
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("Districts");
        await Expect(Preview(page).Locator("tbody tr")).ToHaveCountAsync(2);
        Assert.Equal(App, Text(folder));
        Assert.Equal(404, (await service.GetAsync("/districts")).Status);

        // The heading follows what is typed.
        await Button(page, "Heading").ClickAsync();
        await Field(page, "Title").FillAsync("The valley");
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("The valley");

        // One uses the page: the link leads to the record, and the form says whose page it is.
        await Preview(page).GetByRole(AriaRole.Link, new FrameLocatorGetByRoleOptions { Name = "North-West" }).ClickAsync();
        await Expect(Field(page, "Address in the preview")).ToHaveValueAsync(new Regex("^/districts/n%2Fw"));
        await Link(page, "Change this page").ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("district");

        // It is stepped through records, and tried with bad IDs.
        await page.GetByLabel("Try an ID").SelectOptionAsync("unknown code");
        await Expect(page.Locator(".address-line .outcome")).ToHaveTextAsync("unknown");
        await Button(page, "Next").ClickAsync();
        await Expect(page.Locator(".address-line .outcome")).ToHaveTextAsync("found");
        await page.ReloadAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("district");

        // So is a list with nothing in it.
        await page.GotoAsync(page.Url.Replace("/make/pages/district?", "/make/pages/districts?"));
        await page.GetByLabel("Try an ID").SelectOptionAsync("no records");
        await Expect(Preview(page).Locator("main")).ToContainTextAsync("There are no districts");
        await Expect(Preview(page).Locator("tbody tr")).ToHaveCountAsync(0);

        // Undone and made again, then saved and live.
        await Button(page, "Undo").ClickAsync();
        await Button(page, "Redo").ClickAsync();
        await Link(page, "Compare and save").ClickAsync();
        await Expect(page.Locator(".difference")).ToContainTextAsync("title: The valley");
        await Button(page, "Save").ClickAsync();
        await Expect(page.GetByText("The service takes it up now.")).ToBeVisibleAsync();
        Assert.StartsWith(App.TrimEnd(), Text(folder));
        await Expect(page.Locator("main table").GetByText("the file as it is")).ToBeVisibleAsync();
        await service.ServesAsync("/districts", "<h1>The valley</h1>");
        Assert.Equal(200, (await service.GetAsync("/districts/n%2Fw/edit")).Status);
    }

    [Fact]
    public async Task A_column_that_is_pointed_at_becomes_a_link_and_a_wrong_parameter_is_mended_by_one_click()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make/pages/bridges", service);
        await Expect(Preview(page).Locator("tbody tr")).ToHaveCountAsync(3);

        // A click on a column opens what can be done with it, and changes nothing.
        await page.GetByText("Point", new PageGetByTextOptions { Exact = true }).ClickAsync();
        await Preview(page).Locator("thead th").Nth(1).ClickAsync();
        var card = page.GetByRole(AriaRole.Region, new PageGetByRoleOptions { Name = "The field district" });
        await Expect(card).ToBeVisibleAsync();
        await Expect(page.Locator(".work-bar")).ToHaveCountAsync(0);

        // It leads to a page that is not there yet, which is made from here.
        await page.GetByLabel("Lead from district to").SelectOptionAsync("bridge");
        await Field(page, "To").FillAsync("district");
        var make = page.GetByRole(AriaRole.Form, new PageGetByRoleOptions { Name = "Make the page district" });
        await Expect(make).ToBeVisibleAsync();
        await make.GetByLabel("Make it a").SelectOptionAsync("detail");
        await make.GetByLabel("of", new LocatorGetByLabelOptions { Exact = true }).SelectOptionAsync("district");
        await make.GetByRole(AriaRole.Button).ClickAsync();

        // At once the addresses are shown that the link makes, and what each comes to.
        await Expect(page.Locator(".link-facts")).ToContainTextAsync("/district/n%2Fw");
        await Expect(page.Locator(".link-facts .outcome").First).ToHaveTextAsync("found");

        // A parameter by a wrong name is found at that very place.
        var open = page.Locator(".part[data-open=true]");
        await page.GetByLabel("Say more").First.SelectOptionAsync("with");
        await Field(page, "code").FillAsync("district");
        await Expect(page.Locator(".link-facts")).ToContainTextAsync("code ← district");
        await ConsoleTests.GoAsync(page, "/text", service);
        var editor = page.Locator(".cm-content");
        await Expect(editor).ToContainTextAsync("with: { code: district }");
        await ReplaceInEditorAsync(page, "{ code: district }", "{ cod: district }");
        await Expect(page.Locator("main")).ToContainTextAsync("passes “cod”");
        await ConsoleTests.GoAsync(page, "/make/pages/bridges?part=links", service);
        await Button(page, "Write code").ClickAsync();
        // What is left is a warning: the field may be empty.
        await Expect(open.Locator(".finding")).ToHaveCountAsync(1);
        await Expect(open.Locator(".finding")).ToContainTextAsync("may be empty");
        await Link(page, "Compare and save").ClickAsync();
        await Button(page, "Save").ClickAsync();
        await Expect(page.GetByText("The service takes it up now.")).ToBeVisibleAsync();
        await service.ServesAsync("/bridges", "href=\"/district/n%2Fw\"");
        Assert.Contains("list: bridge        # all of them\n", Text(folder));
    }

    [Fact]
    public async Task Text_and_forms_are_two_views_of_one_working_copy()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var text = await OpenAsync("/text", service);
        await Expect(text.Locator(".cm-content")).ToContainTextAsync("# A small register.");
        var form = await text.Context.NewPageAsync();
        await ConsoleTests.GoAsync(form, "/make/pages/bridges?part=show", service);

        // A field moved in the form moves in the text of the other console; what is typed there shows in the form.
        await Button(form, "Move built up").ClickAsync();
        await Expect(text.Locator(".cm-content")).ToContainTextAsync("show: [name, built, district]");
        await Expect(Preview(form).Locator("thead th").Nth(1)).ToHaveTextAsync("Built");
        await ReplaceInEditorAsync(text, "app: Register", "app: Rivers");
        await Expect(Preview(form).Locator("a.app")).ToHaveTextAsync("Rivers");

        // Both change at the same moment, in different places: nothing of either is lost.
        await AtEndAsync(text, "# A small register.");
        await text.Keyboard.TypeAsync(" Typed");
        await Button(form, "Move district up").ClickAsync();
        await text.Keyboard.TypeAsync(" while the form changed.");
        await Expect(text.Locator(".cm-content")).ToContainTextAsync("show: [name, district, built]");
        await Expect(text.Locator(".cm-content")).ToContainTextAsync("register. Typed while the form changed.");
        await Expect(Preview(form).Locator("thead th").Nth(1)).ToHaveTextAsync("District");
        await form.Locator("a", new PageLocatorOptions { HasText = "Compare and save" }).ClickAsync();
        await Expect(form.Locator(".difference")).ToContainTextAsync("# A small register. Typed while the form changed.");
        await form.GoBackAsync();

        // What can be typed is offered: keys, and names of pages.
        await AtEndAsync(text, "detail: bridge");
        await text.Keyboard.TypeAsync(", neig");
        await Expect(text.Locator(".cm-tooltip-autocomplete")).ToContainTextAsync("neighbours");
        await TakeAsync(text);
        await text.Keyboard.TypeAsync("hid");
        await Expect(text.Locator(".cm-tooltip-autocomplete")).ToContainTextAsync("hidden");
        await TakeAsync(text);
        await Expect(Preview(form).Locator("h1")).ToBeVisibleAsync();
        await Expect(text.Locator(".work-bar")).ToContainTextAsync("typing");
        Assert.Empty(await Browser.FaultsAsync(text));

        // Half a file: the forms wait and name the line, the text goes on.
        await ReplaceInEditorAsync(text, "pages:", "pages: [");
        await Expect(form.Locator("h1")).ToHaveTextAsync("The text cannot be changed by forms as it is");
        await ReplaceInEditorAsync(text, "pages: [", "pages:");
        await Expect(form.Locator("h1")).ToHaveTextAsync("bridges");
        Assert.Equal(App, Text(folder));
    }

    [Fact]
    public async Task A_page_is_renamed_moved_and_removed_with_all_that_names_it()
    {
        using var folder = Folder();
        var links = string.Concat(
            Enumerable.Range(0, 20).Select(i => $"  list-{i}: {{ path: /l{i}, list: bridge, links: [{{ to: bridge }}] }}\n")
        );
        folder.Write("app.yaml", App.TrimEnd() + "\n" + links);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make/pages/bridge", service);
        await Button(page, "Rename").ClickAsync();
        await Field(page, "New name").FillAsync("span");
        await page.GetByRole(AriaRole.Form).GetByRole(AriaRole.Button).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("span");
        await Expect(page.Locator(".work-bar")).ToContainTextAsync("rename page bridge to span");
        await Button(page, "Move to another path").ClickAsync();
        await Field(page, "New path").FillAsync("/spans/{id}");
        await page.GetByRole(AriaRole.Form).GetByRole(AriaRole.Button).ClickAsync();
        await Expect(page.Locator("#part-was")).ToContainTextAsync("/bridges/{id}");
        await Link(page, "Compare and save").ClickAsync();
        await Expect(page.Locator(".difference tr[data-new=true]")).ToHaveCountAsync(21);
        await Button(page, "Save").ClickAsync();
        await Expect(page.GetByText("The service takes it up now.")).ToBeVisibleAsync();
        await service.ServesAsync("/l7", "href=\"/spans/7");
        Assert.Equal(301, (await service.GetAsync("/bridges/7")).Status);

        // What still leads to a removed page is said before anything is saved.
        await ConsoleTests.GoAsync(page, "/make/pages/span", service);
        await Button(page, "Remove").ClickAsync();
        await page.GetByRole(AriaRole.Form).GetByRole(AriaRole.Button).ClickAsync();
        await Link(page, "Compare and save").ClickAsync();
        await Expect(page.Locator("main")).ToContainTextAsync("/spans/{id}");
        await Button(page, "Drop the changes").ClickAsync();
        await Expect(page.GetByRole(AriaRole.Heading, new PageGetByRoleOptions { Name = "Nothing differs from the file" }))
            .ToBeVisibleAsync();
    }

    [Fact]
    public async Task A_file_changed_on_the_disk_is_merged_in_the_browser()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make/app?part=app", service);
        await Field(page, "App").FillAsync("Mine");
        await Expect(page.Locator(".work-bar")).ToContainTextAsync("Not saved: set app");
        folder.Write("app.yaml", App.Replace("app: Register", "app: Theirs"));
        await Expect(page.Locator(".work-bar")).ToContainTextAsync("The file was changed meanwhile.");
        await Link(page, "Compare and save").ClickAsync();
        await Expect(Button(page, "Save")).ToBeDisabledAsync();
        await Expect(Button(page, "Merge")).ToBeDisabledAsync();
        await page.GetByText("Mine", new PageGetByTextOptions { Exact = true }).First.ClickAsync();
        await Button(page, "Merge").ClickAsync();
        await Button(page, "Save").ClickAsync();
        await Expect(page.GetByText("The service takes it up now.")).ToBeVisibleAsync();
        Assert.Equal(App.Replace("app: Register", "app: Mine"), Text(folder));

        // The version before is kept, and comes back.
        var versions = page.GetByRole(AriaRole.Region, new PageGetByRoleOptions { Name = "Earlier versions" });
        await Expect(versions.GetByText("the file as it is")).ToHaveCountAsync(1);
        await versions.GetByRole(AriaRole.Link).Last.ClickAsync();
        await Expect(versions.Locator(".difference")).ToContainTextAsync("app: Register");
        await versions.GetByText("The whole of it").ClickAsync();
        await Expect(versions.Locator("details pre")).ToContainTextAsync("pages:");
        Assert.Empty(await Browser.FaultsAsync(page));
        await page.ReloadAsync();
        await Button(page, "Bring it back").ClickAsync();
        await Expect(page.Locator(".difference").First).ToContainTextAsync("app: Register");
        Assert.Contains("app: Mine", Text(folder));
    }

    [Fact]
    public async Task Pages_over_a_source_that_is_down_are_made_and_shown_when_it_is_back()
    {
        using var folder = Folder();
        folder.Write(
            "app.yaml",
            App.Replace("sources: {", "sources: { far: { engine: sqlite, connection: far.db },")
                .Replace("records:\n", "records:\n  part: { from: far.part, label: name }\n")
                .Replace("pages:\n", "pages:\n  parts: { path: /parts, list: part }\n")
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make/pages/parts?part=title", service);
        await Expect(page.Locator("main")).ToContainTextAsync("far");
        await Field(page, "Title").FillAsync("All parts");
        await Expect(page.Locator(".work-bar")).ToContainTextAsync("Not saved");
        Assert.Empty(await Browser.FaultsAsync(page));

        // Pages of the other source go on meanwhile.
        await ConsoleTests.GoAsync(page, "/make/pages/bridges", service);
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("Bridges");
        await ConsoleTests.GoAsync(page, "/query?source=far&query=SELECT%201", service);
        await Expect(page.GetByRole(AriaRole.Alert)).ToContainTextAsync("far.db");

        folder.MakeDatabase(
            "CREATE TABLE part (id INTEGER PRIMARY KEY, name TEXT); INSERT INTO part VALUES (1, 'bolt')",
            "far.db"
        );
        await ConsoleTests.GoAsync(page, "/make/pages/parts?part=title", service);
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("All parts");
        await Link(page, "Compare and save").ClickAsync();
        await Button(page, "Save").ClickAsync();
        await service.ServesAsync("/parts", "<h1>All parts</h1>");
    }

    [Fact]
    public async Task By_text_alone_from_nothing_to_linked_pages()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(Schema);
        using var service = await RunningService.StartAtAsync(folder.Path, "serve");
        var page = await OpenAsync("/text", service);
        await page.Locator(".cm-content").ClickAsync();
        await page.Keyboard.TypeAsync("app: Rivers");
        await LineAsync("sources:");
        await LineAsync("  s: { engine: sqlite, connection: data.db }");
        await LineAsync("records:");

        // What the database holds is offered as soon as the connection stands there.
        await LineAsync("  bridge: { from: s.bri");
        await Expect(page.Locator(".cm-tooltip-autocomplete")).ToContainTextAsync("s.bridge");
        await TakeAsync(page);
        await page.Keyboard.TypeAsync(", label: name }");
        await LineAsync("pages:");
        await LineAsync("  bridges: { path: /bridges, list: bridge, show: [nam");
        await Expect(page.Locator(".cm-tooltip-autocomplete")).ToContainTextAsync("name");
        await TakeAsync(page);
        await page.Keyboard.TypeAsync(", bilt] }");
        await LineAsync("  bridge: { path: \"/bridges/{id}\", detail: bridge }");

        // A mistake is told at its line, with the nearest name.
        var findings = page.GetByRole(AriaRole.Region, new PageGetByRoleOptions { Name = "Findings" });
        await Expect(findings).ToContainTextAsync("bilt");
        await Expect(findings).ToContainTextAsync("built");
        await ReplaceInEditorAsync(page, "bilt", "built");
        await Expect(findings).ToHaveCountAsync(0);
        await page.Keyboard.PressAsync("Escape");
        Assert.Empty(await Browser.FaultsAsync(page));

        await Link(page, "Compare and save").ClickAsync();
        await Button(page, "Save").ClickAsync();
        await service.ServesAsync("/bridges", "href=\"/bridges/7");
        Assert.Equal(200, (await service.GetAsync("/bridges/7")).Status);
        Assert.Equal(404, (await service.GetAsync("/bridges/99")).Status);
        Assert.Equal(400, (await service.GetAsync("/bridges/x")).Status);

        async Task LineAsync(string text)
        {
            await page.Keyboard.PressAsync("Enter");
            // The editor sets a line in by itself.
            await page.Keyboard.PressAsync("Shift+Home");
            await page.Keyboard.TypeAsync(text);
        }
    }

    [Fact]
    public async Task A_service_that_goes_and_comes_back_keeps_what_was_made()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/make/pages/bridges?part=title", service);
        await Field(page, "Title").FillAsync("Kept");
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("Kept");
        await service.EndAsync("KILL");
        await Expect(page.Locator("[role=status]").First).ToContainTextAsync("does not answer");
        await service.RestartAsync();
        await Expect(page.Locator(".work-bar")).ToContainTextAsync("Not saved");
        await Expect(Preview(page).Locator("h1")).ToHaveTextAsync("Kept");
        await Expect(Field(page, "Title")).ToHaveValueAsync("Kept");
    }

    /// <summary>Takes what is offered. The editor lets a key that was pressed as the offer came be a key of the text.</summary>
    private static async Task TakeAsync(IPage page)
    {
        await Task.Delay(200, TestContext.Current.CancellationToken);
        await page.Keyboard.PressAsync("Enter");
    }

    /// <summary>Replaces words in the editor, as a person with its search would.</summary>
    private static async Task ReplaceInEditorAsync(IPage page, string words, string by)
    {
        await AtEndAsync(page, words);
        for (var i = 0; i < words.Length; i++)
            await page.Keyboard.PressAsync("Shift+ArrowLeft");
        await page.Keyboard.InsertTextAsync(by);
    }

    /// <summary>Puts the cursor of the editor behind words.</summary>
    private static async Task AtEndAsync(IPage page, string words)
    {
        var line = page.Locator(".cm-line").Filter(new LocatorFilterOptions { HasText = words }).First;
        await line.ClickAsync();
        await page.Keyboard.PressAsync("Home");
        await page.Keyboard.PressAsync("Home");
        var text = (await line.TextContentAsync())!;
        // The first “Home” goes to the first letter of the line, the second to its beginning.
        var target = text.IndexOf(words, StringComparison.Ordinal) + words.Length;
        for (var i = 0; i < target; i++)
            await page.Keyboard.PressAsync("ArrowRight");
    }
}
