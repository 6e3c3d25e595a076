using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

/// <summary>Walking through lists: order, search, parts, neighbours, the way back, related records.</summary>
public class WalkTests
{
    [Theory]
    [InlineData("/b?order=name", "Ash Beech Cedar Dog_Rose Elm 100% Fir")]
    [InlineData("/b?order=-name", "Fir Elm 100% Dog_Rose Cedar Beech Ash")]
    [InlineData("/b?order=length_m", "Ash Beech Cedar Dog_Rose Fir Elm 100%")]
    [InlineData("/b?order=-length_m", "Fir Dog_Rose Cedar Beech Ash Elm 100%")]
    [InlineData("/b?order=district", "Cedar Dog_Rose Ash Beech Elm 100% Fir")]
    [InlineData("/b?order=-district.part_of.name", "Dog_Rose Cedar Fir Elm 100% Beech Ash")]
    [InlineData("/b?find=e", "Beech Cedar Dog_Rose Elm 100%")]
    [InlineData("/b?find=E+d", "Cedar Dog_Rose")]
    [InlineData("/b?find=north+a", "Ash")]
    [InlineData("/b?find=100%25", "Elm 100%")]
    [InlineData("/b?find=zzz", "")]
    public async Task A_visitor_orders_and_searches(string target, string names)
    {
        await using var app = new TestApp(Valley.Schema);
        Assert.Equal(names, await app.ListAsync(await app.SiteAsync(Lists), target));
    }

