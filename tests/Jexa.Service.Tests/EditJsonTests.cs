using System.Text;

namespace Jexa.Service.Tests;

/// <summary>The same operations as programs use them.</summary>
public abstract class EditJsonTests(EditApp app)
{
    [Fact]
    public async Task A_record_is_read_with_its_version_changed_by_merge_patch_and_read_back()
    {
        var id = app.AddBridge("AV-3001", "Before");
        using var program = app.Visit();
        var read = await program.JsonAsync($"/bridges/{id}/edit");
        Assert.Equal(200, read.Status);
        Assert.False(read.Headers.ETag!.IsWeak);
        Assert.Equal(
            """{"name":"Before","code":"AV-3001","district":"moor","status":"open","length_m":"10","toll":false,"lit":null,"opened_on":null,"seen_at":null,"note":null}""".Replace(
                "\"10\"",
                $"\"{app.Tenths("10")}\""
            ),
            read.Json.GetProperty("fields").GetRawText()
        );
        Assert.Equal(
            304,
            (await program.GetAsync($"/bridges/{id}/edit", ("Accept", "application/json"), ("If-None-Match", read.Tag))).Status
        );

        var patched = await program.PatchAsync(
            $"/bridges/{id}/edit",
            """{"fields":{"name":"After","length_m":12.5,"toll":true,"note":"two\nlines","opened_on":"2001-02-03"}}""",
            read.Tag
        );
        Assert.Equal(
            (200, "saved", "After"),
            (
                patched.Status,
                patched.Json.GetProperty("outcome").GetString(),
                patched.Json.GetProperty("fields").GetProperty("name").GetString()
            )
        );
        Assert.Equal(
            "After|12.5|1|2001-02-03",
            app.Ask($"SELECT name || '|' || length_m || '|' || toll || '|' || opened_on FROM bridge WHERE bridge_id = {id}")
        );
        Assert.NotEqual(read.Tag, patched.Tag);
        Assert.Equal(patched.Tag, (await program.JsonAsync($"/bridges/{id}/edit")).Tag);

        // null takes a value away; what is not named stays; a patch that changes nothing keeps the version.
        var emptied = await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"note":null}}""", patched.Tag);
        Assert.Equal(200, emptied.Status);
        Assert.Null(app.Ask($"SELECT note FROM bridge WHERE bridge_id = {id}"));
        Assert.Equal(
            emptied.Tag,
            (await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"After"}}""", emptied.Tag)).Tag
        );
    }

    [Fact]
    public async Task Moments_are_as_they_are_kept_both_ways()
    {
        using var program = app.Visit();
        var read = await program.JsonAsync("/bridges/1/edit");
        Assert.Equal("2024-07-01T12:00:00Z", read.Json.GetProperty("fields").GetProperty("seen_at").GetString());
        var same = await program.PatchAsync("/bridges/1/edit", """{"fields":{"seen_at":"2024-07-01T12:00:00"}}""", read.Tag);
        Assert.Equal(read.Tag, same.Tag);
        foreach (var moment in new[] { "2024-07-01T12:00:00Z", "2024-07-01T14:00:00+02:00", "2024-07-01T06:30:00-05:30" })
            Assert.Equal(
                read.Tag,
                (await program.PatchAsync("/bridges/1/edit", $"{{\"fields\":{{\"seen_at\":\"{moment}\"}}}}", read.Tag)).Tag
            );
        Assert.Equal(
            200,
            (await program.PatchAsync("/bridges/1/edit", """{"fields":{"seen_at":"2024-07-01T12:30"}}""", read.Tag)).Status
        );
        Assert.Equal("2024-07-01 12:30:00", app.Ask("SELECT seen_at FROM bridge WHERE bridge_id = 1"));
    }

    [Fact]
    public async Task A_change_says_which_version_it_is_for()
    {
        var id = app.AddBridge("AV-3002");
        using var program = app.Visit();
        var tag = (await program.JsonAsync($"/bridges/{id}/edit")).Tag;
        Assert.Equal(428, (await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"x"}}""", null)).Status);
        Assert.Equal(412, (await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"x"}}""", "\"other\"")).Status);
        Assert.Equal(412, (await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"x"}}""", "W/" + tag)).Status);
        app.Do($"UPDATE bridge SET pin = 'changed elsewhere' WHERE bridge_id = {id}");
        var stale = await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"x"}}""", tag);
        Assert.Equal((412, "conflict"), (stale.Status, stale.Json.GetProperty("outcome").GetString()));
        Assert.Equal("A bridge", app.Ask($"SELECT name FROM bridge WHERE bridge_id = {id}"));
        Assert.Equal(200, (await program.PatchAsync($"/bridges/{id}/edit", """{"fields":{"name":"x"}}""", "*")).Status);
    }

    [Fact]
    public async Task A_program_that_asks_for_HTML_is_never_answered_with_nothing()
    {
        using var program = app.Visit();
        var body = new StringContent(
            """{"fields":{"name":"In HTML","code":"AV-3777","district":"fen"}}""",
            Encoding.UTF8,
            "application/json"
        );
        var made = await program.SendAsync(HttpMethod.Post, "/bridges/new", body, ("Accept", "text/html"));
        Assert.Equal(201, made.Status);
        Assert.True(made.Body.StartsWith('{') || made.Html.QuerySelector("h1")?.TextContent == "Saved", made.Body);
    }

    [Fact]
    public async Task What_is_wrong_is_a_list_of_pointers()
    {
        using var program = app.Visit();
        var tag = (await program.JsonAsync("/bridges/1/edit")).Tag;
        var reply = await program.PatchAsync(
            "/bridges/1/edit",
            """{"fields":{"name":null,"code":7,"district":"hidden","status":"gone","length_m":"x","toll":"yes","opened_on":"1.2.2003","bridge_id":9,"made_at":"2000-01-01","a/b~c":1},"id":"1"}""",
            tag
        );
        Assert.Equal((422, "invalid"), (reply.Status, reply.Json.GetProperty("outcome").GetString()));
        Assert.Equal(
            [
                "#/id There is no such member; what is to be written goes into “fields”.",
                "#/fields/bridge_id This page has no such field to be written.",
                "#/fields/made_at This page has no such field to be written.",
                "#/fields/a~1b~0c This page has no such field to be written.",
                "#/fields/name Please fill this in.",
                "#/fields/code This must be a text.",
                "#/fields/district There is no such district.",
                "#/fields/status “gone” cannot be chosen here.",
                "#/fields/length_m “x” is not a number; write one like 3.5.",
                "#/fields/toll This must be true or false.",
                "#/fields/opened_on “1.2.2003” is not a date; write one like 2024-02-29.",
            ],
            reply.Faults
        );
        var refused = await program.PatchAsync("/bridges/1/edit", """{"fields":{"status":"closed","toll":true}}""", tag);
        Assert.Equal((409, "refused"), (refused.Status, refused.Json.GetProperty("outcome").GetString()));
        Assert.Equal(["# These values do not go together for a bridge."], refused.Faults);
    }

    [Fact]
    public async Task A_record_is_made_and_deleted()
    {
        using var program = app.Visit();
        Assert.Equal(
            """{"name":null,"code":null,"district":null,"length_m":null,"toll":false,"note":null}""",
            (await program.JsonAsync("/bridges/new")).Json.GetProperty("fields").GetRawText()
        );
        var made = await program.AddAsync("/bridges/new", """{"fields":{"name":"Made","code":"AV-3003","district":"fen"}}""");
        var id = app.Ask("SELECT bridge_id FROM bridge WHERE code = 'AV-3003'");
        Assert.Equal((201, $"/bridges/{id}", id), (made.Status, made.Location, made.Json.GetProperty("id").GetString()));
        Assert.Equal(
            422,
            (await program.AddAsync("/bridges/new", """{"fields":{"name":"Made","code":"AV-3003","district":"fen"}}""")).Status
        );
        Assert.Equal(
            201,
            (await program.AddAsync("/bridges/1/spans/new", """{"fields":{"span_no":30,"kind":"river"}}""")).Status
        );
        Assert.Equal(
            404,
            (await program.AddAsync("/bridges/999/spans/new", """{"fields":{"span_no":3,"kind":"river"}}""")).Status
        );

        var tag = (await program.JsonAsync($"/bridges/{id}/delete")).Tag;
        Assert.Equal(428, (await program.SendAsync(HttpMethod.Delete, $"/bridges/{id}/delete")).Status);
        Assert.Equal(
            412,
            (await program.SendAsync(HttpMethod.Delete, $"/bridges/{id}/delete", null, ("If-Match", "\"x\""))).Status
        );
        Assert.Equal(
            (204, ""),
            ((await program.SendAsync(HttpMethod.Delete, $"/bridges/{id}/delete", null, ("If-Match", tag))).Status, "")
        );
        Assert.Equal(410, (await program.SendAsync(HttpMethod.Delete, $"/bridges/{id}/delete", null, ("If-Match", "*"))).Status);
        var refused = await program.SendAsync(HttpMethod.Delete, "/bridges/1/delete", null, ("If-Match", "*"));
        Assert.Equal((409, "refused"), (refused.Status, refused.Json.GetProperty("outcome").GetString()));
        Assert.Contains("other records refer to it", refused.Json.GetProperty("detail").GetString());
    }

    [Fact]
    public async Task Unsafe_methods_are_never_redirected_for_spelling()
    {
        var id = app.AddBridge("AV-3004");
        using var program = app.Visit();
        Assert.Equal(
            200,
            (await program.PatchAsync($"/bridges/00{id}/edit", """{"fields":{"name":"By another spelling"}}""", "*")).Status
        );
        Assert.Equal("By another spelling", app.Ask($"SELECT name FROM bridge WHERE bridge_id = {id}"));
        Assert.Equal(400, (await program.PatchAsync("/bridges/x/edit", """{"fields":{}}""", "*")).Status);
        Assert.Equal(404, (await program.PatchAsync("/bridges/999/edit", """{"fields":{}}""", "*")).Status);
        Assert.Equal(404, (await program.PatchAsync("/bridges/4/edit", """{"fields":{}}""", "*")).Status);
    }

    [Theory]
    [InlineData("DELETE", "/bridges/1", "GET, HEAD")]
    [InlineData("PUT", "/bridges/1/edit", "GET, HEAD, POST, PATCH")]
    [InlineData("PATCH", "/bridges/new", "GET, HEAD, POST")]
    [InlineData("PATCH", "/bridges/1/delete", "GET, HEAD, POST, DELETE")]
    public async Task A_method_that_a_page_does_not_take_is_405(string method, string path, string allow)
    {
        using var program = app.Visit();
        var reply = await program.SendAsync(new HttpMethod(method), path);
        Assert.Equal(405, reply.Status);
        Assert.Contains($"Allow: {allow}", (await app.Service.GetAsync(path, method: method)).Head);
    }

    [Theory]
    [InlineData("PATCH", "/bridges/1/edit", "text/plain", "Accept-Patch: application/merge-patch+json, application/json")]
    [InlineData(
        "PATCH",
        "/bridges/1/edit",
        "application/x-www-form-urlencoded",
        "Accept-Patch: application/merge-patch+json, application/json"
    )]
    [InlineData("POST", "/bridges/1/edit", "application/json", "Accept-Post: application/x-www-form-urlencoded")]
    [InlineData(
        "POST",
        "/bridges/new",
        "multipart/form-data; boundary=x",
        "Accept-Post: application/x-www-form-urlencoded, application/json"
    )]
    [InlineData("POST", "/bridges/new", "text/plain", "Accept-Post: application/x-www-form-urlencoded, application/json")]
    [InlineData("POST", "/bridges/new", "application/json; charset=utf-16", "Accept-Post")]
    public async Task A_body_of_another_type_is_415(string method, string path, string type, string says)
    {
        var raw = await app.Service.SendAsync(
            $"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{app.Service.Port}\r\nContent-Type: "
                + $"{type}\r\nContent-Length: 2\r\nConnection: close\r\n\r\n{{}}"
        );
        Assert.Equal(415, raw.Status);
        Assert.Contains(says, raw.Head);
    }
}
