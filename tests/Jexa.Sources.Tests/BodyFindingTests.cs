using Jexa.Core.Definitions;

namespace Jexa.Sources.Tests;

/// <summary>Each mistake in a page's own HTML meets a finding at its place, with the nearest valid name.</summary>
public sealed class BodyFindingTests
{
    private const string Detail = """
        <!DOCTYPE html>
        <html lang="en"><head><meta charset="utf-8"><title>A bridge</title></head>
        <body><header>For the designer</header>
        <main itemscope>
        <h1 data-page="title">Old Bridge</h1>
        <p>Code <b itemprop="code">AV-1</b></p>
        <a href="page:bridges">All</a>
        </main></body></html>
        """;

    private static async Task<IReadOnlyList<Finding>> FindingsAsync(string html, string page = "detail: bridge\n")
    {
        await using var app = new TestApp();
        Write(app, html);
        var text = TestApp.App.Replace(page, $"{page}    body: mine.html\n");
        Assert.NotEqual(TestApp.App, text);
        return (await app.CompileAsync(text)).Findings;
    }

    private static void Write(TestApp app, string html) => File.WriteAllText(Path.Combine(app.Folder, "mine.html"), html);

    [Fact]
    public async Task A_body_that_is_right_has_no_finding() =>
        Assert.DoesNotContain(await FindingsAsync(Detail), finding =>
            finding.Code.Id.StartsWith("JX7", StringComparison.Ordinal)
        );

    [Theory]
    [InlineData("itemprop=\"code\"", "itemprop=\"coed\"", "JX702", "code")]
    [InlineData("data-page=\"title\"", "data-page=\"titel\"", "JX702", "title")]
    [InlineData("page:bridges", "page:brigdes", "JX408", "bridges")]
    [InlineData("<a href", "<nav data-part=\"trial\"></nav><a href", "JX702", "trail")]
    [InlineData("<p>Code", "<p data-needs=\"coed\">Code", "JX702", "code")]
    [InlineData("<p>Code", "<p data-lacks=\"page.nxet\">Code", "JX702", "page.next")]
    [InlineData(">AV-1<", ">AV-<i>1</i><", "JX703", null)]
    [InlineData("<a href", "<input itemprop=\"code\"><a href", "JX703", null)]
    [InlineData("<a href", "<svg><text itemprop=\"code\">x</text></svg><a href", "JX703", null)]
    [InlineData("<b itemprop", "<b class=\"{code}\" itemprop", "JX703", null)]
    [InlineData("<b itemprop", "<b style=\"color:{red}\" itemprop", "JX703", null)]
    [InlineData("<a href=\"page:bridges\">", "<a href=\"https://{code}/x\">", "JX703", null)]
    [InlineData("<a href=\"page:bridges\">", "<a href=\"javascript:alert(1)\">", "JX705", null)]
    [InlineData("<a href=\"page:bridges\">", "<a href=\" JavaScript:alert(1)\">", "JX705", null)]
    [InlineData("<a href", "<iframe src=\"x.html\"></iframe><a href", "JX705", null)]
    [InlineData("<a href", "<img src=\"data:image/png;base64,AA\" srcdoc=\"x\"><a href", "JX705", null)]
    [InlineData("<a href", "<meta itemprop=\"code\" http-equiv=\"refresh\"><a href", "JX705", null)]
    [InlineData("<a href", "<plaintext><a href", "JX705", null)]
    [InlineData("<a href", "<object data=\"x\"></object><a href", "JX705", null)]
    [InlineData("<a href", "<img src=\"none.png\" alt=\"\"><a href", "JX701", null)]
    [InlineData("<a href", "<img src=\"../../etc/passwd\" alt=\"\"><a href", "JX701", null)]
    [InlineData("<a href", "<b onclick=\"x()\">b</b><a href", "JX707", null)]
    [InlineData("<meta charset", "<script src=\"https://elsewhere.example/x.js\"></script><meta charset", "JX707", null)]
    public async Task A_mistake_is_found_at_its_line(string right, string wrong, string code, string? nearest)
    {
        Assert.Contains(right, Detail);
        var html = Detail.Replace(right, wrong);
        var found = await FindingsAsync(html);
        var finding = found.FirstOrDefault(one =>
            one.Code.Id == code && one.At.File.EndsWith("mine.html", StringComparison.Ordinal)
        );
        Assert.True(finding is not null, $"no {code}");
        Assert.Equal(nearest, finding.Nearest);
        // One cause, one finding.
        if (code != "JX707")
            Assert.DoesNotContain(found, one => one.Code.Id == "JX707");
        var line = html[..html.IndexOf(wrong, StringComparison.Ordinal)].Count(c => c == '\n') + 1;
        Assert.InRange(finding.At.Line, line - 1, line + 1);
        Assert.NotEmpty(finding.Remedy);
    }

