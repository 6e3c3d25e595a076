using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary><c>jexa audit</c> on applications that are not Jexa's: right ones, and with one fault each.</summary>
public class AuditTests(DemoService demo, Browser browser)
{
    private static Task<Ran> AuditAsync(string url, params string[] more) =>
        RunningService.RunAsync(["audit", url, "--rate", "1000", .. more]);

    private static async Task<List<JsonElement>> FindingsAsync(string url, params string[] more)
    {
        var ran = await AuditAsync(url, ["--json", .. more]);
        Assert.True(ran.ExitCode is 0 or 1 or 3, ran.Error);
        return [.. JsonDocument.Parse(ran.Out).RootElement.GetProperty("findings").EnumerateArray()];
    }

    [Fact]
    public async Task A_right_application_has_no_finding_and_nothing_in_it_was_changed_or_asked_for_that_should_not_be()
    {
        using var bed = new AuditBed();
        using var folder = new AppFolder();
        var ran = await AuditAsync(bed.Url + "bridges", "--report", folder.File("audit.html"));
        Assert.True(ran.ExitCode == 0, ran.Out + ran.Error);
        Assert.Contains("12 records", ran.Out);
        Assert.All(bed.Met, met => Assert.Equal("GET", met.Method));
        Assert.DoesNotContain(bed.Met, met => met.Target.Contains("delete") || met.Target.Contains("sort"));
        Assert.InRange(bed.Met.Count, 20, 60);
        var page = await browser.OpenAsync();
        await page.GotoAsync("file://" + folder.File("audit.html"));
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();
    }

    [Theory]
    [InlineData("bridges")]
    [InlineData("gallery")]
    [InlineData("inspectors")]
    [InlineData("recordings")]
    [InlineData("inspections")]
    [InlineData("defects")]
    public async Task The_pages_of_the_demo_have_no_finding(string list)
    {
        var findings = await FindingsAsync(demo.Service.PagesUrl + list);
        Assert.Empty(findings.Select(one => one.GetProperty("message").GetString()));
    }

    [Fact]
    public async Task What_asks_to_sign_in_is_told_and_a_cookie_is_sent_and_never_reported()
    {
        using var bed = new AuditBed("sign-in");
        var out_ = await AuditAsync(bed.Url + "bridges");
        Assert.Equal(3, out_.ExitCode);
        Assert.Contains("asks to sign in", out_.Out);
        using var folder = new AppFolder();
        var into = await AuditAsync(bed.Url + "bridges", "--header", "Cookie: session=7", "--report", folder.File("a.json"));
        Assert.Equal(0, into.ExitCode);
        Assert.DoesNotContain("session=7", into.Out + File.ReadAllText(folder.File("a.json")));
    }

    [Fact]
    public async Task What_robots_are_not_to_ask_for_is_not_asked_for()
    {
        using var bed = new AuditBed("robots");
        var ran = await AuditAsync(bed.Url + "bridges");
        Assert.Contains("robots.txt", ran.Out);
        Assert.DoesNotContain(bed.Met, met => met.Target.StartsWith("/bridge?", StringComparison.Ordinal));
    }

    [Fact]
    public async Task It_ends_after_so_many_requests_and_says_so()
    {
        using var bed = new AuditBed();
        var ran = await AuditAsync(bed.Url + "bridges", "--requests", "10");
        Assert.Equal(3, ran.ExitCode);
        Assert.Contains("10 requests were sent", ran.Out);
        Assert.InRange(bed.Met.Count, 5, 11);
    }

    [Theory]
    [InlineData("http://127.0.0.1:1/bridges", 3, "refused")]
    [InlineData("bridges", 2, "is not a web address")]
    [InlineData("ftp://127.0.0.1/bridges", 2, "is not a web address")]
    public async Task An_address_that_cannot_be_asked_is_told(string url, int code, string says)
    {
        var ran = await AuditAsync(url);
        Assert.Equal(code, ran.ExitCode);
        Assert.Contains(says, ran.Out + ran.Error);
    }
}
