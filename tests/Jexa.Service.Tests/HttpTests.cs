using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using AngleSharp.Html.Parser;

namespace Jexa.Service.Tests;

/// <summary>The pages' door over real HTTP, byte for byte.</summary>
public class HttpTests(DemoService demo)
{
    private RunningService Service => demo.Service;

    [Theory]
    // Integer IDs.
    [InlineData("/bridges/7", 200, "found")]
    [InlineData("/bridges/%37", 200, "found")]
    [InlineData("/bridges/007", 301, "/bridges/7")]
    [InlineData("/bridges/+7", 301, "/bridges/7")]
    [InlineData("/bridges/-0", 301, "/bridges/0")]
    [InlineData("/bridges/-1", 404, "unknown")]
    [InlineData("/bridges/%207", 400, "malformed")]
    [InlineData("/bridges/7.0", 400, "malformed")]
    [InlineData("/bridges/1e3", 400, "malformed")]
    [InlineData("/bridges/0x7", 400, "malformed")]
    [InlineData("/bridges/%EF%BC%97", 400, "malformed")]
    [InlineData("/bridges/9223372036854775807", 404, "unknown")]
    [InlineData("/bridges/9223372036854775808", 400, "malformed")]
    [InlineData("/bridges/-9223372036854775809", 400, "malformed")]
    [InlineData("/bridges/", 301, "/bridges")]
    [InlineData("/bridges/7/", 301, "/bridges/7")]
    [InlineData("/bridges/%", 400, "malformed")]
    [InlineData("/bridges/%zz", 400, "malformed")]
    [InlineData("/bridges/%ff", 400, "malformed")]
    [InlineData("/bridges/..", 400, "malformed")]
    [InlineData("/bridges/%2e%2e", 400, "malformed")]
    [InlineData("/bridges/a%2Fb", 400, "malformed")]
    [InlineData("/bridges/7\\8", 400, "malformed")]
    [InlineData("/bridges//", 404, "no-page")]
    [InlineData("//", 404, "no-page")]
    [InlineData("//bridges/7", 404, "no-page")]
    [InlineData("/BRIDGES/7", 404, "no-page")]
    [InlineData("/bridges/7?id=8", 200, "found")]
    [InlineData("/bridges/7?ID=8", 200, "found")]
    [InlineData("/bridges/%27%3B%20drop%20table%20bridge%3B%20--", 400, "malformed")]
    [InlineData("/bridges/';drop", 400, "malformed")]
    [InlineData("/bridges/<script>", 400, "malformed")]
    [InlineData("/bridges/%3Cscript%3E", 400, "malformed")]
    [InlineData("/bridges/%F0%9F%98%80", 400, "malformed")]
    [InlineData("/bridges/%CC%81", 400, "malformed")]
    [InlineData("/bridges/13", 404, "unknown")]
    // Text IDs in the path.
    [InlineData("/districts/st-anne%27s", 200, "found")]
    [InlineData("/districts/st-anne's", 200, "found")]
    [InlineData("/districts/l%C3%B8kke", 200, "found")]
    [InlineData("/districts/n%2Fw-moor", 200, "found")]
    [InlineData("/districts/n/w-moor", 404, "no-page")]
    [InlineData("/districts/50%25-common", 200, "found")]
    [InlineData("/districts/mill%2Bweir", 200, "found")]
    [InlineData("/districts/mill+weir", 200, "found")]
    [InlineData("/districts/mill%20weir", 404, "unknown")]
    [InlineData("/districts/q%3F-hill", 200, "found")]
    [InlineData("/districts/high%20%233", 200, "found")]
    [InlineData("/districts/cafe%CC%81-row", 200, "found")]
    [InlineData("/districts/caf%C3%A9-row", 404, "unknown")]
    [InlineData("/districts/new", 200, "found")]
    [InlineData("/districts/NEW", 404, "unknown")]
    [InlineData("/districts/", 301, "/districts")]
    [InlineData("/districts/%", 400, "malformed")]
    [InlineData("/districts/%zz", 400, "malformed")]
    [InlineData("/districts/%ff", 400, "malformed")]
    [InlineData("/districts/%C0%AF", 400, "malformed")]
    [InlineData("/districts/..", 400, "malformed")]
    [InlineData("/districts/%2e%2e", 400, "malformed")]
    [InlineData("/districts/a%2Fb", 404, "unknown")]
    [InlineData("/districts/007", 404, "unknown")]
    [InlineData("/districts/%27%3B%20drop%20table%20bridge%3B%20--", 404, "unknown")]
    [InlineData("/districts/%3Cscript%3E", 404, "unknown")]
    [InlineData("/districts/%F0%9F%98%80", 404, "unknown")]
    [InlineData("/districts/%CC%81", 404, "unknown")]
    [InlineData("/districts/%0d%0aSet-Cookie:%20a=b", 404, "unknown")]
    // Text IDs in the query string, under a collation that folds case.
    [InlineData("/lookup?code=AV-0007", 200, "found")]
    [InlineData("/lookup?code=AV-0007&other=1", 200, "found")]
    [InlineData("/lookup?code=av-0007&other=%20", 301, "/lookup?code=AV-0007&other=%20")]
    [InlineData("/lookup?code=AV%2D0007", 200, "found")]
    [InlineData("/lookup?code=+AV-0007", 400, "malformed")]
    [InlineData("/lookup?code=AV-00070", 400, "malformed")]
    [InlineData("/lookup?code=AV-9999", 404, "unknown")]
    [InlineData("/lookup?code=AV-0013", 404, "unknown")]
    [InlineData("/lookup?code=..", 400, "malformed")]
    [InlineData("/lookup?code=%zz", 400, "malformed")]
    [InlineData("/lookup?code=%ff", 400, "malformed")]
    [InlineData("/lookup?code=AV-0007&code=AV-0007", 400, "malformed")]
    [InlineData("/lookup?CODE=AV-0007", 400, "malformed")]
    [InlineData("/lookup?Code=AV-0007", 400, "malformed")]
    [InlineData("/lookup", 302, "/bridges?lacking=lookup.code")]
    [InlineData("/lookup?code", 302, "/bridges?lacking=lookup.code")]
    [InlineData("/lookup?code=", 302, "/bridges?lacking=lookup.code")]
    // UUIDs, stored plainly, in capitals and as bytes.
    [InlineData("/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f6", 200, "found")]
    [InlineData("/inspectors/8a029f6c-47df-4efa-9250-8eb2104a6fd3", 200, "found")]
    [InlineData("/inspectors/4afab698-b6ba-42a5-9e12-a7197a665ded", 200, "found")]
    [InlineData("/inspectors/A2EC3157-BDE3-43EA-8711-9DA5BD7F99F6", 301, "/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f6")]
    [InlineData(
        "/inspectors/%7Ba2ec3157-bde3-43ea-8711-9da5bd7f99f6%7D",
        301,
        "/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f6"
    )]
    [InlineData("/inspectors/a2ec3157bde343ea87119da5bd7f99f6", 301, "/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f6")]
    [InlineData("/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f7", 404, "unknown")]
    [InlineData("/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99f", 400, "malformed")]
    [InlineData("/inspectors/a2ec3157-bde3-43ea-8711-9da5bd7f99fg", 400, "malformed")]
    [InlineData("/inspectors/(a2ec3157-bde3-43ea-8711-9da5bd7f99f6)", 400, "malformed")]
    [InlineData("/inspectors/7", 400, "malformed")]
    [InlineData("/inspectors/%ff", 400, "malformed")]
    // Two numbers together.
    [InlineData("/bridges/7/spans/1", 200, "found")]
    [InlineData("/bridges/007/spans/+1?x=1", 301, "/bridges/7/spans/1?x=1")]
    [InlineData("/bridges/7/spans/99", 404, "unknown")]
    [InlineData("/bridges/99999/spans/1", 404, "unknown")]
    [InlineData("/bridges/7/spans/one", 400, "malformed")]
    [InlineData("/bridges/seven/spans/1", 400, "malformed")]
    [InlineData("/bridges/7/spans/", 301, "/bridges/7/spans")]
    [InlineData("/bridges/7/spans", 200, "listed")]
    [InlineData("/bridges/7/spons", 404, "no-page")]
    [InlineData("/inspections/9600", 200, "found")]
    [InlineData("/inspections/9601", 404, "unknown")]
    // The rest.
    [InlineData("/", 302, "/bridges")]
    [InlineData("/trials/calm", 200, "found")]
    [InlineData("/trials/twin", 500, "ambiguous")]
    [InlineData("/trials/broken", 500, "failed")]
    [InlineData("/trials/", 404, "missing")]
    [InlineData("/bridges?after=x", 400, "malformed")]
    public async Task Every_ID_gets_the_right_answer_in_HTML_and_JSON(string target, int status, string expected)
    {
        var html = await Service.GetAsync(target);
        Assert.Equal(status, html.Status);
        AssertIsSafe(html);
        if (status is 301 or 302)
        {
            Assert.Equal(expected, html.Header("Location"));
            Assert.Equal("no-store", html.Header("Cache-Control"));
        }
        else
        {
            Assert.Equal("text/html; charset=utf-8", html.Header("Content-Type"));
            AssertIsHtml(html.Body);
        }

        var json = await Service.GetJsonAsync(target);
        var missing = status == 302 && target != "/" && target.Length > 1;
        Assert.Equal(missing || expected == "missing" ? 400 : status, json.Status);
        if (json.Body.Length == 0)
            return;
        using var body = JsonDocument.Parse(json.Body);
        Assert.Equal(missing ? "missing" : expected, body.RootElement.GetProperty("outcome").GetString());
        Assert.Equal(json.Status < 400 ? "application/json" : "application/problem+json", json.Header("Content-Type"));
        if (json.Status >= 400)
            Assert.Equal(json.Status, body.RootElement.GetProperty("status").GetInt32());
    }

