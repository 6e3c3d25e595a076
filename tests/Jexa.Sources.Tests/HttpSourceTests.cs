using Jexa.Core.Compiler;
using Jexa.Core.Sites;
using Jexa.Core.Visits;
using Jexa.Demo;
using Jexa.Sources.Http;

namespace Jexa.Sources.Tests;

/// <summary>An HTTP API as a source, over the simulated gauges: its good answers and its bad ones.</summary>
public sealed class HttpSourceTests : IAsyncDisposable
{
    private const string Fields =
        "fields: { code: text, number: integer, river: text, place: text, level_m: decimal, rising: "
        + "boolean, measured_at: timestamp, note: text }";

    private readonly GaugeService _gauges = GaugeService.Start(0)!;
    private readonly ServedApp _served;

    public HttpSourceTests() =>
        _served = new ServedApp(
            Path.Combine(Path.GetTempPath(), "app.yaml"),
            name =>
                name switch
                {
                    "BASE" => _gauges.Url,
                    "TOKEN" => "river-water",
                    _ => null,
                },
            new HttpEngine()
        );

    public async ValueTask DisposeAsync()
    {
        await _served.DisposeAsync();
        _gauges.Dispose();
    }

    private static string App(string endpoint, string source = "", string pages = "") =>
        $$"""
            app: Gauges
            sources:
              s:
                engine: http
                connection: "${BASE}"
                {{source}}
                endpoints:
                  gauge: { {{endpoint}} }
            records:
              gauge: { from: s.gauge, label: "{code} {place}" }
            pages:
              {{(
                endpoint.Contains("list:")
                    ? "gauges: { path: \"/gauges{?river}\", list: gauge, show: [code], where: { river: \"{river}\" }, order: [-level_m] }"
                    : ""
            )}}
              gauge: { path: "/gauges/{id}", detail: gauge, show: [code, place, level_m] }
              {{pages}}
            """;

    private Task<Compilation> CompileAsync(string app) => _served.CompileAsync(app);

    private Task<Site> SiteAsync(string app) => _served.SiteAsync(app);

    private Task<(string Shown, VisitTrace Trace)> VisitAsync(Site site, string target) => _served.TraceAsync(site, target);

    private static string Expected(int gauge) =>
        $"{GaugeService.Gauges[gauge]["code"]} | {GaugeService.Gauges[gauge]["place"]} | "
        + $"{GaugeService.Gauges[gauge]["level_m"]:0.##}";

    private static string Code(int gauge) => (string)GaugeService.Gauges[gauge]["code"]!;

    [Theory]
    [InlineData("item: \"/gauges/{code}\", list: /gauges")]
    [InlineData("item: \"/gauges/{code}/\", list: /gauges/")]
    [InlineData("item: \"/gauges{?code}\", list: /gauges")]
    [InlineData("item: \"/gauges?kind=river{&code}\", list: /gauges")]
    [InlineData("item: \"/wrapped/gauges/{code}\", record: /data, list: /wrapped/gauges, records: /items")]
    [InlineData("item: \"/array/gauges/{code}\", list: /gauges")]
    [InlineData("item: \"/array/gauges/{code}\", record: /0, list: /gauges")]
    [InlineData("item: \"/named/{code}\", list: /named, names: code")]
    [InlineData("list: /named, names: code")]
    [InlineData("list: /gauges, key: code")]
    [InlineData("list: \"/paged{?page}\", paging: page, key: code")]
    [InlineData("list: \"/offset{?offset}\", paging: offset, key: code")]
    [InlineData("list: /linked, key: code")]
    [InlineData("item: \"/slow/gauges/{code}\", list: /gauges")]
    [InlineData("item: \"/gauges/{code}\", " + Fields)]
    public async Task A_record_is_found_however_the_API_puts_it(string endpoint)
    {
        var site = await SiteAsync(App(endpoint));
        Assert.Equal(Expected(3), (await VisitAsync(site, "/gauges/" + Code(3))).Shown);
        Assert.Equal("unknown 404", (await VisitAsync(site, "/gauges/G-nope")).Shown);
        if (!endpoint.Contains("list:"))
            return;
        var river = (string)GaugeService.Gauges[3]["river"]!;
        Assert.Equal(
            string.Join(
                ' ',
                GaugeService
                    .Gauges.Where(gauge => (string)gauge["river"]! == river)
                    .OrderByDescending(gauge => gauge["level_m"])
                    .Select(gauge => gauge["code"])
            ),
            (await VisitAsync(site, "/gauges?river=" + Uri.EscapeDataString(river))).Shown
        );
        Assert.Equal(GaugeService.Gauges.Count, (await VisitAsync(site, "/gauges")).Shown.Split(' ').Length);
    }