    [Fact]
    public async Task A_field_that_the_page_does_not_show_comes_with_the_whole_line_that_shows_it()
    {
        await using var app = new TestApp();
        Write(app, "<main itemscope><b itemprop=\"length_m\">1</b></main>");
        var text = TestApp.App.Replace("detail: bridge\n", "detail: bridge\n    body: mine.html\n    show: [name, code]\n");
        var finding = Assert.Single((await app.CompileAsync(text)).Findings, one => one.Code.Id == "JX704");
        Assert.Equal("Write show: [name, code, length_m]", finding.Remedy);
        Assert.Equal((1, 20), (finding.At.Line, finding.At.Column));
    }

    [Theory]
    [InlineData("", "JX707")]
    [InlineData("plain words", "JX707")]
    [InlineData("<main></main><main></main>", "JX707")]
    [InlineData("<main itemscope><h1 data-page=title>x", null)]
    [InlineData("<main itemscope>\u0001<h1 data-page=title>x</h1>", null)]
    [InlineData("<frameset><frame src=x></frameset>", "JX705")]
    public async Task Odd_files_are_read_as_a_browser_reads_them(string html, string? code)
    {
        var findings = (await FindingsAsync(html)).Where(one => one.Code.Id.StartsWith("JX7", StringComparison.Ordinal)).ToList();
        if (code is null)
            Assert.Empty(findings);
        else
            Assert.Contains(findings, finding => finding.Code.Id == code);
    }

    [Fact]
    public async Task Files_that_are_too_large_too_deep_missing_or_not_text_are_refused()
    {
        await using var app = new TestApp();
        var text = TestApp.App.Replace("detail: bridge\n", "detail: bridge\n    body: mine.html\n");
        async Task<string> MessageAsync(byte[] bytes)
        {
            await File.WriteAllBytesAsync(Path.Combine(app.Folder, "mine.html"), bytes, TestContext.Current.CancellationToken);
            return Assert.Single((await app.CompileAsync(text)).Findings, one => one.Code.Id == "JX701").Message;
        }

        Assert.Contains(
            "There is no file",
            Assert.Single((await app.CompileAsync(text)).Findings, one => one.Code.Id == "JX701").Message
        );
        Assert.Contains("more than 1024 kB", await MessageAsync(new byte[50 * 1024 * 1024]));
        Assert.Contains("not UTF-8", await MessageAsync([0xff, 0xfe, 0x00]));
        var deep = System.Diagnostics.Stopwatch.StartNew();
        var nested = string.Concat(Enumerable.Repeat("<div>", 10_000));
        Assert.Contains("deeper than 200", await MessageAsync(System.Text.Encoding.UTF8.GetBytes(nested)));
        Assert.True(deep.Elapsed < TimeSpan.FromSeconds(20));
        var many = string.Concat(Enumerable.Repeat("<i></i>", 30_000));
        Assert.Contains("more than 20,000 elements", await MessageAsync(System.Text.Encoding.UTF8.GetBytes(many)));
        foreach (var named in new[] { "../mine.html", "/etc/passwd", "mine.txt", "a/../../b.html" })
            Assert.Contains((await app.CompileAsync(text.Replace("mine.html", named))).Findings, one => one.Code.Id == "JX701");
    }

    [Fact]
    public async Task Parts_in_a_circle_and_parts_that_multiply_are_refused_at_once()
    {
        foreach (var times in new[] { 1, 20 })
        {
            var parts = string.Concat(Enumerable.Repeat("<div data-part=\"mine.html\"></div>", times));
            var findings = await FindingsAsync($"<main itemscope><h1 data-page=\"title\">x</h1>{parts}</main>");
            Assert.Contains(findings, finding => finding.Code.Id == "JX701" && finding.Message.Contains("stands in itself"));
        }
    }

    [Theory]
    [InlineData("<form><input name=\"name\"><input name=\"coed\"><button>Save</button></form>", "JX702")]
    [InlineData("<form><input name=\"name\"><button>Save</button></form>", "JX706")]
    [InlineData("<h1 data-page=\"title\">Edit</h1>", "JX706")]
    [InlineData("<form data-part=\"form\"></form>", null)]
    [InlineData("<form><p data-needs=\"page.said\"><input name=\"name\"></p><button>Save</button></form>", "JX703")]
    public async Task A_form_has_a_control_for_each_field_that_is_asked_for(string html, string? code)
    {
        await using var app = new TestApp();
        Write(app, $"<main itemscope>{html}</main>");
        var text =
            TestApp.App + "\n  change: { path: \"/bridges/{id}/change\", edit: bridge, form: [name, code], body: mine.html }";
        var findings = (await app.CompileAsync(text))
            .Findings.Where(one => one.Code.Id.StartsWith("JX7", StringComparison.Ordinal))
            .ToList();
        if (code is null)
            Assert.Empty(findings);
        else
            Assert.Contains(findings, finding => finding.Code.Id == code);
    }
}