    [Theory]
    [InlineData("/bridges/{0}", "malformed")]
    [InlineData("/districts/{0}", "malformed")]
    [InlineData("/lookup?code={0}", "malformed")]
    public async Task Ten_thousand_digits_are_malformed(string target, string outcome)
    {
        var answer = await Service.GetJsonAsync(string.Format(target, new string('7', 10_000)));
        Assert.Equal(400, answer.Status);
        Assert.Contains($"\"outcome\":\"{outcome}\"", answer.Body);
    }

    [Theory]
    [InlineData("/bridges/%00")]
    [InlineData("/districts/a%00b")]
    [InlineData("/bridges/ 7")]
    [InlineData("/bridges/7\u0001")]
    [InlineData("/bridges/\u00f8")]
    public async Task What_the_server_itself_refuses_is_a_400(string target)
    {
        var answer = await Service.GetAsync(target);
        Assert.Equal(400, answer.Status);
        Assert.DoesNotContain("Exception", answer.Body);
    }

    [Fact]
    public async Task A_NUL_in_a_query_string_is_malformed()
    {
        var answer = await Service.GetJsonAsync("/lookup?code=%00");
        Assert.Equal(400, answer.Status);
    }

    [Fact]
    public async Task An_address_of_a_hundred_kilobytes_is_refused_and_nothing_more()
    {
        Assert.Equal(414, (await Service.GetAsync("/bridges/" + new string('7', 100_000))).Status);
        Assert.Equal(200, (await Service.GetAsync("/bridges/7")).Status);
    }