    [Fact]
    public async Task A_heading_orders_and_orders_the_other_way_when_followed_again()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Lists);
        Assert.Equal("/b?find=e&order=-id 1", await OrderAsync("/b?find=e", "id"));
        Assert.Equal("/b?find=e&order=name 0", await OrderAsync("/b?find=e", "name"));
        Assert.Equal("/b?order=-name 1", await OrderAsync("/b?order=name", "name"));
        Assert.Equal("/b?order=name -1", await OrderAsync("/b?order=-name", "name"));
        Assert.Equal("/b 0", await OrderAsync("/b?order=-name", "id"));

        async Task<string> OrderAsync(string target, string column)
        {
            var (answer, _) = await app.VisitAsync(site, target);
            using (answer)
            {
                var order = Assert.IsType<ListView>(answer.View).Controls.Orders.First(order => order.Name == column);
                return $"{order.Address} {order.Now}";
            }
        }
    }

    [Theory]
    [InlineData("name")]
    [InlineData("-length_m")]
    [InlineData("district")]
    [InlineData("-district.part_of.name")]
    public async Task Every_order_of_a_visitor_is_walked_to_the_end_and_back(string order)
    {
        await using var app = new TestApp(
            Valley.Schema
                + "WITH RECURSIVE n(i) AS (SELECT 10 UNION ALL SELECT i + 1 FROM n WHERE i < 130) "
                + "INSERT INTO bridge (id, name, district, kind, length_m) SELECT i, 'B' || (i % 7), CASE i % 4 "
                + "WHEN 0 THEN 'north' WHEN 1 THEN 'løkke' WHEN 2 THEN 'shut' END, 'arch', CASE WHEN i % 5 > 0 "
                + "THEN i % 9 END FROM n;"
        );
        var site = await app.SiteAsync(Lists.Replace("order: [id]", "order: [-id]"));
        var (forwards, addresses) = (new List<string>(), new List<string>());
        for (string? next = $"/b?size=20&order={order}"; next is not null; )
        {
            var (answer, _) = await app.VisitAsync(site, Sorted(next));
            using (answer)
            {
                var view = Assert.IsType<ListView>(answer.View);
                for (var i = 0; i < view.Rows.Count; i++)
                    forwards.Add(view.Rows[i][view.Shape.Columns[1].Ordinal].Integer.ToString());
                addresses.Add(next);
                next = view.Windows.Next;
            }
        }

        Assert.Equal(127, forwards.Distinct().Count());
        Assert.Equal(127, forwards.Count);

        // The same order record by record: next alone plays through the whole list.
        var byNext = new List<string>();
        var record = $"/b/{forwards[0]}?from={Uri.EscapeDataString($"b?order={order}")}";
        while (record is not null)
        {
            var (answer, _) = await app.VisitAsync(site, record);
            using (answer)
            {
                var view = Assert.IsType<DetailView>(answer.View);
                byNext.Add(record.Split('/', '?')[2]);
                if (byNext.Count > 1)
                    Assert.Equal(byNext[^2], view.Previous!.Address.Split('/', '?')[2]);
                record = view.Next?.Address;
            }
        }

        Assert.Equal(forwards, byNext);

        static string Sorted(string address) =>
            address.Replace("?size=20&order=", "?order=").Contains("size=")
                ? address
                : address.Split("?size=20&")[0] + "?" + address.Split("?size=20&")[1] + "&size=20";
    }

    [Fact]
    public async Task A_row_leads_back_to_the_window_it_stood_in()
    {
        await using var app = new TestApp(
            Valley.Schema
                + "WITH RECURSIVE n(i) AS (SELECT 10 UNION ALL SELECT i + 1 FROM n WHERE i < 130) INSERT INTO "
                + "bridge (id, name, kind) SELECT i, 'B' || i, 'arch' FROM n;"
        );
        var site = await app.SiteAsync(Lists);
        var (answer, _) = await app.VisitAsync(site, "/b");
        string second;
        using (answer)
        {
            var view = Assert.IsType<ListView>(answer.View);
            Assert.Equal("", view.FromMark);
            second = view.Windows.Next!;
        }

        string mark;
        (answer, _) = await app.VisitAsync(site, second);
        using (answer)
            mark = Assert.IsType<ListView>(answer.View).FromMark;
        (answer, _) = await app.VisitAsync(site, $"/b/100?from={mark}");
        string next;
        using (answer)
        {
            var view = Assert.IsType<DetailView>(answer.View);
            Assert.Equal(second, view.Back!.Address);
            next = view.Next!.Address;
        }

        // Whoever plays on comes back to where they are by then.
        (answer, _) = await app.VisitAsync(site, next);
        string back;
        using (answer)
            back = Assert.IsType<DetailView>(answer.View).Back!.Address;
        (answer, _) = await app.VisitAsync(site, back);
        using (answer)
            Assert.StartsWith(
                "B101 B102",
                Valley.Names(Assert.IsType<ListView>(answer.View).Shape, Assert.IsType<ListView>(answer.View).Rows)
            );
    }

    [Theory]
    [InlineData("/b/3", "Beech", "Dog_Rose")]
    [InlineData("/b/1", "", "Beech")]
    [InlineData("/b/6", "Elm 100%", "")]
    [InlineData("/b/3?from=arches", "Ash", "Dog_Rose")]
    [InlineData("/b/3?from=b%3Forder%3D-name", "Dog_Rose", "Beech")]
    [InlineData("/b/3?from=b%3Ffind%3De", "Beech", "Dog_Rose")]
    [InlineData("/b/6?from=arches", "Dog_Rose", "")]
    [InlineData("/b/3?from=inside%3Fdistrict%3Dl%25C3%25B8kke", "", "Dog_Rose")]
    [InlineData("/b/3?from=nothing", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=districts", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=https%3A%2F%2Felsewhere.example%2F", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=b%3Forder%3Dnope", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=b%3Fafter%3Dmade-up", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=%FF", "Beech", "Dog_Rose")]
    [InlineData("/b/3?from=b&from=b", "Beech", "Dog_Rose")]
    public async Task Neighbours_are_those_of_the_list_one_comes_from(string target, string previous, string next)
    {
        await using var app = new TestApp(Valley.Schema);
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(Lists), target);
        using (answer)
        {
            var view = Assert.IsType<DetailView>(answer.View);
            Assert.Equal((previous, next), (view.Previous?.Text ?? "", view.Next?.Text ?? ""));
            Assert.DoesNotContain("elsewhere", $"{view.Back?.Address}{view.Next?.Address}");
        }
    }

    [Theory]
    [InlineData("/b?order=name&after=")]
    [InlineData("/b?find=a&after=")]
    [InlineData("/arches?after=")]
    [InlineData("/d/north/b?after=")]
    public async Task A_place_in_one_list_is_none_in_another(string other)
    {
        await using var app = new TestApp(
            Valley.Schema
                + "WITH RECURSIVE n(i) AS (SELECT 10 UNION ALL SELECT i + 1 FROM n WHERE i < 130) INSERT INTO "
                + "bridge (id, name, kind) SELECT i, 'B' || i, 'arch' FROM n;"
        );
        var site = await app.SiteAsync(Lists);
        var (answer, _) = await app.VisitAsync(site, "/b");
        string cursor;
        using (answer)
            cursor = Assert.IsType<ListView>(answer.View).Windows.Next!.Split("after=")[1];
        Assert.StartsWith("B", await app.ListAsync(site, "/b?after=" + cursor));
        Assert.Equal("malformed 400", await app.ListAsync(site, other + cursor));
        Assert.Equal("malformed 400", await app.ListAsync(site, "/b?after=" + (cursor[0] == 'A' ? 'B' : 'A') + cursor[1..]));
    }

    [Theory]
    [InlineData("/b/1", "Districts /d > North /d/north")]
    [InlineData("/b/3", "Districts /d > North /d/north > Løkke /d/l%C3%B8kke")]
    [InlineData("/b/5", "Districts /d")]
    [InlineData("/b/6", "Districts /d")]
    [InlineData("/d/round", "Districts /d > Round /d/round")]
    [InlineData("/b/1/s/2", "Districts /d > North /d/north > Ash /b/1")]
    public async Task A_trail_leads_up_from_a_bare_address(string target, string trail)
    {
        await using var app = new TestApp(Valley.Schema);
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(Lists), target);
        using (answer)
            Assert.Equal(trail, Valley.Texts(Assert.IsType<DetailView>(answer.View).Trail));
    }

    [Theory]
    [InlineData("/d/north/b/1", "found 200")]
    [InlineData("/d/l%C3%B8kke/b/1", "unknown 404")]
    [InlineData("/d/nowhere/b/1", "unknown 404")]
    [InlineData("/p/north/b/3", "found 200")]
    [InlineData("/p/north/b/1", "unknown 404")]
    public async Task A_parent_in_the_path_that_is_not_the_records_own_is_unknown(string target, string ends)
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                "in: { path: \"/d/{district}/b/{id}\", detail: bridge, by: { district: district, id: id } "
                    + "}\nup: { path: \"/p/{top}/b/{id}\", detail: bridge, by: { top: district.part_of } }"
            )
        );
        Assert.Equal(ends, await app.OutcomeAsync(site, target));
    }

    [Fact]
    public async Task Related_records_stand_on_the_page_with_their_count_and_a_link_to_all()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Lists);
        var (answer, trace) = await app.VisitAsync(site, "/d/north");
        using (answer)
        {
            var view = Assert.IsType<DetailView>(answer.View);
            var block = Assert.Single(view.Blocks);
            Assert.Equal(
                ("Bridges", 2L, "Beech", "/d/north/b"),
                (block.Shape.Title, block.Total.Count, Valley.Names(block.Shape.Rows!, block.Rows!), block.All!.Address)
            );
        }

        Assert.Equal(3, trace.Queries.Count);
        (answer, trace) = await app.VisitAsync(site, "/b/1");
        using (answer)
        {
            var blocks = Assert.IsType<DetailView>(answer.View).Blocks;
            Assert.Equal(
                ["Spans 2", "District 1", "Bridges 1", "Note 0"],
                blocks.Select(block => $"{block.Shape.Title} {block.Total.Count}")
            );
            Assert.Equal("1 2", Valley.Names(blocks[0].Shape.Rows!, blocks[0].Rows!));
            Assert.Equal("Beech", Valley.Names(blocks[2].Shape.Rows!, blocks[2].Rows!));
        }

        // The record, three blocks, its neighbours; also in an order of the visitor's own.
        Assert.Equal(5, trace.Queries.Count);
        (answer, trace) = await app.VisitAsync(site, "/b/1?from=b%3Forder%3D-length_m");
        using (answer)
            Assert.Equal(("Beech", 5), (Assert.IsType<DetailView>(answer.View).Previous!.Text, trace.Queries.Count));
        (answer, _) = await app.VisitAsync(site, "/b/1/s/2");
        using (answer)
            Assert.Equal(
                "1 2",
                Valley.Names(
                    Assert.IsType<DetailView>(answer.View).Blocks[0].Shape.Rows!,
                    Assert.IsType<DetailView>(answer.View).Blocks[0].Rows!
                )
            );
    }

    [Fact]
    public async Task A_part_that_fails_does_so_by_itself()
    {
        await using var app = new TestApp(
            Valley.Schema + "CREATE VIEW odd AS SELECT id AS bridge, json(name) AS bad FROM bridge;"
        );
        var site = await app.SiteAsync(
            Valley
                .App("b: { path: \"/b/{id}\", detail: bridge, related: [odd, span] }")
                .Replace(
                    "  span: {",
                    "  odd: { from: register.odd, key: bridge, unique: assumed, fields: { bridge: { refers_to: "
                        + "bridge } } }\n  span: {"
                )
        );
        var (answer, _) = await app.VisitAsync(site, "/b/1");
        using (answer)
        {
            var view = Assert.IsType<DetailView>(answer.View);
            Assert.Equal((200, true, false), (answer.Status, view.Blocks[0].HasFailed, view.Blocks[1].HasFailed));
        }
    }

    [Fact]
    public async Task Side_lists_count_what_their_lists_show()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                """
                b:
                  path: "/b{?kind,district}"
                  list: bridge
                  show: [name]
                  where: { length_m: { is: filled } }
                  side: [kind, district, { by: -opened_on, part: year }]
                year:
                  path: "/years/{year}"
                  list: bridge
                  show: [name]
                  where: { opened_on: { year: "{year}" } }
                  side: [{ by: opened_on, part: year }]
                """
            )
        );
        Assert.Equal(
            [
                "Kind: arch 3 /b?kind=arch, beam 1 /b?kind=beam, swing 1 /b?kind=swing",
                "District: Løkke 2 /b?district=l%C3%B8kke, North 2 /b?district=north, empty 1 -",
                "Year: 2021 2 /years/2021, 2020 2 /years/2020, 2019 1 /years/2019, empty 1 -",
            ],
            await SidesAsync("/b")
        );
        Assert.Equal(
            [
                "Kind: arch* 2 /b?kind=arch&district=l%C3%B8kke",
                "District: Løkke* 2 /b?kind=arch&district=l%C3%B8kke, North 1 /b?kind=arch&district=north",
                "Year: 2021 2 /years/2021, 2020 2 /years/2020, 2019 1 /years/2019, empty 1 -",
            ],
            await SidesAsync("/b?kind=arch&district=l%C3%B8kke")
        );
        Assert.Equal(
            ["Year: 2019 1 /years/2019, 2020* 2 /years/2020, 2021 2 /years/2021, empty 1 -"],
            await SidesAsync("/years/2020")
        );

        // Months are those of a year.
        var archive = Valley.App(
            "a:\n  path: \"/a{?year,month}\"\n  list: bridge\n  show: [name]\n  where: { opened_on: { year: "
                + "\"{year}\", month: \"{month}\" } }\n  side: [{ by: opened_on, part: year }, { by: opened_on, "
                + "part: month }]"
        );
        site = await app.SiteAsync(archive);
        Assert.Single(await SidesAsync("/a"));
        Assert.Equal(
            "Month: January 1 /a?year=2020&month=1, December 1 /a?year=2020&month=12",
            (await SidesAsync("/a?year=2020"))[1]
        );

        async Task<string[]> SidesAsync(string target)
        {
            var (answer, trace) = await app.VisitAsync(site, target);
            Assert.True(answer.Status == 200, trace.Why);
            using (answer)
                return
                [
                    .. Assert
                        .IsType<ListView>(answer.View)
                        .Sides.Select(side =>
                            $"{side.Title}: "
                            + string.Join(
                                ", ",
                                side.Entries.Select(e => $"{e.Text}{(e.IsCurrent ? "*" : "")} {e.Count} {e.Address ?? "-"}")
                            )
                        ),
                ];
        }
    }

    [Fact]
    public async Task A_link_stands_only_where_its_condition_holds()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                "b: { path: /b, list: bridge, show: [name], order: [id], links: [{ to: one, column: name, when: "
                    + "{ toll: false, length_m: { from: 20 } } }] }\none: { path: \"/b/{id}\", detail: bridge, links: "
                    + "[{ to: b, text: Back, when: { kind: [beam, swing] } }] }"
            )
        );
        var (answer, _) = await app.VisitAsync(site, "/b");
        using (answer)
        {
            var view = Assert.IsType<ListView>(answer.View);
            using var address = new Core.Values.Utf8Buffer();
            Assert.Equal(
                "011101",
                string.Concat(
                    Enumerable.Range(0, 6).Select(i => view.Shape.Columns[0].Link!.TryWrite(view.Rows[i], address) ? 1 : 0)
                )
            );
        }

        foreach (var (id, stands) in new[] { (1, false), (2, true), (6, true) })
        {
            (answer, _) = await app.VisitAsync(site, $"/b/{id}");
            using (answer)
            {
                var view = Assert.IsType<DetailView>(answer.View);
                using var address = new Core.Values.Utf8Buffer();
                Assert.Equal(stands, view.Shape.Links[0].TryWrite(view.Record, address));
            }
        }
    }

    [Theory]
    [InlineData("name", true)]
    [InlineData("district.name", true)]
    [InlineData("opened_on", false)]
    [InlineData("id", false)]
    public async Task An_order_of_a_large_table_that_no_index_serves_is_a_warning(string order, bool warned)
    {
        await using var app = new TestApp(Valley.Schema + "INSERT INTO bridge (id, name, kind) VALUES (60000, 'Z', 'arch');");
        var compilation = await app.CompileAsync(Valley.App($"b: {{ path: /b, list: bridge, show: [name], order: [{order}] }}"));
        Assert.Equal(warned ? ["JX417"] : [], compilation.Findings.Select(finding => finding.Code.Id));
        Assert.NotNull(compilation.Site);
    }

    [Fact]
    public async Task A_label_across_two_foreign_keys_is_shown_and_a_hidden_one_is_not()
    {
        await using var app = new TestApp(Valley.Schema);
        var (answer, trace) = await app.VisitAsync(await app.SiteAsync(Lists), "/b");
        using (answer)
        {
            var view = Assert.IsType<ListView>(answer.View);
            var far = view.Shape.Columns.First(column => column.Name == "district.part_of.name");
            var states = new List<string>();
            using var text = new Core.Values.Utf8Buffer();
            for (var i = 0; i < view.Rows.Count; i++)
            {
                text.Truncate(0);
                far.WriteText(view.Rows[i], text);
                states.Add(
                    far.IsEmpty(view.Rows[i]) ? "empty"
                    : far.IsLost(view.Rows[i]) ? "lost"
                    : text.ToString()
                );
            }

            Assert.Equal(["empty", "empty", "North", "North", "lost", "empty"], states);
            Assert.Equal(2, trace.Queries.Count);
        }
    }

    private static string Lists =>
        Valley.App(
            """
            b:
              path: /b
              list: bridge
              show: [name, id, length_m, district, district.part_of.name]
              order: [id]
              search: [name, district.name]
            arches: { path: /arches, list: bridge, show: [name], order: [id], where: { kind: arch } }
            inside: { path: "/d/{district}/b", list: bridge, show: [name], order: [id], title: "In {district}" }
            one:
              path: "/b/{id}"
              detail: bridge
              related: [span, district, { record: bridge, by: twin }, { notice: "Take care", title: Note }]
            districts: { path: /d, list: district }
            district:
              path: "/d/{slug}"
              detail: district
              related: [{ record: bridge, size: 1, order: [-name], show: [name], all: inside }]
              neighbours: shown
            span: { path: "/b/{bridge}/s/{no}", detail: span, related: [crack] }
            """
        );
}
