using System.Text;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// Texts that would take a page down or be run if they are shown, requests that say one thing in two ways, tokens that end.
/// </summary>
public sealed class LeakTests : IDisposable
{
    private readonly AppFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    private const string App = """
        app: Notes
        sources: { s: { engine: sqlite, connection: data.db } }
        records: { note: { from: s.note, label: name, fields: { text: { as: markdown }, picture: { as: image, under: pics } } } }
        pages:
          notes: { path: "/notes{?kind,name}", list: note, show: [name, kind, text, picture], look: cards, order: [id] }
          note: { path: "/notes/{id}", detail: note }
          note-edit: { path: "/notes/{id}/edit", edit: note }
        """;

    private Task<RunningService> ServeAsync(string rows)
    {
        _folder.MakeDatabase(
            $"CREATE TABLE note (id INTEGER PRIMARY KEY, name TEXT NOT NULL, kind TEXT, text TEXT, picture TEXT); {rows}"
        );
        return RunningService.StartAsync("serve", _folder.Write("app.yaml", App));
    }

    public static TheoryData<string> HostileTexts =>
        [
            new string('>', 300),
            new string('>', 990),
            new string('>', 100_000),
            string.Concat(Enumerable.Repeat("*a ", 10_000)),
            new string('[', 20_000),
            string.Concat(Enumerable.Repeat("- ", 5_000)),
            string.Concat(Enumerable.Repeat("[a](", 5_000)),
            new string('`', 30_000) + "x",
            string.Concat(Enumerable.Range(0, 3_000).Select(i => new string(' ', i % 400) + "* x\n")),
            string.Concat(Enumerable.Repeat("|a", 20_000)) + "\n" + string.Concat(Enumerable.Repeat("|-", 20_000)),
            string.Concat(Enumerable.Repeat("a\n\n", 60_000)),
            string.Concat(Enumerable.Repeat("![", 9_000)),
            string.Concat(Enumerable.Repeat("_a*b", 8_000)),
            string.Concat(Enumerable.Repeat("&amp", 10_000)),
            "\u0000\ud800 ok",
        ];

    [Fact]
    public async Task No_text_takes_a_page_down_nor_makes_it_slow()
    {
        var texts = HostileTexts.Select(row => row.Data).ToList();
        var rows = string.Concat(
            texts.Select(
                (text, i) =>
                    $"INSERT INTO note (name, text) VALUES ('n{i}', "
                    + $"CAST(x'{Convert.ToHexString(Encoding.UTF8.GetBytes(text))}' AS TEXT));"
            )
        );
        using var service = await ServeAsync(rows);
        for (var i = 1; i <= texts.Count; i++)
        {
            var page = await service.GetAsync($"/notes/{i}");
            Assert.True(page.Status == 200, $"{i}: {page.Status} {page.Body[..Math.Min(300, page.Body.Length)]}");
            Assert.Contains($"n{i - 1}", page.Body);
        }

        Assert.Equal(200, (await service.GetAsync("/notes")).Status);
        Assert.Contains("&gt;&gt;&gt;", (await service.GetAsync("/notes/1")).Body);

        // Compared within one run: none takes longer than a hundred plain pages. What was made of a text is kept.
        using var trace = JsonDocument.Parse((await service.AskAsync("trace", "/notes/3", "--json")).Out);
        Assert.Equal("found", trace.RootElement.GetProperty("outcome").GetString());
    }

    [Fact]
    public async Task Texts_with_line_breaks_are_told_apart_in_kept_counts()
    {
        using var service = await ServeAsync("INSERT INTO note (name, kind) VALUES ('y', 'x'), ('y', 'x\ny'), ('z', 'x\ny');");
        foreach (
            var (target, total) in new[]
            {
                ("/notes?kind=x&name=y%0Az", 0),
                ("/notes?kind=x%0Ay&name=z", 1),
                ("/notes?kind=x&name=y", 1),
                ("/notes?kind=x%0Ay&name=y", 1),
            }
        )
        {
            var list = JsonDocument.Parse((await service.GetJsonAsync(target)).Body).RootElement;
            Assert.Equal(
                (total, total),
                (list.GetProperty("total").GetProperty("count").GetInt32(), list.GetProperty("records").GetArrayLength())
            );
        }
    }