    [Theory]
    [InlineData("http://127.0.0.1:{0}/bridges/7", 200)]
    [InlineData("http://127.0.0.1:{0}/bridges/%2e%2e", 400)]
    [InlineData("http://127.0.0.1:{0}/districts/n%2Fw-moor", 200)]
    [InlineData("http://127.0.0.1:{0}/", 302)]
    public async Task Absolute_form_is_stripped(string target, int status)
    {
        var absolute = string.Format(target, Service.Port);
        Assert.Equal(
            status,
            (
                await Service.SendAsync($"GET {absolute} HTTP/1.1\r\nHost: 127.0.0.1:{Service.Port}\r\nConnection: close\r\n\r\n")
            ).Status
        );
    }

    [Theory]
    [InlineData("Host: register.example", 421)]
    [InlineData("Host: 127.0.0.1", 421)]
    [InlineData("Host: 127.0.0.1:1", 421)]
    [InlineData("Host: 127.0.0.1.example:{0}", 421)]
    [InlineData("Host: localhost.example:{0}", 421)]
    [InlineData("Host: localhost:{0}", 200)]
    [InlineData("Host: 127.0.0.1:{0}\r\nX-Forwarded-Host: register.example", 200)]
    [InlineData("Host: ", 421)]
    [InlineData("X-No-Host: 1", 400)]
    [InlineData("Host: a\r\nHost: b", 400)]
    public async Task A_door_answers_to_its_own_names_only(string header, int status)
    {
        foreach (var port in new[] { Service.Port, Service.ConsolePort })
        {
            var path = port == Service.Port ? "/bridges/7" : "/openapi.json";
            var answer = await RunningService.SendAsync(
                port,
                Encoding.ASCII.GetBytes($"GET {path} HTTP/1.1\r\n{string.Format(header, port)}\r\nConnection: close\r\n\r\n")
            );
            Assert.Equal(status, answer.Status);
            Assert.DoesNotContain("AV-0007", status == 200 ? "" : answer.Body);
        }
    }

