using System.Globalization;
using CsCheck;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

public class ListTests
{
    [Theory]
    [InlineData("links: [ { to: bridge-edit } ]", "bridge", 1)]
    [InlineData("links: [ { to: bridge-edit, text: Change } ]", "bridge", 1)]
    [InlineData("links: [ { to: bridge-edit, column: code } ]", "bridge", 0)]
    [InlineData("links: [ { to: bridge-edit, column: name } ]", "bridge-edit", 0)]
    [InlineData("links: [ { to: bridge, column: code } ]", null, 0)]
    [InlineData("links: [ { to: bridge } ]", "bridge", 0)]
    [InlineData("", "bridge", 0)]
    public async Task A_link_that_is_added_leaves_the_record_s_own_where_it_was(string links, string? onLabel, int apart)
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(
            $$"""
            app: Register
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { bridge: { from: register.bridge, label: name } }
            pages:
              bridges: { path: /bridges, list: bridge, show: [name, code]{{(links.Length > 0 ? ", " + links : "")}} }
              bridge: { path: "/bridges/{id}", detail: bridge }
              bridge-edit: { path: "/bridges/{id}/edit", edit: bridge }
            """
        );
        var list = site.Pages.OfType<ListPage>().Single();
        Assert.Equal((onLabel, apart), (list.Shape.Columns[0].Link?.Page, list.Shape.Actions.Count));
    }

    [Fact]
    public async Task A_count_that_is_stopped_says_so_and_one_that_is_not_is_exact()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (id INTEGER PRIMARY KEY); WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + "
                + "1 FROM n WHERE i < 100000) INSERT INTO t SELECT i FROM n;"
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages: { all: { path: /all, list: t } }
            """
        );
        Assert.Equal(new Total(100_000, true), await TotalAsync());
        app.Execute("INSERT INTO t VALUES (100001)");
        Assert.Equal(new Total(100_000, false), await TotalAsync());

        async Task<Total> TotalAsync()
        {
            var (answer, _) = await app.VisitAsync(site, "/all");
            using (answer)
                return Assert.IsType<ListView>(answer.View).Total;
        }
    }

    [Theory]
    [InlineData("name")]
    [InlineData("-name")]
    [InlineData("grade")]
    [InlineData("-grade")]
    [InlineData("grade, -name")]
    [InlineData("-grade, name")]
    [InlineData("town, grade, -name")]
    [InlineData("mixed")]
    [InlineData("-mixed, town")]
    [InlineData("-id")]
    [InlineData("")]
    public async Task Its_windows_joined_are_the_whole_list_in_order(string order)
    {
        await using var app = new TestApp(
            "CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT COLLATE NOCASE, grade INTEGER, town TEXT NOT NULL, mixed);"
        );
        Fill(app, 437);
        var columns = order.Split(", ", StringSplitOptions.RemoveEmptyEntries);
        var sql = string.Join(", ", columns.Select(c => $"{c.TrimStart('-')} {(c[0] == '-' ? "DESC" : "ASC")} NULLS LAST"));
        var last = columns.Length > 0 && columns[^1][0] == '-' ? "DESC" : "ASC";
        var expected = Ids(app, $"SELECT id FROM t ORDER BY {(sql.Length > 0 ? sql + ", " : "")}id {last}");
        var site = await app.SiteAsync(
            $$"""
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages: { all: { path: /all, list: t, show: [id], order: [{{order}}] } }
            """
        );

        var seen = new List<long>();
        var windows = 0;
        for (string? next = "/all"; next is not null; windows++)
        {
            var (answer, trace) = await app.VisitAsync(site, next);
            using (answer)
            {
                var view = Assert.IsType<ListView>(answer.View);
                Assert.Equal(437, view.Total.Count);
                Assert.InRange(view.Rows.Count, 1, 50);
                for (var i = 0; i < view.Rows.Count; i++)
                    seen.Add(view.Rows[i][view.Shape.Columns[0].Ordinal].Integer);
                Assert.DoesNotContain(trace.Queries, query =>
                    query.Query.Shown(query.Arguments).Contains(" OR ", StringComparison.Ordinal)
                );
                next = view.Windows.Next;
            }
        }

        Assert.Equal(expected, seen);
        Assert.Equal(9, windows);

        // And backwards, from the last window to the first.
        seen.Clear();
        for (string? previous = "/all?before=end"; previous is not null; )
        {
            var (answer, _) = await app.VisitAsync(site, previous);
            using (answer)
            {
                var view = Assert.IsType<ListView>(answer.View);
                if (view.Windows.Previous is null)
                    Assert.Equal(50, view.Rows.Count);
                var ids = Enumerable
                    .Range(0, view.Rows.Count)
                    .Select(i => view.Rows[i][view.Shape.Columns[0].Ordinal].Integer)
                    .Where(id => !seen.Contains(id))
                    .ToList();
                Assert.Equal(expected.IndexOf(view.Rows[0][view.Shape.Columns[0].Ordinal].Integer) + 1, view.From);
                seen.InsertRange(0, ids);
                previous = view.Windows.Previous;
            }
        }

        Assert.Equal(expected, seen);
    }

    [Fact]
    public async Task Its_windows_know_where_they_are_and_what_is_around_them()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        for (var i = 0; i < 120; i++)
            app.Execute($"INSERT INTO t VALUES ({i}, 'n{i:000}')");
        var site = await app.SiteAsync(Plain("name"));
        var first = await LookAsync("/all");
        Assert.Equal((1L, 50), (first.From, first.Count));
        Assert.Null(first.Links.First);
        Assert.Null(first.Links.Previous);
        var second = await LookAsync(first.Links.Next!);
        Assert.Equal((51L, 50), (second.From, second.Count));
        Assert.Equal("/all", second.Links.First);
        var third = await LookAsync(second.Links.Next!);
        Assert.Equal((101L, 20), (third.From, third.Count));
        Assert.Null(third.Links.Next);
        Assert.Null(third.Links.Last);
        Assert.Equal((51L, 50), Place(await LookAsync(third.Links.Previous!)));
        Assert.Equal((1L, 50), Place(await LookAsync(second.Links.Previous!)));
        var last = await LookAsync(first.Links.Last!);
        Assert.Equal((71L, 50), Place(last));
        Assert.Null(last.Links.Next);
        var before = await LookAsync(last.Links.Previous!);
        Assert.Equal((21L, 50), Place(before));

        // What would begin before the beginning is the first window, whole.
        Assert.Equal((1L, 50), Place(await LookAsync(before.Links.Previous!)));
        Assert.Equal((71L, 50), Place(await LookAsync(before.Links.Next!)));
        Assert.StartsWith("malformed", await app.OutcomeAsync(site, first.Links.Next! + "&before=end"));
        Assert.StartsWith("malformed", await app.OutcomeAsync(site, "/all?after=end"));
        Assert.StartsWith("malformed", await app.OutcomeAsync(site, "/all?before="));

        static (long?, int) Place((long? From, int Count, WindowLinks Links) window) => (window.From, window.Count);

        async Task<(long? From, int Count, WindowLinks Links)> LookAsync(string address)
        {
            var (answer, _) = await app.VisitAsync(site, address);
            using (answer)
            {
                var view = (ListView)answer.View!;
                return (view.From, view.Rows.Count, view.Windows);
            }
        }
    }

    [Fact]
    public async Task A_window_goes_on_where_it_was_though_rows_come_and_go()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        for (var i = 0; i < 120; i++)
            app.Execute($"INSERT INTO t VALUES ({i}, 'n{i:000}')");
        var site = await app.SiteAsync(Plain("name"));
        var (first, _) = await app.VisitAsync(site, "/all");
        var next = ((ListView)first.View!).Windows.Next!;
        first.Dispose();
        app.Execute("DELETE FROM t WHERE id = 49; INSERT INTO t VALUES (1000, 'n000a'), (1001, 'n049a')");
        var (second, _) = await app.VisitAsync(site, next);
        using (second)
        {
            var view = (ListView)second.View!;
            Assert.Equal(1001, view.Rows[0][view.Shape.Columns[0].Ordinal].Integer);
            Assert.Equal(50, view.Rows[1][view.Shape.Columns[0].Ordinal].Integer);
        }
    }

    [Fact]
    public async Task A_place_that_was_tampered_with_or_is_another_lists_is_malformed()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        for (var i = 0; i < 120; i++)
            app.Execute($"INSERT INTO t VALUES ({i}, 'n{i:000}')");
        var site = await app.SiteAsync(Plain("name") + "\n  other: { path: /other, list: t, show: [id], order: [name] }");
        var (first, _) = await app.VisitAsync(site, "/all");
        var place = ((ListView)first.View!).Windows.Next!.Split('=')[1];
        first.Dispose();
        Assert.StartsWith("listed", await app.OutcomeAsync(site, "/all?after=" + place));
        Assert.StartsWith("malformed 400", await app.OutcomeAsync(site, "/other?after=" + place));
        for (var i = 0; i < place.Length; i++)
        {
            var other = place[i] == 'A' ? 'B' : 'A';
            var tampered = place[..i] + other + place[(i + 1)..];
            if (Decode(tampered).AsSpan().SequenceEqual(Decode(place)))
                continue;
            Assert.StartsWith("malformed 400", await app.OutcomeAsync(site, "/all?after=" + tampered));
        }

        foreach (var wrong in new[] { "x", "", "%zz", place + "A", place[..^1], new string('A', 20_000), "7", "%00" })
            Assert.StartsWith("malformed 400", await app.OutcomeAsync(site, "/all?after=" + wrong));
        Assert.StartsWith("malformed 400", await app.OutcomeAsync(site, $"/all?after={place}&after={place}"));
        Assert.StartsWith("malformed 400", await app.OutcomeAsync(site, "/all?After=" + place));
    }

    [Fact]
    public async Task A_value_too_long_for_an_address_ends_the_paging_with_a_word()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        app.Execute(
            "WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c WHERE n < 60) INSERT INTO t "
                + "SELECT n, printf('%.*c', 10000, 'x') || n FROM c"
        );
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(Plain("name")), "/all");
        using (answer)
        {
            var view = (ListView)answer.View!;
            Assert.Null(view.Windows.Next);
            Assert.True(view.CannotGoOn);
        }
    }

    [Fact]
    public async Task Its_total_is_right_after_every_change()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        var site = await app.SiteAsync(Plain("name"));
        for (var i = 0; i < 5; i++)
        {
            for (var again = 0; again < 3; again++)
            {
                var (answer, _) = await app.VisitAsync(site, "/all");
                using (answer)
                    Assert.Equal(i, ((ListView)answer.View!).Total.Count);
            }

            app.Execute($"INSERT INTO t VALUES ({i}, 'n')");
        }
    }

    [Fact]
    public async Task An_empty_list_is_listed()
    {
        await using var app = new TestApp("CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL);");
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(Plain("name")), "/all");
        using (answer)
            Assert.Equal(0, ((ListView)answer.View!).Total.Count);
    }

    [Fact]
    public async Task A_row_whose_key_is_of_another_class_is_listed_without_a_link_and_is_a_finding()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (id INT PRIMARY KEY, name TEXT); INSERT INTO t VALUES (1, 'a'), ('x', 'b'), (NULL, 'c');"
        );
        var site = await app.SiteAsync(Plain("name") + "\n  one: { path: \"/one/{id}\", detail: t }");
        var (answer, _) = await app.VisitAsync(site, "/all");
        using (answer)
        {
            var view = (ListView)answer.View!;
            var addresses = Enumerable
                .Range(0, view.Rows.Count)
                .Select(i =>
                {
                    using var address = new Utf8Buffer();
                    return view.Shape.RecordLink!.TryWrite(view.Rows[i], address) ? address.ToString() : null;
                });
            Assert.Equal(["/one/1", null, null], addresses);
        }

        Assert.Equal("JX602", Assert.Single(app.Findings.All).Code.Id);
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/one/x"));
    }

    private static string Plain(string order) =>
        $$"""
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages:
              all: { path: /all, list: t, show: [id], order: [{{order}}] }
            """;

    private static byte[] Decode(string place) =>
        System.Buffers.Text.Base64Url.IsValid(place) ? System.Buffers.Text.Base64Url.DecodeFromChars(place) : [];

    private static List<long> Ids(TestApp app, string sql)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={app.Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var ids = new List<long>();
        while (reader.Read())
            ids.Add(reader.GetInt64(0));
        return ids;
    }

    private static void Fill(TestApp app, int rows)
    {
        var texts = new[] { "NULL", "'a'", "'A'", "'b'", "'ø'", "'😀'", "''", "'a b'" };
        var mixed = new[] { "NULL", "1", "2.5", "'x'", "x'01'", "-7", "1e300", "''" };
        var random = new Random(7);
        app.Execute(
            "BEGIN;"
                + string.Concat(
                    Enumerable
                        .Range(1, rows)
                        .Select(i =>
                            string.Create(
                                CultureInfo.InvariantCulture,
                                $"INSERT INTO t VALUES ({i}, {texts[random.Next(8)]}, "
                                    + $"{(random.Next(4) == 0 ? "NULL" : random.Next(5))}, 't{random.Next(3)}', "
                                    + $"{mixed[random.Next(8)]});"
                            )
                        )
                )
                + "COMMIT;"
        );
    }
}
