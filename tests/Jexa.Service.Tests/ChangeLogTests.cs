using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>What was changed, by its log: read, filtered, taken back.</summary>
public abstract class ChangeLogTests(EditApp app)
{
    private async Task<JsonElement[]> ChangesAsync(params string[] options) =>
        [
            .. JsonDocument
                .Parse((await app.Service.AskAsync(["changes", "--json", .. options])).Out)
                .RootElement.GetProperty("changes")
                .EnumerateArray(),
        ];

    private async Task<(long Id, long Number)> ChangedAsync(string code, string fields)
    {
        var id = app.AddBridge(code, "Before");
        using var program = app.Visit();
        Assert.Equal(200, (await program.PatchAsync($"/bridges/{id}/edit", $$"""{"fields":{{fields}}}""", "*")).Status);
        return (id, (await ChangesAsync("--record", "bridge", "--id", id.ToString()))[0].GetProperty("number").GetInt64());
    }

    [Fact]
    public async Task Each_change_is_there_with_its_page_record_key_and_fields_before_and_after()
    {
        var (id, number) = await ChangedAsync("AV-4001", """{"name":"After","length_m":12.5,"toll":true}""");
        var change = Assert.Single(await ChangesAsync("--record", "bridge", "--id", id.ToString()));
        Assert.Equal(
            ("made", "changed", "bridge-edit", $$"""{"bridge_id":{{id}}}"""),
            (
                change.GetProperty("state").GetString(),
                change.GetProperty("kind").GetString(),
                change.GetProperty("page").GetString(),
                change.GetProperty("key").GetString()
            )
        );
        var fields = change
            .GetProperty("fields")
            .EnumerateArray()
            .ToDictionary(
                field => field.GetProperty("field").GetString()!,
                field => (field.GetProperty("before").GetString(), field.GetProperty("after").GetString())
            );
        Assert.Equal(("Before", "After"), fields["name"]);
        Assert.Equal((app.Tenths("10"), "12.5"), fields["length_m"]);
        Assert.Equal(("0", "1"), fields["toll"]);
        Assert.Equal(["changed_at", "length_m", "name", "toll", "twice"], fields.Keys.Order());
        var shown = (await app.Service.AskAsync("changes", number.ToString())).Out;
        Assert.Contains($"Change {number}: bridge {id} changed", shown);
        Assert.Contains("name", shown);
        Assert.Contains("name: Before → After", (await app.Service.AskAsync("changes", "--id", id.ToString())).Out);
    }

    [Fact]
    public async Task The_log_is_filtered()
    {
        var (id, number) = await ChangedAsync("AV-4002", """{"name":"After"}""");
        Assert.Empty(await ChangesAsync("--record", "span", "--id", id.ToString()));
        Assert.Single(
            await ChangesAsync(
                "--page",
                "bridge-edit",
                "--id",
                id.ToString(),
                "--kind",
                "changed",
                "--stage",
                "made",
                "--since",
                "2020-01-01"
            )
        );
        Assert.Empty(await ChangesAsync("--id", id.ToString(), "--kind", "deleted"));
        Assert.Empty(await ChangesAsync("--since", "2999-01-01"));
        Assert.Single(await ChangesAsync("--limit", "1"));
        Assert.Equal(2, (await app.Service.AskAsync("changes", "--kind", "renamed")).ExitCode);
        Assert.Equal(2, (await app.Service.AskAsync("changes", "--since", "yesterday")).ExitCode);
        Assert.Equal(2, (await app.Service.AskAsync("changes", "--undo")).ExitCode);
        Assert.Equal(2, (await app.Service.AskAsync("changes", "999999")).ExitCode);
        Assert.True(number > 0);
    }

