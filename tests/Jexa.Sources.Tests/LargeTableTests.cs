using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

/// <summary>A page over a large table does not wait for what stands around its record.</summary>
public sealed class LargeTableTests
{
    /// <summary>A column that takes so long to read that putting its table in order takes seconds.</summary>
    private const string Schema = """
        CREATE TABLE t (id INTEGER PRIMARY KEY, name TEXT NOT NULL, of_id INTEGER,
          slow INTEGER GENERATED ALWAYS AS (length(replace(hex(zeroblob(900 + id % 3)), '00', 'abcd')) / 1000000 + (id * 7919) % 60001) VIRTUAL);
        CREATE TABLE small (id INTEGER PRIMARY KEY);
        INSERT INTO small VALUES (1);
        INSERT INTO t (id, name, of_id) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60000) SELECT i, 'N ' || i, 1 FROM n;
        """;

    private const string App = """
        app: A
        sources: { s: { engine: sqlite, connection: register.db } }
        records: { t: { from: s.t, fields: { of_id: { refers_to: small } } }, small: { from: s.small } }
        pages:
          ts: { path: "/ts", list: t, show: [name], order: [slow] }
          t: { path: "/ts/{id}", detail: t, show: [name] }
          by-slow: { path: "/by{?slow}", list: t, show: [name], order: [id], side: [slow] }
          small: { path: "/small/{id}", detail: small, related: [t] }
          smalls: { path: /small, list: small }
        """;

    [Fact]
    public async Task Neighbours_that_cannot_be_found_in_time_are_left_out_and_not_looked_for_again_at_once()
    {
        await using var app = new TestApp(Schema);
        var site = await app.SiteAsync(App);
        for (var visit = 0; visit < 2; visit++)
        {
            var (answer, trace) = await app.VisitAsync(site, "/ts/7");
            using (answer)
            {
                var view = Assert.IsType<DetailView>(answer.View);
                Assert.True(view is { NeighboursLeftOut: true, Previous: null, Next: null });
                Assert.Equal("/ts", view.Back?.Address);
                Assert.Single(trace.Queries);
            }
        }

        // In an order that an index serves they are there.
        var served = await app.SiteAsync(App.Replace("order: [slow] }", "order: [-id] }"));
        var (found, _) = await app.VisitAsync(served, "/ts/7");
        using (found)
            Assert.Equal("/ts/8", Assert.IsType<DetailView>(found.View).Previous?.Address.Split('?')[0]);
    }

    [Fact]
    public async Task A_side_list_that_takes_long_is_counted_behind_the_page_and_stands_on_the_next_one()
    {
        await using var app = new TestApp(Schema);
        var site = await app.SiteAsync(App);
        Assert.True(await SideAsync() is { IsBeingCounted: true, Entries.Count: 0, HasFailed: false });
        await Eventually.TrueAsync(async () => await SideAsync() is { IsBeingCounted: false });

        async Task<SideView> SideAsync()
        {
            var (answer, _) = await app.VisitAsync(site, "/by");
            using (answer)
                return Assert.Single(Assert.IsType<ListView>(answer.View).Sides);
        }
    }

