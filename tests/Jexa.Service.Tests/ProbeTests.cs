using System.Net;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary><c>jexa probe</c> on the demo as it is, and behind a proxy that spoils one kind of answer.</summary>
public class ProbeTests(DemoService demo, Browser browser)
{
    private Task<Ran> ProbeAsync(params string[] more) => demo.Service.AskAsync(["probe", "--rate", "2000", .. more]);

    [Fact]
    public async Task The_demo_answers_every_case_as_its_app_file_asks()
    {
        using var folder = new AppFolder();
        var before = await demo.Service.ManageAsync("changes");
        var ran = await ProbeAsync("--report", folder.File("probe.html"), "--report", folder.File("probe.json"));
        Assert.True(ran.ExitCode == 0, ran.Out + ran.Error);
        var report = JsonDocument.Parse(File.ReadAllText(folder.File("probe.json"))).RootElement;
        Assert.Equal(50, report.GetProperty("board").GetProperty("rows").GetArrayLength());
        var cases = report.GetProperty("board").GetProperty("cases").EnumerateArray().Select(one => one.GetString()).ToList();
        foreach (
            var kind in new[]
            {
                "right",
                "malformed",
                "not-canonical",
                "unknown",
                "hidden",
                "missing",
                "twice",
                "ambiguous",
                "control",
                "method",
            }
        )
            Assert.Contains(kind, cases);
        Assert.Equal(before.Body.ToString(), (await demo.Service.ManageAsync("changes")).Body.ToString());
        var page = await browser.OpenAsync();
        await page.GotoAsync("file://" + folder.File("probe.html"));
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task What_was_deleted_what_has_another_key_and_former_paths_are_asked_for()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE TABLE thing (code TEXT PRIMARY KEY, name TEXT NOT NULL);
            INSERT INTO thing VALUES ('a', 'One'), ('b', 'Two'), ('c', 'Three'), ('d', 'Four');
            """
        );
        folder.Write(
            "app.yaml",
            """
            app: Things
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { thing: { from: s.thing, label: name } }
            pages:
              things: { path: /things, was: [/stuff], list: thing }
              thing: { path: "/things/{code}", was: ["/stuff/{code}"], detail: thing }
              thing-edit: { path: "/things/{code}/edit", edit: thing, form: [code, name] }
              thing-delete: { path: "/things/{code}/delete", delete: thing }
            """
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Equal(200, await SendAsync(service, HttpMethod.Patch, "things/b/edit", """{"fields":{"code":"bb"}}"""));
        Assert.Equal(204, await SendAsync(service, HttpMethod.Delete, "things/d/delete", null));
        var ran = await service.AskAsync("probe", "--rate", "2000", "--json");
        Assert.True(ran.ExitCode == 0, ran.Out + ran.Error);
        var cells = JsonDocument
            .Parse(ran.Out)
            .RootElement.GetProperty("board")
            .GetProperty("rows")
            .EnumerateArray()
            .SelectMany(row => row.GetProperty("cells").EnumerateArray())
            .Where(cell => cell.GetProperty("case").GetString() is "gone" or "moved")
            .Where(cell => cell.GetProperty("how").GetString() == "html")
            .Select(cell => $"{cell.GetProperty("address")} {cell.GetProperty("actual")}")
            .ToList();
        Assert.Contains("/things/d gone (410)", cells);
        Assert.Contains("/things/b moved (301)", cells);
        Assert.Contains("/stuff not-canonical (301)", cells);
        Assert.Contains("/stuff/a not-canonical (301)", cells);
        Assert.Contains("/things/d/edit gone (410)", cells);
    }

    private static async Task<int> SendAsync(RunningService service, HttpMethod method, string address, string? body)
    {
        using var http = new HttpClient();
        using var request = new HttpRequestMessage(method, service.PagesUrl + address);
        request.Headers.TryAddWithoutValidation("If-Match", "*");
        request.Headers.TryAddWithoutValidation("Accept", "application/json");
        if (body is not null)
            request.Content = new StringContent(body, System.Text.Encoding.UTF8, "application/json");
        using var answer = await http.SendAsync(request, TestContext.Current.CancellationToken);
        return (int)answer.StatusCode;
    }

    [Fact]
    public async Task A_service_elsewhere_is_probed_through_its_API_with_its_token()
    {
        var api = demo.Service.ConsoleUrl.TrimEnd('/');
        var without = await RunningService.RunAsync("probe", "--api", api);
        Assert.Equal((2, true), (without.ExitCode, without.Error.Contains("JEXA_TOKEN")));
        using var process = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo(
                "dotnet",
                [RunningService.Program, "probe", "--api", api, "--only", "bridge", "--rate", "2000"]
            )
            {
                RedirectStandardOutput = true,
                Environment = { ["JEXA_TOKEN"] = demo.Service.Token, ["XDG_STATE_HOME"] = "/nowhere" },
            }
        )!;
        var said = await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        Assert.Equal((0, true), (process.ExitCode, said.Contains("Seen: 1 page,")));
    }

    [Fact]
    public async Task A_proxy_a_prefix_and_another_zone_change_nothing_and_a_prefix_that_is_lost_is_told_once()
    {
        using var folder = new AppFolder();
        folder.MakeDatabase(
            """
            CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, at TIMESTAMP NOT NULL, on_day DATE NOT NULL);
            INSERT INTO thing VALUES (1, 'One', '2026-11-01 12:00:00', '2026-11-01');
            INSERT INTO thing VALUES (2, 'Two', '2026-04-05 13:59:59', '2026-04-05');
            """
        );
        folder.Write(
            "app.yaml",
            """
            app: Things
            zone: Pacific/Chatham
            locale: fr-FR
            sources: { s: { engine: sqlite, connection: data.db } }
            records: { thing: { from: s.thing, label: name } }
            pages:
              things: { path: "/things{?since}", list: thing, where: { at: { from: "{since}" } }, search: [name] }
              thing: { path: "/things/{id}", detail: thing }
              day: { path: "/days/{on_day}", detail: thing, by: { on_day: on_day }, linked: elsewhere }
            """
        );
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"), "--below", "/valley/register");
        await service.EndAsync();
        await service.RestartAsync("export TZ=America/St_Johns LC_ALL=tr_TR.UTF-8");
        using (var proxy = new FaultProxy(new Uri(service.PagesUrl).GetLeftPart(UriPartial.Authority), (_, _) => { }))
            foreach (var url in new[] { service.PagesUrl, proxy.Url + "valley/register/" })
            {
                var ran = await service.AskAsync("probe", "--rate", "2000", "--url", url);
                Assert.True(ran.ExitCode == 0, ran.Out + ran.Error);
            }

        var fetched = await RunningService.RunAsync("sweep", folder.File("app.yaml"), "--fetch", "2", "--url", service.PagesUrl);
        Assert.True(fetched.ExitCode == 0, fetched.Out + fetched.Error);

        // The proxy takes a prefix away of which the service was not told.
        using var plain = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        using var cutting = new FaultProxy(plain.PagesUrl, (_, _) => { }, cut: "/valley");
        var told = await plain.AskAsync("probe", "--rate", "2000", "--url", cutting.Url + "valley/", "--json");
        Assert.Equal(1, told.ExitCode);
        var finding = Assert.Single(JsonDocument.Parse(told.Out).RootElement.GetProperty("findings").EnumerateArray().ToList());
        Assert.Equal("JX857", finding.GetProperty("code").GetString());
        Assert.Contains("which is not below /valley/", finding.GetProperty("examples")[0].GetProperty("says").GetString());
    }

    public static TheoryData<string, string> Faults { get; } =
        new()
        {
            { "malformed is a fault of the server", "JX851" },
            { "unknown is a page", "JX851" },
            { "another record", "JX851" },
            { "hidden says more", "JX852" },
            { "HEAD is unknown", "JX853" },
            { "the tag is dropped on HEAD", "JX853" },
            { "the tag is not heeded", "JX853" },
            { "JSON of another page", "JX854" },
            { "DELETE is taken", "JX855" },
            { "Allow says more", "JX855" },
            { "a stack trace", "JX856" },
        };

    [Theory]
    [MemberData(nameof(Faults))]
    public async Task A_spoilt_answer_has_its_finding_and_no_other(string fault, string code)
    {
        using var proxy = new FaultProxy(demo.Service.PagesUrl, (request, answer) => Spoil(fault, request, answer));
        var ran = await ProbeAsync("--only", "bridge", "--url", proxy.Url, "--json");
        Assert.True(ran.ExitCode == 1, fault + ran.Out + ran.Error);
        var findings = JsonDocument.Parse(ran.Out).RootElement.GetProperty("findings").EnumerateArray().ToList();
        Assert.Equal([code], findings.Select(one => one.GetProperty("code").GetString()).Distinct());
        Assert.Contains("curl -i", findings[0].GetProperty("examples")[0].GetProperty("request").GetString());
        Assert.Equal("bridge", findings[0].GetProperty("page").GetString());
    }

    private static void Spoil(string fault, HttpListenerRequest request, FaultProxy.Spoilt answer)
    {
        var isGet = request.HttpMethod == "GET";
        switch (fault)
        {
            case "malformed is a fault of the server" when answer.Status == 400:
                answer.Status = 500;
                break;
            case "unknown is a page" when answer.Status == 404 && request.RawUrl!.Contains("999999937"):
                answer.Status = 200;
                break;
            case "another record" when answer.Status == 301:
                answer.Headers["Location"] = "/bridges/2";
                break;
            case "hidden says more" when answer.Status == 404 && !request.RawUrl!.Contains("999999937"):
                answer.Body += "<p>withdrawn</p>";
                break;
            case "HEAD is unknown" when request.HttpMethod == "HEAD" && answer.Status == 200:
                answer.Status = 404;
                break;
            case "the tag is dropped on HEAD" when request.HttpMethod == "HEAD":
                answer.Headers.Remove("ETag");
                break;
            case "the tag is not heeded" when answer.Status == 304:
                answer.Status = 200;
                break;
            case "JSON of another page"
                when isGet && answer.Headers.GetValueOrDefault("Content-Type")?.Contains("json") == true && answer.Status == 200:
                answer.Body = answer.Body.Replace("\"title\":\"", "\"title\":\"Not ");
                break;
            case "DELETE is taken" when request.HttpMethod == "DELETE":
                answer.Status = 200;
                break;
            case "Allow says more" when answer.Status == 405:
                answer.Headers["Allow"] = "GET, HEAD, DELETE";
                break;
            case "a stack trace" when answer.Status == 400:
                answer.Body += "   at Jexa.Core.Keys.IntegerKey.Read(ReadOnlySpan`1 id)";
                break;
        }
    }

    [Fact]
    public async Task A_service_that_is_not_there_and_a_page_that_is_not_there_are_told()
    {
        var gone = await ProbeAsync("--url", "http://127.0.0.1:1/");
        Assert.Equal(3, gone.ExitCode);
        Assert.Contains("does not answer", gone.Error);
        var slip = await ProbeAsync("--only", "brigde");
        Assert.Equal(2, slip.ExitCode);
        Assert.Contains("Do you mean bridge?", slip.Error);
        Assert.Equal(2, (await ProbeAsync("--url", "register.example")).ExitCode);
        Assert.Equal(2, (await ProbeAsync("--rate", "0")).ExitCode);
    }
}