    [Fact]
    public async Task A_change_is_taken_back_if_the_record_is_still_as_it_left_it()
    {
        var (id, number) = await ChangedAsync("AV-4003", """{"name":"After","note":"n"}""");
        app.Do($"UPDATE bridge SET status = 'closed' WHERE bridge_id = {id}");
        var undone = await app.Service.AskAsync("changes", number.ToString(), "--undo", "--json");
        Assert.Equal(0, undone.ExitCode);
        Assert.Equal(number, JsonDocument.Parse(undone.Out).RootElement.GetProperty("undoes").GetInt64());
        Assert.Equal(
            "Before|closed|",
            app.Ask($"SELECT name || '|' || status || '|' || coalesce(note, '') FROM bridge WHERE bridge_id = {id}")
        );
        var twice = await app.Service.AskAsync("changes", number.ToString(), "--undo");
        Assert.Equal((1, true), (twice.ExitCode, twice.Error.Contains("took it back already", StringComparison.Ordinal)));

        var (other, later) = await ChangedAsync("AV-4004", """{"name":"After"}""");
        app.Do($"UPDATE bridge SET name = 'Since' WHERE bridge_id = {other}");
        var refused = await app.Service.AskAsync("changes", later.ToString(), "--undo");
        Assert.Equal(
            (1, true),
            (
                refused.ExitCode,
                refused.Error.Contains("is not as that change left it: name was changed since", StringComparison.Ordinal)
            )
        );
    }

    [Fact]
    public async Task What_was_added_is_taken_away_and_what_was_deleted_comes_back_under_its_key()
    {
        using var program = app.Visit();
        var made = await program.AddAsync(
            "/bridges/new",
            """{"fields":{"name":"Made","code":"AV-4005","district":"fen","note":"as it was"}}"""
        );
        var id = made.Json.GetProperty("id").GetString()!;
        var row = app.Ask($"SELECT name || code || district || note || status || made_at FROM bridge WHERE bridge_id = {id}");
        Assert.Equal(204, (await program.SendAsync(HttpMethod.Delete, $"/bridges/{id}/delete", null, ("If-Match", "*"))).Status);
        Assert.Equal(410, (await program.GetAsync($"/bridges/{id}")).Status);
        var deletion = (await ChangesAsync("--id", id, "--kind", "deleted"))[0].GetProperty("number").GetInt64();
        Assert.Equal(0, (await app.Service.AskAsync("changes", deletion.ToString(), "--undo")).ExitCode);
        Assert.Equal(
            row,
            app.Ask($"SELECT name || code || district || note || status || made_at FROM bridge WHERE bridge_id = {id}")
        );
        Assert.Equal(200, (await program.GetAsync($"/bridges/{id}")).Status);
        var addition = (await ChangesAsync("--id", id, "--kind", "added"))[^1].GetProperty("number").GetInt64();
        Assert.Equal(0, (await app.Service.AskAsync("changes", addition.ToString(), "--undo")).ExitCode);
        Assert.Equal("0", app.Ask($"SELECT count(*) FROM bridge WHERE bridge_id = {id}"));
    }

    [Fact]
    public async Task A_change_with_a_secret_cannot_be_taken_back_since_nobody_knows_what_it_was()
    {
        var (_, number) = await ChangedAsync("AV-4006", """{"pin":"a-secret-pin"}""");
        var refused = await app.Service.AskAsync("changes", number.ToString(), "--undo");
        Assert.Equal((1, true), (refused.ExitCode, refused.Error.Contains("The field pin is secret", StringComparison.Ordinal)));
        using var log = new Microsoft.Data.Sqlite.SqliteConnection(
            $"Data Source={Path.Combine(app.Service.State, "changes.db")};Mode=ReadOnly;Pooling=False"
        );
        log.Open();
        using var command = log.CreateCommand();
        command.CommandText = "SELECT count(*) FROM change WHERE fields LIKE '%a-secret-pin%'";
        Assert.Equal(0L, command.ExecuteScalar());
    }

    [Fact]
    public void The_log_can_be_read_by_its_owner_only() =>
        Assert.Equal(
            UnixFileMode.UserRead | UnixFileMode.UserWrite,
            File.GetUnixFileMode(Path.Combine(app.Service.State, "changes.db"))
        );
}