    [Theory]
    [InlineData("POST")]
    [InlineData("PUT")]
    [InlineData("DELETE")]
    [InlineData("PATCH")]
    [InlineData("BREW")]
    public async Task A_wrong_method_is_told_which_are_right(string method)
    {
        var answer = await Service.GetAsync("/bridges/007", "Content-Length: 0\r\n", method);
        Assert.Equal((405, "GET, HEAD"), (answer.Status, answer.Header("Allow")));
        AssertIsSafe(answer);
    }

    [Fact]
    public async Task OPTIONS_of_everything_and_CONNECT_never_fail()
    {
        foreach (var line in new[] { "OPTIONS * HTTP/1.1", "CONNECT 127.0.0.1:80 HTTP/1.1" })
        {
            var answer = await Service.SendAsync($"{line}\r\nHost: 127.0.0.1:{Service.Port}\r\nConnection: close\r\n\r\n");
            Assert.InRange(answer.Status, 400, 421);
        }
    }

    [Theory]
    [InlineData("*/*", false)]
    [InlineData("", false)]
    [InlineData("nonsense;;;/json", false)]
    [InlineData("application/json", true)]
    [InlineData("application/problem+json", true)]
    [InlineData("text/html, application/json", false)]
    [InlineData("text/html;q=0.5, application/json", true)]
    [InlineData("application/json, */*;q=0.1", true)]
    [InlineData("text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8", false)]
    public async Task An_Accept_that_cannot_be_read_or_takes_either_gets_HTML(string accept, bool json)
    {
        var answer = await Service.GetAsync("/bridges/7", $"Accept: {accept}\r\n");
        Assert.Equal(200, answer.Status);
        Assert.Equal(json ? "application/json" : "text/html; charset=utf-8", answer.Header("Content-Type"));
        Assert.Equal("Accept, Accept-Encoding, Origin", answer.Header("Vary"));
    }

    [Fact]
    public async Task A_body_whose_length_is_said_in_two_ways_is_refused()
    {
        foreach (var port in new[] { Service.Port, Service.ConsolePort })
        {
            var answer = await RunningService.SendAsync(
                port,
                Encoding.ASCII.GetBytes(
                    $"POST /bridges HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nContent-Length: 5\r\nTransfer-Encoding: "
                        + $"chunked\r\n\r\n0\r\n\r\nGET /bridges/7 HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\n\r\n"
                )
            );
            Assert.Equal(400, answer.Status);
            Assert.DoesNotContain("AV-0007", answer.Body);
        }
    }

    [Fact]
    public async Task Hidden_and_unknown_are_the_same_bytes_but_for_the_ID()
    {
        foreach (var accept in new[] { "text/html", "application/json" })
        {
            foreach (
                var (hidden, unknown) in new[]
                {
                    ("/bridges/1192", "/bridges/9192"),
                    ("/lookup?code=AV-1192", "/lookup?code=AV-9192"),
                }
            )
            {
                var a = await Service.GetAsync(hidden, $"Accept: {accept}\r\n");
                var b = await Service.GetAsync(unknown, $"Accept: {accept}\r\n");
                Assert.Equal(404, a.Status);
                Assert.Equal(a.Body.Replace("1192", "9192"), b.Body);
                Assert.Equal(Stable(a.Head), Stable(b.Head));
            }
        }

        static string Stable(string head) => Regex.Replace(head, @"(Jexa-Visit|Date): [^\r]*", "$1: -");
    }

