using System.Text.RegularExpressions;

namespace Jexa.Service.Tests;

/// <summary>A page as it is designed before its table is there, and as it is developed.</summary>
public sealed class DesignedTests(Browser browser)
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records: { thing: { from: s.thing, label: name }, voyage: { from: s.voyage, label: port } }
        pages:
          things: { path: /things, list: thing, order: [name], links: [{ to: voyage, text: Its voyage, with: { number: id } }] }
          thing: { path: "/things/{id}", detail: thing }
          voyages: { path: /voyages, list: voyage, body: voyages.html }
          voyage: { path: "/voyages/{number}", detail: voyage, body: voyage.html }
        """;

    private const string List = """
        <!DOCTYPE html><html><head><style>h1 { color: red }</style></head><body><main>
        <h1>Voyages</h1>
        <ul><li itemprop="voyage" itemscope><a href="page:voyage"><b itemprop="port">Harwold</b></a></li><li>Another port</li></ul>
        <p><a href="page:things">Things</a> <a href="page:voyage">One</a></p>
        <form action="https://evil.example" onsubmit="x()"><input name="find"><button>Find</button></form>
        <script>document.title = 1</script>
        </main></body></html>
        """;

    private const string One = """
        <main><h1 itemprop="port">Harwold</h1><img itemprop="photo" src="a.png" alt="A {port}"><p>Sails at <time itemprop="sails_at">noon</time>.</p></main>
        """;

    private static AppFolder Make(string app = App)
    {
        var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        folder.Write("app.yaml", app);
        folder.Write("voyages.html", List);
        folder.Write("voyage.html", One);
        File.Copy(Repository.File("tests/pictures/bridge.png"), folder.File("a.png"));
        return folder;
    }

    [Fact]
    public async Task A_page_is_served_as_designed_until_its_table_is_there()
    {
        using var folder = Make();
        var check = await RunningService.RunAsync("check", folder.File("app.yaml"));
        Assert.Contains("warning JX212 There is no table “voyage” in the source “s” yet", check.Out);
        Assert.DoesNotContain(" error ", check.Out);
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));

        var list = await service.GetAsync("/voyages");
        Assert.Equal(200, list.Status);
        Assert.Contains("The table “voyage” is not there yet: this is the page as it was designed.", list.Body);
        Assert.Contains("<b itemprop=\"port\">Harwold</b>", list.Body);
        Assert.Contains("<li>Another port</li>", list.Body);
        Assert.Contains("<a href=\"/things\">Things</a> <a>One</a>", list.Body);

        // Nothing runs, and nothing can be sent.
        Assert.DoesNotContain("evil", list.Body);
        Assert.DoesNotContain("onsubmit", list.Body);
        Assert.DoesNotContain("document.title", list.Body);
        Assert.Contains("<button type=\"button\">", list.Body);
        Assert.Equal(405, (await service.GetAsync("/voyages", "", "POST")).Status);

        // Links lead to it, the menu too; any ID is shown; what it uses is served.
        var things = (await service.GetAsync("/things")).Body;
        Assert.Contains("href=\"/voyages/2\"", things);
        Assert.Contains("<a href=\"/voyages\">Voyages</a>", things);
        var one = await service.GetAsync("/voyages/7");
        Assert.Contains("<h1 itemprop=\"port\">Harwold</h1>", one.Body);
        var picture = Regex.Match(one.Body, "src=\"(/_jexa/app/files/[^\"]+)\"").Groups[1].Value;
        Assert.Equal(200, (await service.GetAsync(picture)).Status);
        Assert.Contains("\"outcome\":\"shown\"", (await service.GetJsonAsync("/voyages/7")).Body);

        // A look at it notices the table.
        folder.MakeDatabase(
            "CREATE TABLE voyage (number INTEGER PRIMARY KEY, port TEXT NOT NULL, photo TEXT, sails_at TEXT); "
                + "INSERT INTO voyage VALUES (7, 'Ellersee', NULL, 'midnight')"
        );
        // What could not be known before is a finding now: the last good site stays until it is mended.
        const string guessed = ", links: [{ to: voyage, text: Its voyage, with: { number: id } }]";
        folder.Write("app.yaml", App.Replace("label: port }", "label: port, fields: { photo: { as: image, under: . } } }"));
        var found = await RunningService.RunAsync("check", folder.File("app.yaml"));
        Assert.Contains("voyages.html:4:37 error JX703 The page “voyage” needs number", found.Out);
        Assert.Contains("error JX510 The link fills number of “voyage” from id", found.Out);
        Assert.Contains("as it was designed", (await service.GetAsync("/voyages/7")).Body);
        folder.Write("voyages.html", List.Replace("<a href=\"page:voyage\">One</a>", ""));
        folder.Write(
            "app.yaml",
            App.Replace(guessed, "").Replace("label: port }", "label: port, fields: { photo: { as: image, under: . } } }")
        );
        for (var tries = 0; tries < 100 && !(await service.GetAsync("/voyages/7")).Body.Contains("Ellersee"); tries++)
            await Task.Delay(100);
        one = await service.GetAsync("/voyages/7");
        Assert.Contains("<h1>Ellersee</h1>", one.Body);
        Assert.Contains("midnight", one.Body);
        Assert.Equal(404, (await service.GetAsync("/voyages/8")).Status);
    }

    [Fact]
    public async Task A_name_that_is_nearly_a_table_is_a_mistake_and_so_is_a_page_without_a_design()
    {
        using var folder = Make(App.Replace("s.voyage", "s.thin"));
        Assert.Contains("JX205", (await RunningService.RunAsync("check", folder.File("app.yaml"))).Out);
        folder.Write("app.yaml", App.Replace(", body: voyages.html", ""));
        Assert.Contains("JX205", (await RunningService.RunAsync("check", folder.File("app.yaml"))).Out);
    }

    [Fact]
    public async Task The_names_of_fields_are_shown_on_demand_and_a_saved_file_is_shown_at_once()
    {
        using var folder = Make();
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"), "--fresh");
        var page = await browser.OpenAsync();
        await page.GotoAsync(service.PagesUrl + "voyages/7");
        const string name = "getComputedStyle(document.querySelector('h1'), '::after').content";
        await page.WaitForFunctionAsync($"{name} === 'none'");
        await page.GetByText("Show the names of fields").ClickAsync();
        await page.WaitForFunctionAsync($"{name}.includes('port')");

        folder.Write("voyage.html", One.Replace("Sails at", "Leaves at"));
        await page.GetByText("Leaves at").WaitForAsync();
        folder.Write("app.yaml", App.Replace("app: Things", "app: Ships"));
        await page.GetByText("Ships").First.WaitForAsync();
        await page.Context.CloseAsync();

        // Only then.
        using var plain = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.DoesNotContain("fresh.js", (await plain.GetAsync("/things")).Body);
        Assert.Equal(404, (await plain.GetAsync("/_jexa/fresh")).Status);
    }
}