    [Theory]
    [InlineData("/failing", "unavailable 503", "500", false)]
    [InlineData("/refusing", "unavailable 503", "credentials", true)]
    [InlineData("/lying", "failed 500", "it is not shown", true)]
    [InlineData("/twice", "ambiguous 500", "Two visible rows", false)]
    [InlineData("/empty", "unknown 404", "no such row", false)]
    [InlineData("/page", "failed 500", "not JSON: ", true)]
    [InlineData("/broken", "failed 500", "not JSON", true)]
    [InlineData("/huge", "failed 500", "bytes", true)]
    [InlineData("/away", "failed 500", "another host, 127.0.0.2", true)]
    public async Task A_bad_answer_has_its_outcome_and_never_shows_a_record(
        string prefix,
        string outcome,
        string why,
        bool isFinding
    )
    {
        var site = await SiteAsync(App($"item: \"{prefix}/gauges/{{code}}\", {Fields}"));
        var (shown, trace) = await VisitAsync(site, "/gauges/" + Code(2));
        Assert.Equal(outcome, shown);
        Assert.Contains(why, trace.Why);
        Assert.Equal(isFinding, _served.Findings.All.Any(finding => finding.Code.Id == "JX603"));
    }

    [Fact]
    public async Task A_byte_a_second_is_too_slow()
    {
        var site = await SiteAsync(App($"item: \"/drip/gauges/{{code}}\", {Fields}"));
        var clock = System.Diagnostics.Stopwatch.StartNew();
        Assert.Equal("unavailable 503", (await VisitAsync(site, "/gauges/" + Code(2))).Shown);
        Assert.InRange(clock.Elapsed.TotalSeconds, 4, 8);
    }

    [Theory]
    [InlineData("/gauges/%2E%2E")]
    [InlineData("/gauges/..%2Fgauges")]
    [InlineData("/gauges/%2E")]
    public async Task Dot_segments_are_never_sent(string target)
    {
        var site = await SiteAsync(App("item: \"/gauges/{code}\", list: /gauges"));
        var before = _gauges.Requests;
        var (shown, _) = await VisitAsync(site, target);
        Assert.True(shown is "unknown 404" or "malformed 400", shown);
        if (!target.Contains("%2F"))
            Assert.Equal(before, _gauges.Requests);
    }

    [Fact]
    public async Task Keys_are_compared_as_numbers_or_texts_beyond_what_a_double_holds()
    {
        var site = await SiteAsync(App("list: /gauges, key: number"));
        var number = (long)GaugeService.Gauges[4]["number"]!;
        Assert.Equal(Expected(4), (await VisitAsync(site, $"/gauges/{number}")).Shown);
        Assert.Equal("unknown 404", (await VisitAsync(site, $"/gauges/{number - 1_000_000}")).Shown);
        Assert.Equal("malformed 400", (await VisitAsync(site, "/gauges/12x")).Shown);
    }