    [Fact]
    public async Task HEAD_is_GET_without_the_body()
    {
        var get = await Service.GetAsync("/bridges/7");
        var head = await Service.GetAsync("/bridges/7", method: "HEAD");
        Assert.Equal((200, ""), (head.Status, head.Body));
        Assert.Equal(get.Header("Content-Length"), head.Header("Content-Length"));
    }

    [Theory]
    [InlineData("/bridges/7")]
    [InlineData("/districts")]
    public async Task A_page_that_the_visitor_holds_is_not_sent_again(string target)
    {
        var first = await Service.GetAsync(target);
        var tag = first.Header("ETag")!;
        Assert.StartsWith("W/\"", tag);
        foreach (var held in new[] { tag, tag[2..], $"\"other\", {tag}", "*" })
        {
            var again = await Service.GetAsync(target, $"If-None-Match: {held}\r\n");
            Assert.Equal((304, "", tag), (again.Status, again.Body, again.Header("ETag")));
            Assert.Equal("Accept, Accept-Encoding, Origin", again.Header("Vary"));
        }

        Assert.Equal(200, (await Service.GetAsync(target, "If-None-Match: \"other\"\r\n")).Status);
        Assert.Equal(200, (await Service.GetAsync(target, $"If-None-Match: {tag}\r\nAccept: application/json\r\n")).Status);
        Assert.Equal("private, no-cache", first.Header("Cache-Control"));
        Assert.Null((await Service.GetAsync("/bridges/abc", "If-None-Match: *\r\n")).Header("ETag"));
    }

    [Fact]
    public async Task Pages_are_compressed_for_those_who_ask()
    {
        using var client = new HttpClient(
            new SocketsHttpHandler { AutomaticDecompression = System.Net.DecompressionMethods.Brotli }
        );
        var plain = await Service.GetAsync("/bridges");
        Assert.Null(plain.Header("Content-Encoding"));
        Assert.Equal(WithoutSlowCounts(plain.Body), WithoutSlowCounts(await client.GetStringAsync(Service.PagesUrl + "bridges")));
        var compressed = await Service.GetAsync("/bridges", "Accept-Encoding: gzip, br\r\n", "HEAD");
        Assert.Equal("br", compressed.Header("Content-Encoding"));
        Assert.InRange(int.Parse(compressed.Header("Content-Length")!), 500, plain.Body.Length / 2);
        Assert.Null((await Service.GetAsync("/bridges", "Accept-Encoding: br;q=0\r\n", "HEAD")).Header("Content-Encoding"));
        Assert.Null((await Service.GetAsync("/bridges", "Accept-Encoding: gzip\r\n", "HEAD")).Header("Content-Encoding"));
    }

    /// <summary>A count that took long is kept for a minute, and the page says so: that depends on the machine alone.</summary>
    private static string WithoutSlowCounts(string body) =>
        body.Replace("<p class=\"none\">Counted within the last minute.</p>\n", "");

    [Fact]
    public async Task Links_around_a_page_stand_in_its_head_too()
    {
        Assert.Matches(
            "^</bridges/7>; rel=\"canonical\", </bridges>; rel=\"collection\", "
                + "</bridges/[0-9]+\\?from=[^>]+>; rel=\"prev\", </bridges/[0-9]+\\?from=[^>]+>; rel=\"next\"$",
            (await Service.GetAsync("/bridges/7")).Header("Link")
        );
        Assert.Matches(
            "^</bridges\\?after=[^>]+>; rel=\"next\", </bridges\\?before=end>; rel=\"last\"$",
            (await Service.GetAsync("/bridges")).Header("Link")
        );
        Assert.Null((await Service.GetAsync("/bridges/99999")).Header("Link"));
    }

    [Fact]
    public async Task Every_answer_carries_its_visits_number()
    {
        var first = long.Parse((await Service.GetAsync("/bridges/7")).Header("Jexa-Visit")!);
        var second = long.Parse((await Service.GetAsync("/bridges/%zz")).Header("Jexa-Visit")!);
        Assert.True(second > first);
    }

