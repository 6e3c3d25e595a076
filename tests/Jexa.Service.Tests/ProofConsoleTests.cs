using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.Playwright;
using static Microsoft.Playwright.Assertions;

namespace Jexa.Service.Tests;

/// <summary>Proofs made by the running service: begun, watched, stopped and read in the console, and kept.</summary>
public sealed class ProofConsoleTests(Browser browser)
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          thing: { from: s.thing, label: name }
          part: { from: s.part, label: name }
        pages:
          things: { path: /things, list: thing }
          thing: { path: "/things/{id}", detail: thing, related: [part] }
          part: { path: "/parts/{id}", detail: part }
        """;

    private static AppFolder Folder()
    {
        var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
            CREATE TABLE part (id INTEGER PRIMARY KEY, name TEXT NOT NULL, thing_id INTEGER REFERENCES thing (id));
            WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000)
              INSERT INTO thing SELECT i, 'thing ' || i FROM n;
            WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000)
              INSERT INTO part SELECT i, 'part ' || i, i FROM n;
            PRAGMA foreign_keys = off;
            UPDATE part SET thing_id = 90000 WHERE id IN (7, 70);
            """
        );
        folder.Write("app.yaml", App);
        return folder;
    }

    private Task<IPage> OpenAsync(string path, RunningService service) => ConsoleTests.OpenAsync(browser, path, service);

    private static ILocator Begin(IPage page, string means) =>
        page.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = $"Begin the {means}" });

    [Fact]
    public async Task A_sweep_is_begun_in_the_console_and_its_findings_stand_at_their_place()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/proofs", service);
        await Expect(page.GetByText("No proof was made yet")).ToBeVisibleAsync();
        await page.GetByLabel("Records to compare with their pages").FillAsync("20");
        await Begin(page, "sweep").ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "sweep 1" }).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Sweep 1: 1 warning");
        var finding = page.Locator(".finding");
        await Expect(finding).ToContainTextAsync("Warning JX801");
        await Expect(finding).ToContainTextAsync("thing_id of some parts names a thing that is not there. Met 2 times.");
        await Expect(page.Locator("main")).ToContainTextAsync("20 records asked for");
        await finding.GetByText("The query that finds them").ClickAsync();
        await Expect(finding.Locator("details pre")).ToContainTextAsync("SELECT");
        await finding.GetByRole(AriaRole.Link, new LocatorGetByRoleOptions { Name = "line 5" }).ClickAsync();
        await Expect(page.Locator(".file li[aria-current=true]")).ToContainTextAsync("JX801");

        // The address of a report can be sent to somebody.
        var again = await OpenAsync("/proofs/1", service);
        await Expect(again.Locator("h1")).ToHaveTextAsync("Sweep 1: 1 warning");
        var file = await again.RunAndWaitForDownloadAsync(() =>
            again.GetByRole(AriaRole.Button, new PageGetByRoleOptions { Name = "SARIF" }).ClickAsync()
        );
        Assert.Equal("proof-1.sarif", file.SuggestedFilename);
        var sarif = JsonDocument.Parse(await File.ReadAllTextAsync(await file.PathAsync())).RootElement;
        Assert.Equal("2.1.0", sarif.GetProperty("version").GetString());
    }

    [Fact]
    public async Task A_slow_sweep_shows_how_far_it_is_is_stopped_and_gone_on_with()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        var page = await OpenAsync("/proofs", service);
        await page.GetByLabel("Rows a second").FillAsync("500");
        await Begin(page, "sweep").ClickAsync();
        var running = page.Locator(".running");
        await Expect(running).ToContainTextAsync("of about");
        await Expect(running).ToContainTextAsync("to go");
        var bar = running.GetByRole(AriaRole.Progressbar);
        await Expect(bar).ToHaveAttributeAsync("max", new Regex("^[69]000$"));
        // Meanwhile the pages are served, and no second proof begins.
        await service.ServesAsync("/things/1");
        Assert.Equal(409, (await service.ManageAsync("proofs", new { means = "check" })).Status);
        await running.GetByRole(AriaRole.Button, new LocatorGetByRoleOptions { Name = "Stop" }).ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "sweep 1" }).ClickAsync();
        await Expect(page.Locator("main")).ToContainTextAsync("it was stopped");

        await ConsoleTests.GoAsync(page, "/proofs", service);
        await page.GetByLabel("Go on where the last one was stopped").CheckAsync();
        await Begin(page, "sweep").ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "sweep 2" }).ClickAsync();
        await Expect(page.Locator("h1")).ToHaveTextAsync("Sweep 2: 1 warning");
        await Expect(page.Locator("main")).ToContainTextAsync("Seen: 6,000 records");
    }

    [Fact]
    public async Task A_probe_has_its_board_and_a_report_tells_what_has_changed_since_the_last()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        foreach (var means in new[] { "probe", "check", "sweep" })
        {
            Assert.Equal(200, (await service.ManageAsync("proofs", new { means, rate = 5000 })).Status);
            await service.EndOfProofAsync();
        }

        var page = await OpenAsync("/proofs/1", service);
        var board = page.GetByRole(AriaRole.Region, new PageGetByRoleOptions { Name = "Pages and IDs" });
        await Expect(board.GetByRole(AriaRole.Row).Filter(new LocatorFilterOptions { HasText = "thing" }).Last)
            .ToContainTextAsync("hold");
        foreach (var (width, scheme) in Browser.Looks)
        {
            var look = await browser.OpenAsync(width, scheme);
            foreach (var path in new[] { "/proofs", "/proofs/1", "/proofs/3" })
            {
                await ConsoleTests.GoAsync(look, path, service);
                await Expect(look.Locator("main h1")).ToBeVisibleAsync();
                await Browser.AssertFitAsync(look);
                // Each name of the menu stands on one line.
                Assert.InRange(
                    await look.Locator(".top nav a")
                        .EvaluateAllAsync<double>(
                            "links => Math.max(...links.map((link) => link.getBoundingClientRect().height))"
                        ),
                    10,
                    45
                );
            }

            await look.Context.CloseAsync();
        }

        folder.MakeDatabase("UPDATE part SET thing_id = 7 WHERE thing_id = 90000; UPDATE thing SET name = ' ' WHERE id = 5;");
        await service.ManageAsync("proofs", new { means = "sweep" });
        Assert.Equal(4, await service.EndOfProofAsync());
        await ConsoleTests.GoAsync(page, "/proofs/4", service);
        await Expect(page.Locator("main")).ToContainTextAsync("1 new, 0 known, 1 gone (JX801 part.thing_id)");

        // The history outlives the service.
        await service.EndAsync();
        await service.RestartAsync();
        var (status, kept) = await service.ManageAsync("proofs");
        Assert.Equal((200, 4), (status, kept.GetProperty("reports").GetArrayLength()));
    }

    [Fact]
    public async Task An_audit_of_another_application_is_made_and_wrong_orders_are_refused()
    {
        using var folder = Folder();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        using var bed = new AuditBed("always the first record");
        var page = await OpenAsync("/proofs", service);
        await page.GetByLabel("Address of a list").FillAsync("bridges");
        await Begin(page, "audit").ClickAsync();
        await Expect(page.GetByRole(AriaRole.Alert)).ToHaveTextAsync("“bridges” is not a web address.");
        await page.GetByLabel("Address of a list").FillAsync(bed.Url + "bridges");
        await page.Locator("form", new PageLocatorOptions { HasText = "Begin the audit" })
            .GetByLabel("Requests a second")
            .FillAsync("1000");
        await Begin(page, "audit").ClickAsync();
        await page.GetByRole(AriaRole.Link, new PageGetByRoleOptions { Name = "audit 1" }).ClickAsync();
        var same = page.Locator(".finding", new PageLocatorOptions { HasText = "JX902" });
        await Expect(same.Locator("pre").First).ToContainTextAsync("curl -i");

        foreach (
            var order in new object[]
            {
                new { means = "guess" },
                new { means = "sweep", rate = 0 },
                new { means = "sweep", only = new[] { "thin" } },
                new { means = "audit" },
                new
                {
                    means = "audit",
                    url = bed.Url,
                    headers = new[] { "Cookie" },
                },
            }
        )
            Assert.Equal(400, (await service.ManageAsync("proofs", order)).Status);
        Assert.Equal(404, (await service.ManageAsync("proofs/99")).Status);
        Assert.Equal(404, (await service.ManageAsync("proofs/1/file?form=pdf")).Status);

        // What does not answer is told in the report.
        await service.ManageAsync("proofs", new { means = "audit", url = "http://127.0.0.1:1/list" });
        await service.EndOfProofAsync();
        var (_, silent) = await service.ManageAsync("proofs/2");
        Assert.Contains("refused", silent.GetProperty("notSeen")[0].GetProperty("why").GetString());

        // A service that ends in the middle of a proof ends in time.
        await service.ManageAsync("proofs", new { means = "sweep", rate = 100 });
        Assert.InRange((await service.EndAsync()).Took, TimeSpan.Zero, TimeSpan.FromSeconds(10));
    }
}