    [Fact]
    public async Task Answers_are_asked_for_again_only_as_the_API_says()
    {
        var aged = await SiteAsync(App($"item: \"/aged/gauges/{{code}}\", {Fields}"));
        for (var i = 0; i < 3; i++)
            Assert.Equal(Expected(1), (await VisitAsync(aged, "/gauges/" + Code(1))).Shown);
        Assert.Equal(1, _gauges.Requests);
        var tagged = await SiteAsync(App($"item: \"/tagged/gauges/{{code}}\", {Fields}"));
        for (var i = 0; i < 3; i++)
            Assert.Equal(Expected(1), (await VisitAsync(tagged, "/gauges/" + Code(1))).Shown);
        Assert.Equal(4, _gauges.Requests);
        var (_, trace) = await VisitAsync(tagged, "/gauges/" + Code(1));
        Assert.Equal("304: as it was", trace.Queries[0].Remark);
    }

    [Fact]
    public async Task A_list_is_asked_for_again_only_as_the_API_says()
    {
        async Task<int> RequestsAsync(string list)
        {
            var site = await SiteAsync(App($"list: {list}, key: code, refresh: 1, {Fields}"));
            var before = _gauges.Requests;
            for (var i = 0; i < 3; i++)
            {
                Assert.Equal(GaugeService.Gauges.Count, (await VisitAsync(site, "/gauges")).Shown.Split(' ').Length);
                await Task.Delay(i == 0 ? 1100 : 2100);
            }

            return _gauges.Requests - before;
        }

        Assert.Equal(1, await RequestsAsync("/aged/gauges"));

        // Each time it is old it is asked for, and the API says that it is what it was.
        Assert.Equal(3, await RequestsAsync("/tagged/gauges"));
    }

    [Fact]
    public async Task An_API_that_wants_to_be_left_alone_is()
    {
        var site = await SiteAsync(App($"item: \"/busy/gauges/{{code}}\", {Fields}"));
        Assert.Equal("unavailable 503", (await VisitAsync(site, "/gauges/" + Code(1))).Shown);
        Assert.Equal(1, _gauges.Requests);
        var (shown, trace) = await VisitAsync(site, "/gauges/" + Code(2));
        Assert.Equal("unavailable 503", shown);
        Assert.Contains("Retry-After", trace.Why);
        Assert.Equal(1, _gauges.Requests);
    }

    [Fact]
    public async Task Many_visitors_of_one_record_are_one_request()
    {
        var site = await SiteAsync(App($"item: \"/slow/gauges/{{code}}\", {Fields}"));
        var shown = await Task.WhenAll(
            Enumerable.Range(0, 20).Select(async _ => (await VisitAsync(site, "/gauges/" + Code(1))).Shown)
        );
        Assert.All(shown, one => Assert.Equal(Expected(1), one));
        Assert.Equal(1, _gauges.Requests);
    }

    [Theory]
    [InlineData("headers: { Authorization: \"Bearer ${TOKEN}\" }")]
    [InlineData("parameters: { token: \"${TOKEN}\" }")]
    public async Task Credentials_are_sent_and_never_shown(string credentials)
    {
        var site = await SiteAsync(App($"item: \"/refusing/gauges/{{code}}\", {Fields}", credentials));
        var (shown, trace) = await VisitAsync(site, "/gauges/" + Code(1));
        Assert.Equal(Expected(1), shown);
        var query = trace.Queries[0];
        var told = query.Query.Shown(query.Arguments) + query.Remark;
        Assert.StartsWith("GET ${BASE}/refusing/gauges/" + Code(1), told);
        Assert.Contains("200 application/json: {\"code\":", told);
        Assert.DoesNotContain("river-water", told);
    }