    [Fact]
    public async Task The_style_sheet_is_served_and_kept()
    {
        var style = await Service.GetAsync("/_jexa/style.css");
        Assert.Equal((200, "text/css; charset=utf-8"), (style.Status, style.Header("Content-Type")));
        Assert.Equal(304, (await Service.GetAsync("/_jexa/style.css", $"If-None-Match: {style.Header("ETag")}\r\n")).Status);
        Assert.Equal(405, (await Service.GetAsync("/_jexa/style.css", "Content-Length: 0\r\n", "POST")).Status);
        Assert.Equal(404, (await Service.GetAsync("/_jexa/../../token")).Status is 400 or 404 ? 404 : 0);
        Assert.Equal(404, (await Service.GetAsync("/_jexa/other")).Status);
    }

    [Fact]
    public async Task A_list_as_JSON_can_be_walked_to_its_end_and_every_record_reached()
    {
        var seen = new HashSet<string>();
        string? next = "/bridges";
        for (var windows = 0; next is not null; windows++)
        {
            Assert.True(windows < 30);
            using var list = JsonDocument.Parse((await Service.GetJsonAsync(next)).Body);
            Assert.Equal(1204, list.RootElement.GetProperty("total").GetProperty("count").GetInt64());
            foreach (var record in list.RootElement.GetProperty("records").EnumerateArray())
            {
                var id = record.GetProperty("id").GetString()!;
                Assert.True(seen.Add(id));
                Assert.Equal($"/bridges/{id}", record.GetProperty("address").GetString());
            }

            next = list.RootElement.GetProperty("next").GetString();
        }

        Assert.Equal(1204, seen.Count);
        foreach (var id in seen.Where((_, i) => i % 40 == 0))
        {
            using var record = JsonDocument.Parse((await Service.GetJsonAsync($"/bridges/{id}")).Body);
            Assert.Equal(id, record.RootElement.GetProperty("id").GetString());
            Assert.Equal($"AV-{int.Parse(id):0000}", record.RootElement.GetProperty("fields").GetProperty("code").GetString());
        }
    }

    [Fact]
    public async Task Values_in_JSON_are_of_their_types()
    {
        using var record = JsonDocument.Parse((await Service.GetJsonAsync("/bridges/7")).Body);
        var fields = record.RootElement.GetProperty("fields");
        Assert.Equal(JsonValueKind.String, fields.GetProperty("length_m").ValueKind);
        Assert.Equal(JsonValueKind.Number, fields.GetProperty("lanes").ValueKind);
        Assert.Equal(JsonValueKind.False, fields.GetProperty("toll").ValueKind);
        Assert.Equal("1937-10-03", fields.GetProperty("opened_on").GetString());
        Assert.Equal("cafe\u0301-row", fields.GetProperty("district").GetProperty("id").GetString());
        Assert.Equal("/districts/cafe%CC%81-row", fields.GetProperty("district").GetProperty("address").GetString());
    }

    [Fact]
    public async Task A_page_that_does_not_exist_names_the_nearest_ones()
    {
        var answer = await Service.GetAsync("/brigdes");
        Assert.Equal(404, answer.Status);
        Assert.Contains(
            "<a href=\"/bridges\">Bridges</a>",
            answer.Body[answer.Body.IndexOf("<main", StringComparison.Ordinal)..]
        );
    }

    private static void AssertIsSafe(RawAnswer answer)
    {
        Assert.Contains("script-src 'self'; ", answer.Header("Content-Security-Policy"));
        Assert.Equal("nosniff", answer.Header("X-Content-Type-Options"));
        Assert.NotNull(answer.Header("Jexa-Visit"));
        Assert.Null(answer.Header("Set-Cookie"));
        Assert.DoesNotContain("SELECT", answer.Body);
        Assert.DoesNotContain(
            "<script",
            System.Text.RegularExpressions.Regex.Replace(
                answer.Body,
                "<script src=\"/_jexa/(beside|loading|ahead).js\"( data-below=\"/\")? defer>",
                ""
            )
        );
        Assert.DoesNotContain("JSON", answer.Body);
    }

    private static void AssertIsHtml(string body)
    {
        var parser = new HtmlParser(new HtmlParserOptions { IsStrictMode = true });
        var document = parser.ParseDocument(body);
        Assert.NotEqual("", document.Title);
        Assert.Single(document.QuerySelectorAll("h1"));
        Assert.Equal("en-GB", document.DocumentElement.GetAttribute("lang"));
    }
}
