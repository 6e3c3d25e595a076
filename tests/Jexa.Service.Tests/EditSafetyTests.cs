using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>
/// What must not be written, and what must not be lost: forms from elsewhere, bodies that are none, sources that cannot take
/// them.
/// </summary>
public abstract class EditSafetyTests(EditApp app)
{
    [Theory]
    [InlineData("Origin", "https://elsewhere.example")]
    [InlineData("Origin", "null")]
    [InlineData("Origin", "http://127.0.0.1:1")]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    [InlineData("Sec-Fetch-Site", "same-site")]
    public async Task Nothing_is_taken_from_pages_of_another_origin(string header, string value)
    {
        using var visitor = app.Visit();
        var form = await visitor.FormAsync("/bridges/1/edit");
        var reply = await visitor.PostAsync(form.With(("name", "Foreign")), (header, value));
        Assert.Equal((403, "First"), (reply.Status, app.Ask("SELECT name FROM bridge WHERE bridge_id = 1")));
        Assert.Equal(
            403,
            (await visitor.SendAsync(HttpMethod.Delete, "/bridges/1/delete", null, ("If-Match", "*"), (header, value))).Status
        );
        Assert.Equal(
            403,
            (
                await visitor.SendAsync(
                    HttpMethod.Patch,
                    "/bridges/1/edit",
                    new StringContent("{}", Encoding.UTF8, "application/json"),
                    ("If-Match", "*"),
                    (header, value)
                )
            ).Status
        );
    }

    [Fact]
    public async Task A_form_belongs_to_its_visitor_its_page_and_its_record()
    {
        using var visitor = app.Visit();
        using var other = app.Visit();
        var form = (await visitor.FormAsync("/bridges/1/edit")).With(("name", "Taken over"));
        var without = await other.PostAsync(form);
        Assert.Equal((403, "Taken over"), (without.Status, Visitor.FormOf(without).Fields["name"]));
        Assert.Contains("Please allow cookies", without.Body);
        await other.FormAsync("/bridges/1/edit");
        Assert.Equal(403, (await other.PostAsync(form)).Status);
        Assert.Equal(403, (await visitor.PostAsync(form with { Action = "/bridges/2/edit" })).Status);
        Assert.Equal(403, (await visitor.PostAsync(form with { Action = "/bridges/new" })).Status);
        Assert.Equal(403, (await visitor.PostAsync(form.With(("_jexa", "made-up")))).Status);
        Assert.Equal(403, (await visitor.PostAsync(form.With(("_jexa", form.Fields["_jexa"][..^4] + "AAAA")))).Status);
        Assert.Equal(403, (await visitor.PostAsync(form.With(("_jexa", null)))).Status);
        Assert.Equal("First", app.Ask("SELECT name FROM bridge WHERE bridge_id = 1"));

        // The browser keeps the cookie from scripts, and sends it from this site only.
        var cookie = (await app.Service.GetAsync("/bridges/1/edit")).Header("Set-Cookie")!;
        Assert.Matches("^jexa-visitor=[0-9a-f]{32}; path=/; samesite=lax; httponly$", cookie);
    }

    [Fact]
    public async Task No_GET_acts()
    {
        var before = app.Ask("SELECT count(*) || group_concat(name) FROM bridge");
        using var visitor = app.Visit();
        foreach (
            var path in new[]
            {
                "/bridges/1/delete",
                "/bridges/1/delete?_jexa.end=1",
                "/bridges/1/edit?name=x",
                "/bridges/new?name=x",
            }
        )
        {
            Assert.Equal(200, (await visitor.GetAsync(path)).Status);
            Assert.Equal(200, (await visitor.SendAsync(HttpMethod.Head, path)).Status);
        }

        Assert.Equal(before, app.Ask("SELECT count(*) || group_concat(name) FROM bridge"));
    }