    [Fact]
    public async Task An_API_that_goes_is_unavailable_and_serves_again_when_it_is_back()
    {
        var site = await SiteAsync(App("item: \"/gauges/{code}\", list: /gauges"));
        _gauges.IsAway = true;
        for (var i = 0; i < 12; i++)
            Assert.Equal("unavailable 503", (await VisitAsync(site, "/gauges/" + Code(1))).Shown);

        // What fails again and again is left alone for a while.
        var clock = System.Diagnostics.Stopwatch.StartNew();
        var (_, trace) = await VisitAsync(site, "/gauges/" + Code(1));
        Assert.True(clock.Elapsed.TotalMilliseconds < 100, trace.Why);
        _gauges.IsAway = false;
        await Eventually.TrueAsync(async () => (await VisitAsync(site, "/gauges/" + Code(1))).Shown == Expected(1));
    }

    [Fact]
    public async Task What_cannot_be_listed_is_a_finding_and_so_is_an_endpoint_that_cannot_be_called()
    {
        Assert.Contains(
            (await CompileAsync(App($"item: \"/gauges/{{code}}\", {Fields}", "", "all: { path: /all, list: gauge }"))).Findings,
            finding => finding.Code.Id == "JX208"
        );
        Assert.Contains((await CompileAsync(App("item: \"/gauges/{code}\""))).Findings, finding =>
            finding.Code.Id == "JX209" && finding.Message.Contains("does not say them")
        );
        Assert.Contains((await CompileAsync(App("item: \"gauges/{code}\", list: /gauges"))).Findings, finding =>
            finding.Code.Id == "JX209"
        );
        Assert.Contains((await CompileAsync(App("item: \"/gauges/{code}\", key: number, list: /gauges"))).Findings, finding =>
            finding.Code.Id == "JX209"
        );
        Assert.Contains((await CompileAsync(App("list: /gauges, key: code, records: items"))).Findings, finding =>
            finding.Code.Id == "JX209"
        );
        Assert.Contains(
            (
                await CompileAsync(App("list: /gauges, key: code", "", "edit: { path: \"/gauges/{id}/edit\", edit: gauge }"))
            ).Findings,
            finding => finding.Message.Contains("an API is only read")
        );
    }

    [Theory]
    [InlineData("169.254.169.254", true)]
    [InlineData("fe80::1", true)]
    [InlineData("::ffff:169.254.169.254", true)]
    [InlineData("::169.254.169.254", true)]
    [InlineData("::ffff:0:169.254.169.254", true)]
    [InlineData("64:ff9b::a9fe:a9fe", true)]
    [InlineData("64:ff9b:1::a9fe:a9fe", true)]
    [InlineData("2002:a9fe:a9fe::", true)]
    [InlineData("2001:0:4136:e378:8000:63bf:5601:5601", true)]
    [InlineData("fd00:ec2::254", true)]
    [InlineData("127.0.0.1", false)]
    [InlineData("::1", false)]
    [InlineData("64:ff9b::7f00:1", false)]
    [InlineData("fd00::1", false)]
    [InlineData("2001:db8::1", false)]
    public void An_address_of_the_link_alone_is_known_in_every_form(string address, bool isLinkLocal) =>
        Assert.Equal(isLinkLocal, LinkLocal.Is(System.Net.IPAddress.Parse(address)));

    [Theory]
    [InlineData("../c")]
    [InlineData("a/../c")]
    [InlineData("a\\..\\c")]
    [InlineData("..")]
    [InlineData("./a")]
    public void No_path_carries_a_step_up_however_it_is_written(string value) =>
        Assert.Null(Core.Endpoints.ApiTemplate.Expand("/c/{code}", _ => value));

