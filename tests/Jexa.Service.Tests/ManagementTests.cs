using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Jexa.Service.Tests;

/// <summary>The management API, as the console asks it.</summary>
public class ManagementTests(DemoService demo)
{
    private RunningService Service => demo.Service;

    [Fact]
    public async Task The_committed_document_is_the_one_that_is_served()
    {
        using var http = new HttpClient();
        var served = await http.GetStringAsync(
            new Uri(Service.ConsoleUrl + "openapi.json"),
            TestContext.Current.CancellationToken
        );
        Assert.True(
            JsonNode.DeepEquals(
                JsonNode.Parse(await File.ReadAllTextAsync(Repository.File("docs/management-api.json"))),
                JsonNode.Parse(served)
            ),
            "docs/management-api.json is out of date: put there what a running service answers to GET /openapi.json."
        );
    }

    [Fact]
    public async Task Each_page_says_which_links_lead_to_it()
    {
        var pages = (await AskAsync("pages")).AsArray();
        var district = pages.Single(page => (string?)page!["name"] == "district")!;
        Assert.Equal(
            Array.LastIndexOf(await File.ReadAllLinesAsync(Repository.File("demo/bridges.yaml")), "  district:") + 1,
            (int)district["line"]!
        );
        Assert.False((bool)district["inMenu"]!);
        var from = district["linkedFrom"]!.AsArray().Single(link => (string?)link!["page"] == "bridges")!;
        Assert.Equal(("district", "reference"), ((string?)from["column"], (string?)from["reason"]));
        Assert.Equal("""[{"parameter":"district","field":"district"}]""", from["passes"]!.ToJsonString());
        // What leads to a page is what the other page says it leads to.
        var sent = pages
            .SelectMany(page => page!["links"]!.AsArray().Select(link => $"{page["name"]} to {link!["page"]}"))
            .Order();
        var met = pages
            .SelectMany(page => page!["linkedFrom"]!.AsArray().Select(link => $"{link!["page"]} to {page["name"]}"))
            .Order();
        Assert.Equal(sent, met);
    }

    [Fact]
    public async Task Samples_lead_to_records_and_a_source_that_is_away_is_said_to_be()
    {
        foreach (var sample in (await AskAsync("samples")).AsArray())
        {
            if ((string?)sample!["page"] == "trial")
                continue;
            Assert.Equal(200, (await Service.GetJsonAsync((string)sample["address"]!)).Status);
            Assert.StartsWith("const loaded = await pages.", (string?)sample["calls"]!["typeScript"]);
        }

        using var folder = new AppFolder();
        folder.MakeDatabase("CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL)");
        using var service = await RunningService.StartAsync("serve", folder.Write("app.yaml", AppFolder.App));
        Assert.Equal(
            "There is no thing that an address can lead to.",
            (string?)(await AskAsync("samples", service)).AsArray()[1]!["why"]
        );
        File.Move(folder.File("data.db"), folder.File("elsewhere.db"));
        await Task.Delay(500, TestContext.Current.CancellationToken);
        Assert.Equal(
            JsonValueKind.Null,
            (await AskAsync("samples", service)).AsArray()[1]!["address"]?.GetValueKind() ?? JsonValueKind.Null
        );
    }

    [Fact]
    public async Task Visits_are_counted_by_outcome_and_given_by_outcome()
    {
        using var service = await RunningService.StartAsync("demo");
        foreach (var target in new[] { "/bridges/7", "/bridges/8", "/bridges/x" })
            await service.GetAsync(target);
        await service.GetAsync("/bridges/9", "Sec-Fetch-Dest: iframe\r\n");
        var all = await AskAsync("visits", service);
        Assert.Equal(4, (int)all["kept"]!);
        Assert.Equal("""[{"outcome":"found","visits":3},{"outcome":"malformed","visits":1}]""", all["outcomes"]!.ToJsonString());
        Assert.Equal([true, false, false, false], all["visits"]!.AsArray().Select(visit => (bool)visit!["framed"]!));
        Assert.Equal(
            "/bridges/x",
            (string?)(await AskAsync("visits?outcome=malformed", service))["visits"]!.AsArray().Single()!["target"]
        );
        Assert.Empty((await AskAsync("visits?outcome=gone-fishing", service, 404))["visits"]?.AsArray() ?? []);
        Assert.Contains("Did you mean found?", (string?)(await AskAsync("visits?outcome=fuond", service, 404))["detail"]);
        Assert.Equal(2, (await AskAsync("visits?limit=2", service))["visits"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_finding_names_the_page_whose_lines_it_is_in()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(AppFolder.Schema);
        var file = folder.Write(
            "app.yaml",
            """
            app: Things
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { thing: { from: s.thing, label: nmae } }
            pages: { things: { path: /things, list: thing, order: [nmae] }, thing: { path: "/things/{id}", detail: thing,
               show: [
                 nmae] } }
            """
        );
        var found = JsonNode.Parse((await RunningService.RunAsync("check", file, "--json")).Out)!["findings"]!.AsArray();
        Assert.Equal(
            [(3, null), (4, "things"), (6, "thing")],
            found.Select(finding => ((int)finding!["line"]!, (string?)finding["page"]))
        );
    }

    private async Task<JsonNode> AskAsync(string path, RunningService? service = null, int status = 200)
    {
        service ??= Service;
        var token = await File.ReadAllTextAsync(Path.Combine(service.State, "token"));
        var answer = await RunningService.SendAsync(
            service.ConsolePort,
            Encoding.ASCII.GetBytes(
                $"GET /api/{path} HTTP/1.1\r\nHost: 127.0.0.1:{service.ConsolePort}\r\nAuthorization: Bearer "
                    + $"{token}\r\nConnection: close\r\n\r\n"
            )
        );
        Assert.Equal(status, answer.Status);
        return JsonNode.Parse(answer.Body)!;
    }
}