    [Fact]
    public async Task Nothing_that_is_stored_is_obeyed_by_a_terminal()
    {
        const string Hostile =
            "\u001b[2J\u001b]0;owned\u0007\r\nchange  when  page  record\n99 forged\u009b31m\u202egnp.exe\u2028x";
        using var service = await ServeAsync(
            "INSERT INTO note (name, kind) VALUES "
                + $"(CAST(x'{Convert.ToHexString(Encoding.UTF8.GetBytes(Hostile))}' AS TEXT), 'k');"
        );
        using var program = new Visitor(service.PagesUrl);
        Assert.Equal(200, (await program.PatchAsync("/notes/1/edit", """{"fields":{"name":"harmless"}}""", "*")).Status);
        Assert.Equal(0, (await service.AskAsync("changes", "1", "--undo")).ExitCode);
        foreach (
            var command in new[]
            {
                new[] { "changes" },
                ["changes", "1"],
                ["trace", "/notes/1"],
                ["trace", "/notes?name=%1b%5b2J%0Aforged"],
                ["pages"],
                ["sources"],
            }
        )
        {
            var ran = await service.AskAsync(command);
            var told = ran.Out + ran.Error;
            Assert.DoesNotContain(told, c => c != '\n' && (char.IsControl(c) || c is '\u202e' or '\u2028'));
            Assert.DoesNotContain(told.Split('\n'), line =>
                line.StartsWith("99 forged", StringComparison.Ordinal) || line.StartsWith("forged", StringComparison.Ordinal)
            );
        }

        Assert.Contains("\\u001b[2J", (await service.AskAsync("changes", "1")).Out);
        await service.GetAsync("/notes/%1b%5b2J");
        Assert.DoesNotContain('\u001b', service.Errors);
    }

    [Theory]
    [InlineData("Content-Length: +2\r\n", 400)]
    [InlineData("Content-Length: 0x2\r\n", 400)]
    [InlineData("Content-Length: 2, 2\r\n", 400)]
    [InlineData("Content-Length: -2\r\n", 400)]
    [InlineData("Content-Length: 2\r\n", 415)]
    public async Task The_length_of_a_body_is_digits(string length, int status)
    {
        using var service = await ServeAsync("INSERT INTO note (name) VALUES ('one');");
        var answer = await service.SendAsync(
            $"POST /notes/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{service.Port}\r\nContent-Type: "
                + $"text/x-any\r\n{length}Connection: close\r\n\r\nab"
        );
        Assert.Equal(status, answer.Status);
    }

    [Fact]
    public async Task Unknown_members_are_answered_briefly()
    {
        using var service = await ServeAsync("INSERT INTO note (name) VALUES ('one');");
        using var program = new Visitor(service.PagesUrl);
        var many = string.Join(',', Enumerable.Range(0, 20_000).Select(i => $"\"member-{i}-{new string('x', 20)}\":1"));
        foreach (
            var body in new[]
            {
                $"{{\"fields\":{{{many}}}}}",
                $"{{{many},\"fields\":{{}}}}",
                $"{{\"fields\":{{\"{new string('y', 500_000)}\":1}}}}",
            }
        )
        {
            var answer = await program.PatchAsync("/notes/1/edit", body, "*");
            Assert.Equal((422, true), (answer.Status, answer.Body.Length < 4000));
        }
    }

