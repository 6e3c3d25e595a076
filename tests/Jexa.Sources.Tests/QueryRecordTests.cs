using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

/// <summary>Records that come from a query of the developer's own.</summary>
public class QueryRecordTests
{
    private const string Sum =
        "SELECT kind, count(*) AS bridges, max(length_m) AS longest FROM bridge WHERE ifnull(length_m, "
        + "0) >= :min /* :not 'a' -- */ GROUP BY kind -- :nor";

    [Fact]
    public async Task Its_rows_are_listed_filtered_ordered_searched_and_shown_by_their_key()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(App(Sum));
        Assert.Equal("arch beam swing", await app.ListAsync(site, "/kinds"));
        Assert.Equal("swing", await app.ListAsync(site, "/kinds?min=50"));
        Assert.Equal("swing beam arch", await app.ListAsync(site, "/kinds?order=-kind"));
        Assert.Equal("swing", await app.ListAsync(site, "/kinds?find=sw"));
        Assert.Equal("arch", await app.ListAsync(site, "/kinds?least=3"));
        Assert.Equal("malformed 400", await app.ListAsync(site, "/kinds?min=high"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/kinds/beam"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/kinds/raft"));
    }

    [Fact]
    public async Task Its_windows_are_the_whole_of_it()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (id INTEGER PRIMARY KEY, n INTEGER); WITH RECURSIVE c(i) AS (SELECT 1 UNION ALL "
                + "SELECT i + 1 FROM c WHERE i < 120) INSERT INTO t SELECT i, i % 10 FROM c;"
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { source: register, query: "SELECT id, n, n * 2 AS twice FROM t;", key: id, unique: assumed, fields: { twice: { type: integer } } } }
            pages: { all: { path: /all, list: t, show: [id, n], order: [-n], size: 50 } }
            """
        );
        var seen = new List<long>();
        for (string? next = "/all"; next is not null; )
        {
            var (answer, _) = await app.VisitAsync(site, next);
            using (answer)
            {
                var view = Assert.IsType<ListView>(answer.View);
                for (var i = 0; i < view.Rows.Count; i++)
                    seen.Add(view.Rows[i][view.Shape.Columns[0].Ordinal].Integer);
                next = view.Windows.Next;
            }
        }

        Assert.Equal(Enumerable.Range(1, 120).OrderByDescending(i => i % 10).ThenByDescending(i => i).Select(i => (long)i), seen);
    }

    [Theory]
    [InlineData("SELECT kind, kind AS Kind FROM bridge", "JX310", "two columns called")]
    [InlineData("SELECT kind FROM brigde", "JX310", "no such table")]
    [InlineData("SELECT kind FROM bridge; DELETE FROM bridge", "JX310", "more than one statement")]
    [InlineData("DELETE FROM bridge RETURNING kind", "JX310", "It writes")]
    [InlineData("UPDATE bridge SET kind = 'x' RETURNING kind", "JX310", "It writes")]
    [InlineData("PRAGMA journal_mode = delete", "JX310", "")]
    [InlineData("EXPLAIN SELECT kind FROM bridge", "JX310", "no rows")]
    [InlineData("ATTACH 'x.db' AS x", "JX310", "")]
    [InlineData("-- nothing", "JX310", "empty")]
    [InlineData("SELECT kind FROM bridge WHERE id = ?", "JX310", "without a name")]
    [InlineData("SELECT kind FROM bridge WHERE id = :id", "JX406", ":id")]
    [InlineData("SELECT kind FROM bridge", "JX407", "min")]
    [InlineData("SELECT count(*) AS n FROM bridge WHERE id > :min", "JX301", "kind")]
    public async Task What_is_wrong_with_a_query_is_found_before_it_runs(string query, string code, string said)
    {
        await using var app = new TestApp(Valley.Schema);
        var compilation = await app.CompileAsync(App(query));
        Assert.Null(compilation.Site);
        Assert.Contains(compilation.Findings, finding =>
            finding.Code.Id == code && finding.Message.Contains(said, StringComparison.Ordinal)
        );
        Assert.Equal(
            "Ash Beech Cedar Dog_Rose Elm 100% Fir",
            await app.ListAsync(await app.SiteAsync(Valley.App("b: { path: /b, list: bridge, show: [name], order: [id] }")), "/b")
        );
    }

    [Fact]
    public async Task A_key_that_nothing_keeps_unique_is_a_finding_and_two_rows_of_it_are_ambiguous()
    {
        await using var app = new TestApp(Valley.Schema);
        var text = App("SELECT kind, 1 AS bridges, 2 AS longest FROM bridge WHERE id > :min");
        Assert.Contains((await app.CompileAsync(text.Replace("unique: assumed", ""))).Findings, finding =>
            finding.Code.Id == "JX303"
        );
        Assert.Equal("ambiguous 500", await app.OutcomeAsync(await app.SiteAsync(text), "/kinds/arch"));
    }

    [Fact]
    public async Task A_query_that_never_ends_is_unavailable()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            App(
                "SELECT 'arch' AS kind, (WITH RECURSIVE c(n) AS (SELECT :min UNION ALL SELECT n + 1 FROM c) "
                    + "SELECT max(n) FROM c) AS bridges, 1 AS longest"
            )
        );
        Assert.Equal("unavailable 503", await app.OutcomeAsync(site, "/kinds/arch"));
    }

    [Fact]
    public async Task A_page_of_one_record_cannot_fill_a_parameter_that_has_no_default()
    {
        await using var app = new TestApp(Valley.Schema);
        var text = App(Sum).Replace("{ type: integer, default: 0 }", "integer");
        Assert.Contains((await app.CompileAsync(text)).Findings, finding => finding.Code.Id == "JX406");
        var site = await app.SiteAsync(text[..text.IndexOf("  kind: { path", StringComparison.Ordinal)]);
        Assert.Equal("missing 404", await app.ListAsync(site, "/kinds"));
        Assert.Equal("arch beam swing", await app.ListAsync(site, "/kinds?min=1"));
    }

    [Theory]
    [InlineData("integer")]
    [InlineData("{ type: integer, default: 0 }")]
    public async Task A_page_of_one_record_fills_the_parameters_that_its_path_names(string type)
    {
        await using var app = new TestApp(Valley.Schema);
        var text = App(
                "SELECT :min AS min, kind, count(*) AS bridges, max(length_m) AS longest FROM bridge WHERE "
                    + "ifnull(length_m, 0) >= :min GROUP BY kind"
            )
            .Replace("{ type: integer, default: 0 }", type)
            .Replace("\"/kinds/{kind}\"", "\"/kinds/{min}/{kind}\"")
            .Replace("key: kind", "key: [min, kind]");
        var site = await app.SiteAsync(text);
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/kinds/0/beam"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/kinds/50/swing"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/kinds/50/beam"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/kinds/high/beam"));
        Assert.Equal("not-canonical 301 /kinds/50/swing", await app.OutcomeAsync(site, "/kinds/050/swing"));
        var (answer, _) = await app.VisitAsync(site, "/kinds?min=50");
        using (answer)
        {
            var list = Assert.IsType<ListView>(answer.View);
            using var link = new Jexa.Core.Values.Utf8Buffer();
            Assert.True(list.Shape.RecordLink!.TryWrite(list.Rows[0], link));
            Assert.Equal("/kinds/50/swing", link.ToString());
        }
    }

    [Theory]
    [InlineData(
        "SELECT kind FROM bridge WHERE id = :id",
        "id: integer",
        "/kinds/{id}",
        "JX406",
        "remove its condition from the query: Jexa adds it"
    )]
    [InlineData(
        "SELECT kind FROM bridge WHERE id = :id",
        "id: integer",
        "/kinds/{kind}",
        "JX406",
        "remove its condition from the query: Jexa adds it"
    )]
    [InlineData(
        "SELECT kind FROM bridge WHERE id > :min",
        "min: integer",
        "/kinds/{min}/{kind}",
        "JX406",
        "add :min AS min to the columns of the query"
    )]
    [InlineData(
        "SELECT 'x' AS min, kind FROM bridge WHERE id > :min",
        "min: integer",
        "/kinds/{min}/{kind}",
        "JX311",
        "Say one type for both"
    )]
    public async Task A_parameter_that_a_page_of_one_record_cannot_fill_is_a_finding(
        string query,
        string parameters,
        string path,
        string code,
        string remedy
    )
    {
        await using var app = new TestApp(Valley.Schema);
        var text = App(query)
            .Replace("min: { type: integer, default: 0 }", parameters)
            .Replace("\"/kinds/{kind}\"", $"\"{path}\"")
            .Replace(
                "fields: { kind: { type: text }, bridges: { type: integer }, longest: { type: real } }",
                query.Contains("'x'", StringComparison.Ordinal) ? "fields: { min: { type: text } }" : ""
            );
        text =
            text[..text.IndexOf("  kinds:", StringComparison.Ordinal)]
            + text[text.IndexOf("  kind: { path", StringComparison.Ordinal)..];
        var findings = (await app.CompileAsync(text)).Findings;
        Assert.Contains(findings, finding =>
            finding.Code.Id == code && finding.Remedy.Contains(remedy, StringComparison.Ordinal)
        );
    }

    private static string App(string query) =>
        $$"""
            app: Valley
            sources: { register: { engine: sqlite, connection: register.db } }
            records:
              kind:
                source: register
                query: {{System.Text.Json.JsonSerializer.Serialize(query)}}
                parameters: { min: { type: integer, default: 0 } }
                key: kind
                unique: assumed
                fields: { kind: { type: text }, bridges: { type: integer }, longest: { type: real } }
            pages:
              kinds:
                path: "/kinds{?min,least}"
                list: kind
                show: [kind, bridges, longest]
                order: [kind]
                search: [kind]
                where: { bridges: { from: "{least}" } }
              kind: { path: "/kinds/{kind}", detail: kind }
            """;
}