    [Theory]
    [InlineData("name=%FF&_jexa.end=1", 400)]
    [InlineData("name=%00&_jexa.end=1", 400)]
    [InlineData("name=%C3&_jexa.end=1", 400)]
    [InlineData("name=a%2&_jexa.end=1", 400)]
    [InlineData("name=abc", 400)]
    [InlineData("", 400)]
    [InlineData("&&&=&_jexa.end=1", 403)]
    public async Task A_form_that_cannot_be_read_changes_nothing(string body, int status)
    {
        using var visitor = app.Visit();
        var reply = await visitor.SendAsync(
            HttpMethod.Post,
            "/bridges/1/edit",
            new StringContent(body, Encoding.ASCII, "application/x-www-form-urlencoded")
            {
                Headers = { ContentType = new("application/x-www-form-urlencoded") },
            }
        );
        Assert.Equal(status, reply.Status);
        Assert.Equal("First", app.Ask("SELECT name FROM bridge WHERE bridge_id = 1"));
    }

    [Theory]
    [InlineData("")]
    [InlineData("{")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("{\"fields\":{\"name\":\"a\",\"name\":\"b\"}}")]
    [InlineData("{\"fields\":{\"name\":{\"a\":{\"a\":{\"a\":{\"a\":{\"a\":{\"a\":{\"a\":{\"a\":1}}}}}}}}}}")]
    public async Task JSON_that_cannot_be_read_changes_nothing(string body)
    {
        using var program = app.Visit();
        var reply = await program.PatchAsync("/bridges/1/edit", body, "*");
        Assert.Equal((400, "unreadable"), (reply.Status, reply.Json.GetProperty("outcome").GetString()));
        var raw = Encoding.Latin1.GetBytes("{\"fields\":{\"name\":\"\u00ff\"}}");
        var answer = await RunningService.SendAsync(
            app.Service.Port,
            [
                .. Encoding.ASCII.GetBytes(
                    $"PATCH /bridges/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{app.Service.Port}\r\nIf-Match: "
                        + $"*\r\nContent-Type: application/json\r\nContent-Length: {raw.Length}\r\nConnection: "
                        + "close\r\n\r\n"
                ),
                .. raw,
            ]
        );
        Assert.Equal(400, answer.Status);
        Assert.Equal("First", app.Ask("SELECT name FROM bridge WHERE bridge_id = 1"));
    }

    [Fact]
    public async Task Text_with_NUL_or_lone_surrogates_is_no_value()
    {
        using var program = app.Visit();
        Assert.Equal(422, (await program.PatchAsync("/bridges/1/edit", """{"fields":{"name":"a\u0000b"}}""", "*")).Status);
        var lone = await program.PatchAsync("/bridges/1/edit", """{"fields":{"name":"a\ud800b"}}""", "*");
        Assert.InRange(lone.Status, 400, 422);
        Assert.Equal("First", app.Ask("SELECT name FROM bridge WHERE bridge_id = 1"));
    }

    [Fact]
    public async Task A_body_of_50_MB_or_one_that_ends_early_is_refused_and_the_service_goes_on()
    {
        using (var client = new TcpClient { NoDelay = true })
        {
            await client.ConnectAsync("127.0.0.1", app.Service.Port);
            var stream = client.GetStream();
            await stream.WriteAsync(
                Encoding.ASCII.GetBytes(
                    $"POST /bridges/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{app.Service.Port}\r\nContent-Type: "
                        + "application/x-www-form-urlencoded\r\nContent-Length: 52428800\r\n\r\n"
                )
            );
            var buffer = new byte[4096];
            var read = await stream.ReadAsync(buffer);
            Assert.StartsWith("HTTP/1.1 413", Encoding.ASCII.GetString(buffer, 0, read));
        }

        var chunk = new string('a', 65_536);
        var chunked = await RunningService.SendAsync(
            app.Service.Port,
            Encoding.ASCII.GetBytes(
                $"POST /bridges/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{app.Service.Port}\r\nContent-Type: "
                    + "application/x-www-form-urlencoded\r\nTransfer-Encoding: chunked\r\n\r\n"
                    + string.Concat(Enumerable.Repeat($"10000\r\n{chunk}\r\n", 40))
            )
        );
        Assert.Equal(413, chunked.Status);

        using (var client = new TcpClient())
        {
            await client.ConnectAsync("127.0.0.1", app.Service.Port);
            await client
                .GetStream()
                .WriteAsync(
                    Encoding.ASCII.GetBytes(
                        $"POST /bridges/1/edit HTTP/1.1\r\nHost: 127.0.0.1:{app.Service.Port}\r\nContent-Type: "
                            + "application/x-www-form-urlencoded\r\nContent-Length: 5000\r\n\r\nname=half"
                    )
                );
        }

        using var visitor = app.Visit();
        Assert.Equal(
            422,
            (
                await visitor.PostAsync((await visitor.FormAsync("/bridges/1/edit")).With(("name", new string('x', 250_000))))
            ).Status
        );
        Assert.Equal("First", app.Ask("SELECT name FROM bridge WHERE bridge_id = 1"));
    }

