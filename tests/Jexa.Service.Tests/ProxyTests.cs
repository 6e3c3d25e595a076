using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>The pages below a path prefix, behind a proxy that is named or not.</summary>
public class ProxyTests
{
    [Fact]
    public async Task Below_a_prefix_every_address_begins_with_it_and_nothing_else_is_a_page()
    {
        using var service = await RunningService.StartAsync("demo", "--below", "/valley/register");
        Assert.EndsWith("/valley/register/", service.PagesUrl);
        Assert.Equal("/valley/register/", (await service.GetAsync("/valley/register")).Header("Location"));
        Assert.Equal("/valley/register/?x=1", (await service.GetAsync("/valley/register?x=1")).Header("Location"));
        Assert.Equal("/valley/register/bridges", (await service.GetAsync("/valley/register/")).Header("Location"));
        Assert.Equal("/valley/register/bridges/7", (await service.GetAsync("/valley/register/bridges/007")).Header("Location"));
        Assert.Equal("/valley/register/bridges/7", (await service.GetAsync("/valley/register/bridges/7/")).Header("Location"));
        Assert.StartsWith("/valley/register/bridges?", (await service.GetAsync("/valley/register/lookup")).Header("Location"));
        Assert.Equal(200, (await service.GetAsync("/valley/%72egister/bridges/7")).Status);
        Assert.Equal(200, (await service.GetAsync("/valley/register/_jexa/style.css")).Status);
        Assert.Equal(200, (await service.GetAsync("/valley/register/_jexa/health/ready")).Status);
        foreach (
            var outside in (string[])
                ["/", "/bridges", "/valley", "/valley/registers/bridges", "/Valley/register/bridges", "/_jexa/style.css"]
        )
            Assert.Equal(404, (await service.GetAsync(outside)).Status);
        var list = await service.GetAsync("/valley/register/bridges");
        Assert.Equal("\"/valley/register/bridges/{id}\"; rel=\"item\"", list.Header("Link-Template"));
        Assert.DoesNotMatch("(href|src|action)=\"/(?!valley/register/)", list.Body);
        var json = await service.GetJsonAsync("/valley/register/bridges/7");
        Assert.Contains("\"/valley/register/bridges/7\"", json.Body);
        var link = await service.AskAsync("link", "bridge", "id=7");
        Assert.Contains(service.PagesUrl + "bridges/7", link.Out);
        var trace = await service.AskAsync("trace", "/valley/register/bridges/7");
        Assert.Contains("found", trace.Out);
    }

    [Theory]
    [InlineData("--below", "register")]
    [InlineData("--below", "/a//b")]
    [InlineData("--below", "/a/../b")]
    [InlineData("--below", "/a b")]
    [InlineData("--below", "//")]
    [InlineData("--host", "http://somewhere/")]
    [InlineData("--host", "some where")]
    [InlineData("--proxy", "somewhere")]
    public async Task What_cannot_be_used_is_refused_before_anything_is_opened(string option, string value)
    {
        var ran = await RunningService.RunAsync("demo", "--port", "0", option, value);
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains(value, ran.Error);
    }

    [Fact]
    public async Task Another_host_name_is_answered_to_only_where_it_was_named()
    {
        using var service = await RunningService.StartAsync("demo", "--host", "register.example");
        Assert.Equal(200, await StatusAsync(service, "register.example"));
        Assert.Equal(200, await StatusAsync(service, $"localhost:{service.Port}"));
        Assert.Equal(421, await StatusAsync(service, "other.example"));
        Assert.Equal(421, await StatusAsync(service, "register.example:1"));
        Assert.Equal(
            421,
            await StatusAsync(service, $"127.0.0.1:{service.Port}", "X-Forwarded-Host: register.example\r\n", consoleDoor: true)
        );
    }

    [Fact]
    public async Task Forwarded_headers_count_only_from_a_named_proxy()
    {
        const string forwarded = "X-Forwarded-For: 192.0.2.7\r\nX-Forwarded-Host: register.example\r\n";
        using var trusting = await RunningService.StartAsync("demo", "--host", "register.example", "--proxy", "127.0.0.1");
        Assert.Equal("192.0.2.7", await VisitorAsync(trusting, forwarded));
        Assert.Equal("198.51.100.9", await VisitorAsync(trusting, "X-Forwarded-For: 203.0.113.5, 198.51.100.9\r\n"));
        Assert.Equal("127.0.0.1", await VisitorAsync(trusting, "X-Forwarded-For: nonsense\r\n"));
        Assert.Equal(421, (await trusting.GetAsync("/bridges/7", "X-Forwarded-Host: other.example\r\n")).Status);

        using var wary = await RunningService.StartAsync("demo", "--host", "register.example", "--proxy", "127.0.0.99");
        Assert.Equal("127.0.0.1", await VisitorAsync(wary, forwarded));
        using var alone = await RunningService.StartAsync("demo");
        Assert.Equal("127.0.0.1", await VisitorAsync(alone, forwarded));
    }

    [Fact]
    public async Task Timings_are_told_only_to_those_who_may_see_traces()
    {
        using var service = await RunningService.StartAsync("demo");
        var token = await File.ReadAllTextAsync(Path.Combine(service.State, "token"));
        Assert.Matches(
            @"^match;dur=[\d.]+, parse;dur=[\d.]+, load;dur=[\d.]+, decide;dur=[\d.]+, answer;dur=[\d.]+$",
            (await service.GetAsync("/bridges/7", $"Authorization: Bearer {token}\r\n")).Header("Server-Timing")
        );
        Assert.Null((await service.GetAsync("/bridges/7", "Authorization: Bearer nonsense\r\n")).Header("Server-Timing"));
        Assert.Null((await service.GetAsync("/bridges/7")).Header("Server-Timing"));
    }

    private static async Task<int> StatusAsync(
        RunningService service,
        string host,
        string headers = "",
        bool consoleDoor = false
    ) =>
        (
            await RunningService.SendAsync(
                consoleDoor ? service.ConsolePort : service.Port,
                System.Text.Encoding.ASCII.GetBytes(
                    $"GET /bridges/7 HTTP/1.1\r\nHost: {host}\r\n{headers}Connection: close\r\n\r\n"
                )
            )
        ).Status;

    /// <summary>Where the trace of a visit says that it came from.</summary>
    private static async Task<string?> VisitorAsync(RunningService service, string headers)
    {
        var number = (await service.GetAsync("/bridges/7", headers)).Header("Jexa-Visit");
        using var trace = JsonDocument.Parse((await service.AskAsync("trace", number!, "--json")).Out);
        return trace.RootElement.GetProperty("visitor").GetString();
    }
}