    [Fact]
    public async Task A_new_token_ends_the_old_one_and_codes_end_by_themselves()
    {
        using var service = await ServeAsync("INSERT INTO note (name) VALUES ('one');");
        var old = await File.ReadAllTextAsync(Path.Combine(service.State, "token"), TestContext.Current.CancellationToken);
        var code = new Uri((await service.AskAsync("console")).Out.Trim()).Fragment["#code=".Length..];
        Assert.Equal(200, await StatusAsync("GET", "api/site", old));
        var renewed = await service.AskAsync("console", "--renew");
        Assert.StartsWith(service.ConsoleUrl, renewed.Out);
        var now = await File.ReadAllTextAsync(Path.Combine(service.State, "token"), TestContext.Current.CancellationToken);
        Assert.NotEqual(old, now);
        Assert.Equal((401, 200), (await StatusAsync("GET", "api/site", old), await StatusAsync("GET", "api/site", now)));
        Assert.Equal(403, await StatusAsync("POST", "api/session", null, $"{{\"code\":\"{code}\"}}"));
        Assert.Equal(
            200,
            await StatusAsync(
                "POST",
                "api/session",
                null,
                $"{{\"code\":\"{new Uri(renewed.Out.Trim()).Fragment["#code=".Length..]}\"}}"
            )
        );
        Assert.Equal(0, (await service.AskAsync("pages")).ExitCode);

        // Another process of the same state folder makes a new one: this one sees it at once.
        await File.WriteAllTextAsync(Path.Combine(service.State, "token"), old, TestContext.Current.CancellationToken);
        Assert.Equal((200, 401), (await StatusAsync("GET", "api/site", old), await StatusAsync("GET", "api/site", now)));

        async Task<int> StatusAsync(string method, string path, string? token, string? body = null)
        {
            using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false });
            using var request = new HttpRequestMessage(new HttpMethod(method), service.ConsoleUrl + path);
            if (token is not null)
                request.Headers.Authorization = new("Bearer", token);
            if (body is not null)
                request.Content = new StringContent(body, Encoding.UTF8, "application/json");
            using var answer = await http.SendAsync(request);
            return (int)answer.StatusCode;
        }
    }

    [Fact]
    public async Task A_picture_is_what_its_file_holds_whatever_its_name()
    {
        Directory.CreateDirectory(_folder.File("pics"));
        var kinds = new[]
        {
            ("png", "image/png"),
            ("jpg", "image/jpeg"),
            ("gif", "image/gif"),
            ("webp", "image/webp"),
            ("avif", "image/avif"),
            ("svg", "image/svg+xml"),
        };
        foreach (var (kind, _) in kinds)
            File.Copy(Repository.File($"tests/pictures/bridge.{kind}"), _folder.File($"pics/{kind}.bin"));

        // Nearly a picture: what a character of UTF-8 makes of the first byte, half a signature, a text that names one.
        File.WriteAllBytes(_folder.File("pics/no1"), [0xc2, 0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10, 0, 0]);
        File.WriteAllBytes(_folder.File("pics/no2"), [0x89, (byte)'P', (byte)'N', (byte)'G', 10, 10, 10, 10, 0]);
        File.WriteAllText(_folder.File("pics/no3"), "<p><svg></svg>");
        string[] names = [.. kinds.Select(kind => $"{kind.Item1}.bin"), "no1", "no2", "no3"];
        using var service = await ServeAsync(
            string.Concat(names.Select(name => $"INSERT INTO note (name, picture) VALUES ('{name}', '{name}');"))
        );
        for (var i = 0; i < names.Length; i++)
        {
            var answer = await service.GetAsync($"/_jexa/pictures/note/picture/{i + 1}");
            Assert.Equal(i < kinds.Length ? (200, kinds[i].Item2) : (404, null), (answer.Status, answer.Header("Content-Type")));
        }
    }

    [Fact]
    public async Task A_pattern_that_is_too_large_is_a_finding_and_no_crash()
    {
        _folder.MakeDatabase("CREATE TABLE note (id TEXT PRIMARY KEY, name TEXT COLLATE NOCASE)");
        foreach (var pattern in new[] { "\\p{L}{1,4000}", "(a{1,100}){1,100}{1,100}", "[", "(?=a)", new string('(', 5000) })
        {
            var app = _folder.Write(
                "app.yaml",
                $$"""
                app: Notes
                sources: { s: { engine: sqlite, connection: data.db } }
                records: { note: { from: s.note, fields: { id: { pattern: '{{pattern}}' }, name: { pattern: '{{pattern}}' } } } }
                pages: { note: { path: "/notes/{id}", detail: note }, by-name: { path: "/by{?name}", detail: note, by: { name: name } } }
                """
            );
            var ran = await RunningService.RunAsync("check", app);
            Assert.DoesNotContain("unforeseen", ran.Error);
            Assert.True(ran.ExitCode == 1 && ran.Out.Contains("JX306", StringComparison.Ordinal), ran.Out + ran.Error);
        }
    }

    [Fact]
    public async Task A_second_demo_says_so_and_leads_to_programs_of_its_own()
    {
        using var first = await RunningService.StartAsync("demo");
        using var second = await RunningService.StartAsync("demo");
        var places = new List<string>();
        foreach (var demo in new[] { first, second })
        {
            var led = (await demo.GetAsync("/sketches")).Header("Location")!;
            places.Add(led);
            using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false });
            Assert.Contains(
                demo.PagesUrl.TrimEnd('/'),
                await http.GetStringAsync(new Uri(new Uri(led), "/config.js"), TestContext.Current.CancellationToken)
            );
        }

        Assert.NotEqual(places[0], places[1]);
        await second.SaysAsync("Another demo is running on this machine");
    }
}