    [Fact]
    public async Task Months_of_one_year_are_never_those_of_another_that_were_counted_before()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE m (id INTEGER PRIMARY KEY, at TIMESTAMP NOT NULL);
            INSERT INTO m (at) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60000) SELECT CASE WHEN i % 3 = 0 THEN '2020-02-03 04:05:06' ELSE '2021-05-06 07:08:09' END FROM n;
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { s: { engine: sqlite, connection: register.db } }
            records: { m: { from: s.m } }
            pages: { ms: { path: "/ms{?year,month}", list: m, where: { at: { month: "{month}", year: "{year}" } }, side: [{ by: at, part: month }] } }
            """
        );
        foreach (var (year, expected) in new[] { (2020, "February 20000"), (2021, "May 40000"), (2020, "February 20000") })
            await Eventually.TrueAsync(async () => await SideAsync(year) == expected);

        async Task<string> SideAsync(int year)
        {
            var (answer, _) = await app.VisitAsync(site, $"/ms?year={year}");
            using (answer)
                return string.Join(
                    ", ",
                    Assert.IsType<ListView>(answer.View).Sides[0].Entries.Select(entry => $"{entry.Text} {entry.Count}")
                );
        }
    }

    [Fact]
    public async Task A_large_table_is_put_in_those_orders_only_that_an_index_serves()
    {
        await using var app = new TestApp(Schema);
        Assert.Equal("malformed 400", await app.ListAsync(await app.SiteAsync(App), "/by?order=name"));
        app.Execute("CREATE INDEX t_by_name ON t (name)");
        Assert.StartsWith("N 9999 ", await app.ListAsync(await app.SiteAsync(App), "/by?order=-name"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Totals_and_related_records_that_take_long_do_not_hold_their_page()
    {
        await using var app = new TestApp(Schema);
        var site = await app.SiteAsync(
            App
                + """

                  slow-ones: { path: /slow-ones, list: t, show: [name], where: { slow: { above: 60000 } }, order: [id] }
                """.Replace("pages:", "")
                + "\n  of: { path: \"/small/{of_id}/ts\", list: t }\n  other: { path: \"/other/{id}\", detail: "
                + "small, related: [{ record: t, where: { slow: 5 } }], linked: elsewhere }"
        );
        var (listed, _) = await app.VisitAsync(site, "/slow-ones");
        using (listed)
            Assert.True(Assert.IsType<ListView>(listed.View) is { Total: { Count: 0 or 1, IsExact: true } });
        for (var visit = 0; visit < 2; visit++)
        {
            var (answer, _) = await app.VisitAsync(site, "/other/1");
            using (answer)
                Assert.True(
                    Assert.Single(Assert.IsType<DetailView>(answer.View).Blocks)
                        is { HasFailed: true, IsLate: true, All.Address: "/small/1/ts" }
                );
        }
    }

    [Fact]
    public async Task A_filter_without_an_index_is_told_once_for_each_field_with_its_statement()
    {
        await using var app = new TestApp(Schema);
        const string Lists =
            "\n  a: { path: \"/a{?name,of_id,part}\", list: t, order: [id], where: { name: { contains: \"{part}\" } } }"
            + "\n  b: { path: \"/b{?since}\", list: t, order: [id], where: { of_id: { from: \"{since}\" } } }"
            + "\n  c: { path: /c, list: t, order: [id], where: { name: N 7 } }"
            + "\n  d: { path: \"/d{?name}\", list: t, order: [id], where: { id: { above: 9 } } }"
            + "\n  e: { path: \"/e{?id}\", list: small }";
        var plain = App.Replace("side: [slow] }", "}").Replace("/by{?slow}", "/by");
        Assert.Equal(["name", "of_id"], await ToldAsync(plain + Lists));
        Assert.Equal(
            ["of_id"],
            await ToldAsync(plain + Lists.Replace("{?name,of_id,part}", "{?of_id,part}").Replace("{ name: N 7 }", "{ id: 7 }"))
        );
        app.Execute("CREATE INDEX t_by_name ON t (name); CREATE INDEX t_by_of_id ON t (of_id)");
        Assert.Empty(await ToldAsync(plain + Lists));

        async Task<IReadOnlyList<string>> ToldAsync(string text)
        {
            var found = (await app.CompileAsync(text)).Findings.Where(one => one.Code.Id == "JX426").ToList();
            Assert.All(found, one => Assert.EndsWith($"CREATE INDEX t_by_{one.Found} ON t ({one.Found})", one.Remedy));
            Assert.All(found, one => Assert.Contains("all of its rows, about 60,000", one.Message));
            return [.. found.Select(one => one.Found!)];
        }
    }

    [Fact]
    public async Task A_foreign_key_without_an_index_is_a_finding_with_the_statement_that_makes_one()
    {
        await using var app = new TestApp(Schema);
        var finding = Assert.Single((await app.CompileAsync(App)).Findings, finding => finding.Code.Id == "JX422");
        Assert.Contains(
            "each small that is shown reads all of its rows, about 60,000",
            finding.Message,
            StringComparison.Ordinal
        );
        Assert.EndsWith("CREATE INDEX t_by_of_id ON t (of_id)", finding.Remedy, StringComparison.Ordinal);
        app.Execute("CREATE INDEX t_by_of_id ON t (of_id)");
        Assert.DoesNotContain((await app.CompileAsync(App)).Findings, one => one.Code.Id == "JX422");
        app.Execute("DROP INDEX t_by_of_id");
        var lists = App.Replace("related: [t] }", "linked: elsewhere }") + "\n  of: { path: \"/small/{of_id}/ts\", list: t }";
        Assert.Contains((await app.CompileAsync(lists)).Findings, one => one.Code.Id == "JX422");
    }
}