    [Fact]
    public async Task What_is_secret_in_an_answer_and_what_came_from_the_environment_is_never_told()
    {
        var app = App($"item: \"/gauges/{{code}}\", list: /gauges, {Fields}", "headers: { Authorization: \"Bearer ${TOKEN}\" }")
            .Replace("label: \"{code} {place}\"", "label: \"{code}\", fields: { place: { secret: true } }")
            .Replace("show: [code, place, level_m]", "show: [code, level_m]");
        var place = (string)GaugeService.Gauges[3]["place"]!;
        foreach (var target in new[] { "/gauges/" + Code(3), "/gauges" })
        {
            var (_, trace) = await VisitAsync(await SiteAsync(app), target);
            Assert.NotEmpty(trace.Queries);
            foreach (
                var told in trace
                    .Queries.Select(query => $"{query.Remark} {query.Query.Shown(query.Arguments)}")
                    .Append(trace.Why ?? "")
            )
            {
                Assert.DoesNotContain(place, told);
                Assert.DoesNotContain("river-water", told);
            }
        }

        var settings = new Core.Sources.ApiSettings([], [], false, [])
        {
            SecretFields = new HashSet<string> { "pin" },
            Secrets = ["river-water"],
        };
        var answer = new ToldAnswer(settings);
        string Told(string body) => answer.Of(System.Text.Encoding.UTF8.GetBytes(body));
        Assert.Equal("""{"code":"a","deep":[{"pin":"(secret)"}]}""", Told("""{"code":"a","deep":[{"pin":{"x":[1234]}}]}"""));
        Assert.Equal(
            """{"echo":"Bearer (secret)","base64":"(secret)"}""",
            Told($$"""{"echo":"Bearer river-water","base64":"{{Convert.ToBase64String("river-water"u8)}}"}""")
        );
        Assert.Equal("41 bytes", Told("<p>Not JSON, pin 1234, token river-water<"));
        Assert.Equal("19 bytes", Told("""{"pin":1,"pin":"x"}"""));
        var (shown, failing) = await VisitAsync(
            await SiteAsync(app.Replace("/gauges/{code}\"", "/failing/gauges/{code}\"")),
            "/gauges/" + Code(3)
        );
        Assert.Equal("unavailable 503", shown);
        Assert.Contains("was answered with 500", failing.Why);
    }

    [Fact]
    public async Task A_proxy_is_used_only_where_it_is_declared()
    {
        Environment.SetEnvironmentVariable("HTTP_PROXY", "http://127.0.0.1:9");
        Environment.SetEnvironmentVariable("http_proxy", "http://127.0.0.1:9");
        try
        {
            var endpoint = $"item: \"/gauges/{{code}}\", {Fields}";
            Assert.Equal(Expected(3), (await VisitAsync(await SiteAsync(App(endpoint)), "/gauges/" + Code(3))).Shown);
            Assert.Equal(
                "unavailable 503",
                (await VisitAsync(await SiteAsync(App(endpoint, "proxy: \"http://127.0.0.1:9\"")), "/gauges/" + Code(3))).Shown
            );
            Assert.Contains((await CompileAsync(App(endpoint, "proxy: somewhere"))).Findings, finding =>
                finding.Message.Contains("“somewhere” is no proxy", StringComparison.Ordinal)
            );
        }
        finally
        {
            Environment.SetEnvironmentVariable("HTTP_PROXY", null);
            Environment.SetEnvironmentVariable("http_proxy", null);
        }
    }

    [Fact]
    public async Task A_link_local_address_is_refused_unless_it_is_allowed()
    {
        var app = App($"item: \"/gauges/{{code}}\", {Fields}").Replace("${BASE}", "http://169.254.1.1:9");
        var (shown, trace) = await VisitAsync(await SiteAsync(app), "/gauges/x");
        Assert.Equal("unavailable 503", shown);
        Assert.Contains("link_local: allowed", trace.Why);
    }

    [Fact]
    public async Task A_list_is_bounded_and_says_so()
    {
        var compilation = await CompileAsync(App("list: /gauges, key: code, most: 4"));
        Assert.Contains(compilation.Findings, finding =>
            finding.Code.Id == "JX207" && finding.Message.Contains("more than the 4 records")
        );
        Assert.Equal(4, (await VisitAsync(compilation.Site!, "/gauges")).Shown.Split(' ').Length);
    }
}