    [Fact]
    public async Task A_locked_database_loses_nothing_that_was_typed()
    {
        using var visitor = app.Visit();
        var form = (await visitor.FormAsync("/bridges/2/edit")).With(("name", "Typed while locked"));
        Reply reply;
        using (app.Hold("SELECT bridge_id FROM bridge WHERE bridge_id = 2 FOR UPDATE"))
            reply = await visitor.PostAsync(form);

        Assert.Equal((503, "Typed while locked"), (reply.Status, Visitor.FormOf(reply).Fields["name"]));
        Assert.True(reply.Headers.RetryAfter is not null);
        Assert.Equal("Second", app.Ask("SELECT name FROM bridge WHERE bridge_id = 2"));
        Assert.DoesNotContain("\"intended\"", (await app.Service.AskAsync("changes", "--json")).Out);
        Assert.Equal(303, (await visitor.PostAsync(Visitor.FormOf(reply))).Status);
        app.Do("UPDATE bridge SET name = 'Second' WHERE bridge_id = 2");
    }

    [Fact]
    public async Task Two_processes_of_one_state_folder_are_one_service_to_a_visitor()
    {
        using var second = await SharedService.StartAsync(app);
        using var visitor = app.Visit();
        using var elsewhere = new Visitor(second.PagesUrl);
        foreach (Cookie cookie in visitor.Cookies.GetAllCookies())
            elsewhere.Cookies.Add(cookie);
        var form = await visitor.FormAsync("/bridges/2/edit");
        foreach (Cookie cookie in visitor.Cookies.GetAllCookies())
            elsewhere.Cookies.Add(new Uri(second.PagesUrl), new Cookie(cookie.Name, cookie.Value));
        var saved = await elsewhere.PostAsync(form.With(("name", "Saved by the other")));
        Assert.Equal(303, saved.Status);
        foreach (Cookie cookie in elsewhere.Cookies.GetAllCookies())
            visitor.Cookies.Add(new Uri(app.Service.PagesUrl), new Cookie(cookie.Name, cookie.Value));
        Assert.Contains("Saved: Saved by the other.", (await visitor.GetAsync("/bridges/2")).Body);

        // What one process wrote the other does not write again.
        var again = await visitor.PostAsync(form.With(("name", "Saved by the other")));
        Assert.Equal((303, "/bridges/2"), (again.Status, again.Location));
        app.Do("UPDATE bridge SET name = 'Second' WHERE bridge_id = 2");
    }
}

/// <summary>A second process over the app and the state of another.</summary>
public sealed class SharedService : IDisposable
{
    private readonly System.Diagnostics.Process _process;

    private SharedService(System.Diagnostics.Process process, string url) => (_process, PagesUrl) = (process, url);

    public string PagesUrl { get; }

    public static async Task<SharedService> StartAsync(EditApp app)
    {
        var start = new System.Diagnostics.ProcessStartInfo("dotnet")
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (
            var argument in new[]
            {
                RunningService.Program,
                "serve",
                app.Folder.File("app.yaml"),
                "--port",
                "0",
                "--console-port",
                "0",
                "--state",
                app.Service.State,
            }
        )
            start.ArgumentList.Add(argument);
        var process = System.Diagnostics.Process.Start(start)!;
        while (await process.StandardOutput.ReadLineAsync() is { } line)
            if (System.Text.RegularExpressions.Regex.Match(line, @"pages\s+(http://\S+)") is { Success: true } pages)
                return new SharedService(process, pages.Groups[1].Value);
        throw new InvalidOperationException(await process.StandardError.ReadToEndAsync());
    }

    public void Dispose()
    {
        _process.Kill();
        _process.WaitForExit();
        _process.Dispose();
    }
}
