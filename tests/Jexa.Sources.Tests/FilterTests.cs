using Jexa.Core.Views;

namespace Jexa.Sources.Tests;

public class FilterTests
{
    private const string All = "list: bridge\n  show: [name]\n  order: [id]";

    [Theory]
    [InlineData("{?kind}", "kind: \"{kind}\"", "/b?kind=arch", "Ash Cedar Dog_Rose")]
    [InlineData("{?kind}", "", "/b?kind=swing", "Elm 100% Fir")]
    [InlineData("{?kind*}", "kind: { one_of: \"{kind}\" }", "/b?kind=beam&kind=swing", "Beech Elm 100% Fir")]
    [InlineData("{?kind}", "kind: { not: \"{kind}\" }", "/b?kind=arch", "Beech Elm 100% Fir")]
    [InlineData("{?min,max}", "length_m: { from: \"{min}\", to: \"{max}\" }", "/b?min=20&max=40", "Beech Cedar Dog_Rose")]
    [InlineData("{?min,max}", "length_m: { from: \"{min}\", to: \"{max}\" }", "/b?min=30", "Cedar Dog_Rose Fir")]
    [InlineData("{?min,max}", "length_m: { above: \"{min}\", below: \"{max}\" }", "/b?min=20&max=40", "Cedar")]
    [InlineData("{?price}", "price: { to: \"{price}\" }", "/b?price=100.1", "Ash Dog_Rose Fir")]
    [InlineData("{?text}", "name: { contains: \"{text}\" }", "/b?text=E", "Beech Cedar Dog_Rose Elm 100%")]
    [InlineData("{?text}", "name: { contains: \"{text}\" }", "/b?text=_", "Dog_Rose")]
    [InlineData("{?text}", "name: { contains: \"{text}\" }", "/b?text=%25", "Elm 100%")]
    [InlineData("{?text}", "name: { contains: \"{text}\" }", "/b?text=%5C", "")]
    [InlineData("{?text}", "name: { starts_with: \"{text}\" }", "/b?text=D", "Dog_Rose")]
    [InlineData("{?text}", "name: { starts_with: \"{text}\" }", "/b?text=og", "")]
    [InlineData("{?year}", "opened_on: { year: \"{year}\" }", "/b?year=2020", "Beech Cedar")]
    [InlineData("{?year,month}", "opened_on: { year: \"{year}\", month: \"{month}\" }", "/b?year=2021&month=3", "Dog_Rose Fir")]
    [InlineData("{?year,month}", "opened_on: { year: \"{year}\", month: \"{month}\" }", "/b?year=2021", "Dog_Rose Fir")]
    [InlineData(
        "{?from_day,to_day}",
        "opened_on: { from: \"{from_day}\", to: \"{to_day}\" }",
        "/b?from_day=2020-01-01&to_day=2020-12-31",
        "Beech Cedar"
    )]
    [InlineData("{?day}", "opened_on: { above: \"{day}\" }", "/b?day=2020-12-31", "Dog_Rose Fir")]
    [InlineData("{?day}", "opened_on: { above: \"{day}\" }", "/b?day=9999-12-31", "")]
    [InlineData("{?day}", "opened_on: { to: \"{day}\" }", "/b?day=9999-12-31", "Ash Beech Cedar Dog_Rose Fir")]
    [InlineData("{?day}", "seen_at: { from: \"{day}\" }", "/b?day=0001-01-01", "Ash Beech Cedar Dog_Rose")]
    [InlineData("{?day}", "opened_on: \"{day}\"", "/b?day=2020-12-31", "Cedar")]
    [InlineData("{?state}", "opened_on: { is: \"{state}\" }", "/b?state=empty", "Elm 100%")]
    [InlineData("{?state}", "opened_on: { is: \"{state}\" }", "/b?state=filled", "Ash Beech Cedar Dog_Rose Fir")]
    [InlineData("{?toll}", "", "/b?toll=true", "Ash")]
    [InlineData("{?a}", "any: [{ kind: \"{a}\" }, { toll: true }]", "/b?a=beam", "Ash Beech")]
    [InlineData("{?a}", "any: [{ kind: \"{a}\" }, { toll: true }]", "/b", "Ash")]
    [InlineData("{?a,b}", "any: [{ kind: \"{a}\", toll: true }, { name: \"{b}\" }]", "/b?a=arch&b=Fir", "Ash Fir")]
    [InlineData("{?d}", "district.name: \"{d}\"", "/b?d=L%C3%B8kke", "Cedar Dog_Rose")]
    [InlineData("{?d}", "district.part_of.name: \"{d}\"", "/b?d=North", "Cedar Dog_Rose")]
    [InlineData("", "opened_on: { year: 2020 }", "/b", "Beech Cedar")]
    [InlineData("", "kind: [beam, swing]", "/b", "Beech Elm 100% Fir")]
    [InlineData("", "length_m: { from: 20, below: 40 }", "/b", "Beech Cedar")]
    public async Task A_filter_keeps_what_it_says(string query, string where, string target, string names)
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Valley.App($"b:\n  path: \"/b{query}\"\n  {All}\n  where: {{ {where} }}"));
        Assert.Equal(names, await app.ListAsync(site, target));
    }

    [Theory]
    [InlineData("/b?year=20x0")]
    [InlineData("/b?year=20")]
    [InlineData("/b?year=99999")]
    [InlineData("/b?year=2020&year=2021")]
    [InlineData("/b?Year=2020")]
    [InlineData("/b?year=%FF")]
    [InlineData("/b?month=3")]
    [InlineData("/b?year=2020&month=13")]
    [InlineData("/b?min=a")]
    [InlineData("/b?min=1e3")]
    [InlineData("/b?min=99999999999999999999999999999999")]
    [InlineData("/b?toll=yes")]
    [InlineData("/b?day=01.02.2020")]
    [InlineData("/b?state=full")]
    [InlineData("/b?order=price")]
    [InlineData("/b?order=nothing")]
    [InlineData("/b?order=--name")]
    [InlineData("/b?order=name&order=name")]
    [InlineData("/b?size=7")]
    [InlineData("/b?size=-50")]
    [InlineData("/b?size=050")]
    [InlineData("/b?size=1000000")]
    [InlineData("/b?find=a%00b")]
    [InlineData("/b?find=1+2+3+4+5+6+7+8+9")]
    [InlineData("/b?after=AAAA")]
    [InlineData("/b?after=end")]
    [InlineData("/b?FIND=a")]
    public async Task What_is_no_value_is_malformed_and_never_left_out(string target)
    {
        await using var app = new TestApp(Valley.Schema);
        Assert.Equal("malformed 400", await app.ListAsync(await app.SiteAsync(Everything), target));
    }

    [Fact]
    public async Task Ten_thousand_values_are_malformed()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Everything);
        Assert.Equal(
            "malformed 400",
            await app.ListAsync(site, "/b?" + string.Join('&', Enumerable.Range(0, 10_000).Select(i => $"kind=k{i}")))
        );
        Assert.Equal("malformed 400", await app.ListAsync(site, "/b?find=" + new string('x', 10_000)));
        Assert.Equal("malformed 400", await app.ListAsync(site, "/b?kind=" + new string('x', 10_000)));
    }

    [Theory]
    [InlineData("/b?kind=", "not-canonical 301 /b")]
    [InlineData("/b?find=&order=&size=&kind=", "not-canonical 301 /b")]
    [InlineData("/b?size=50", "not-canonical 301 /b")]
    [InlineData("/b?order=id", "not-canonical 301 /b")]
    [InlineData("/b?find=++ash++", "not-canonical 301 /b?find=ash")]
    [InlineData("/b?min=010.50", "not-canonical 301 /b?min=10.5")]
    [InlineData("/b?kind=arch&kind=arch", "not-canonical 301 /b?kind=arch")]
    [InlineData("/b?other=1&min=+1", "malformed 400")]
    [InlineData("/b?other=1&min=01", "not-canonical 301 /b?min=1&other=1")]
    public async Task An_empty_filter_and_a_control_that_says_nothing_leave_the_address(string target, string ends)
    {
        await using var app = new TestApp(Valley.Schema);
        Assert.Equal(ends, await app.ListAsync(await app.SiteAsync(Everything), target));
    }

    [Fact]
    public async Task An_optional_filter_that_is_absent_leaves_no_trace_in_the_query()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Everything);
        var (answer, trace) = await app.VisitAsync(site, "/b");
        using (answer)
            Assert.All(trace.Queries, query => Assert.DoesNotContain("WHERE", query.Query.Shown(query.Arguments)));
        (answer, trace) = await app.VisitAsync(site, "/b?year=2020");
        using (answer)
            Assert.Contains(
                "\"opened_on\" >= '2020-01-01' AND t0.\"opened_on\" < '2021-01-01'",
                trace.Queries[0].Query.Shown(trace.Queries[0].Arguments)
            );
    }

    [Fact]
    public async Task A_year_is_served_by_an_index()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                "b:\n  path: \"/b{?year}\"\n  list: bridge\n  show: [name]\n  order: [opened_on]\n  where: { "
                    + "opened_on: { year: \"{year}\" } }"
            )
        );
        var (answer, trace) = await app.VisitAsync(site, "/b?year=2020");
        using (answer)
            Assert.All(trace.Queries, query =>
                Assert.Contains(
                    "USING COVERING INDEX bridge_by_opened",
                    Plan(app, query.Query.Shown(query.Arguments)).Replace("USING INDEX", "USING COVERING INDEX")
                )
            );
    }

    [Fact]
    public async Task Moments_are_filtered_and_shown_in_the_apps_time_zone()
    {
        await using var app = new TestApp(Valley.Schema);
        const string page =
            "b:\n  path: \"/b{?year}\"\n  list: bridge\n  show: [seen_at]\n  order: [id]\n  where: { "
            + "seen_at: { year: \"{year}\" } }";
        Assert.Equal(
            "1 January 2020, 00:10 31 December 2020, 23:30",
            await app.ListAsync(await app.SiteAsync(Valley.App(page)), "/b?year=2020")
        );

        // An hour ahead of UTC the first one is of 2020 and the third of 2021, whether a blank or a T stands in them.
        var ahead = await app.SiteAsync(Valley.App(page, top: "zone: Etc/GMT-1"));
        Assert.Equal("1 January 2020, 00:30 1 January 2020, 01:10", await app.ListAsync(ahead, "/b?year=2020"));
        Assert.Equal("1 January 2021, 00:30 5 March 2021, 13:00", await app.ListAsync(ahead, "/b?year=2021"));
    }

    [Theory]
    [InlineData("/d/north/b", "Ash Beech")]
    [InlineData("/d/l%C3%B8kke/b", "Cedar Dog_Rose")]
    [InlineData("/d/round/b", "")]
    [InlineData("/d/nowhere/b", "unknown 404")]
    [InlineData("/d/shut/b", "hidden 404")]
    [InlineData("/d/NORTH/b", "not-canonical 301 /d/north/b")]
    [InlineData("/d//b", "missing 302 /b?lacking=inside.district")]
    public async Task The_record_that_a_path_names_must_be_there(string target, string ends)
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(Valley.App($"inside:\n  path: \"/d/{{district}}/b\"\n  {All}\nb:\n  path: /b\n  {All}"));
        Assert.Equal(ends, await app.ListAsync(site, target));
    }

    [Fact]
    public async Task Two_parameters_for_one_field_are_both_looked_at()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                $"b:\n  path: \"/b{{?one,other}}\"\n  {All}\n  where: {{ all: [{{ district: \"{{one}}\" }}, {{ "
                    + "district: \"{other}\" }] }"
            )
        );
        Assert.Equal("Ash Beech", await app.ListAsync(site, "/b?one=north&other=north"));
        Assert.Equal("", await app.ListAsync(site, "/b?one=north&other=l%C3%B8kke"));
    }

    [Theory]
    [InlineData("/old/north?kind=arch&kind=beam", "not-canonical 301 /d/north/b?kind=arch&kind=beam")]
    [InlineData("/old/%C3", "malformed 400")]
    public async Task A_former_path_of_a_list_keeps_what_is_asked(string target, string ends)
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                $"b:\n  path: \"/d/{{district}}/b{{?kind*}}\"\n  was: \"/old/{{district}}{{?kind*}}\"\n  {All}\n "
                    + " where: { kind: { one_of: \"{kind}\" } }"
            )
        );
        Assert.Equal(ends, await app.ListAsync(site, target));
    }

    [Fact]
    public async Task A_value_that_no_address_can_carry_is_counted_at_the_side_without_a_link_and_no_way_back()
    {
        await using var app = new TestApp(Valley.Schema + "INSERT INTO bridge (id, name, kind) VALUES (9, 'Odd', '..');");
        var site = await app.SiteAsync(
            Valley.App(
                $"b:\n  path: /b\n  {All}\n  side: [kind]\nkinds:\n  path: \"/k/{{kind}}\"\n  {All}\none: {{ "
                    + "path: \"/b/{id}\", detail: bridge }"
            )
        );
        var (answer, _) = await app.VisitAsync(site, "/b");
        using (answer)
            Assert.Equal(
                [null, "/k/arch", "/k/beam", "/k/swing"],
                Assert.IsType<ListView>(answer.View).Sides[0].Entries.Select(entry => entry.Address)
            );
        (answer, _) = await app.VisitAsync(site, "/b/9?from=kinds%3Fkind%3D..");
        using (answer)
            Assert.Equal("/b", Assert.IsType<DetailView>(answer.View).Back!.Address);
    }

    [Fact]
    public async Task A_parent_whose_key_has_two_parts_must_be_there_too()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                "cracks: { path: \"/b/{bridge}/s/{no}/cracks\", list: crack, title: \"Cracks of {no} of "
                    + "{bridge}\" }\nspan: { path: \"/b/{bridge}/s/{no}\", detail: span }"
            )
        );
        Assert.Equal("1 2", await app.ListAsync(site, "/b/1/s/2/cracks"));
        Assert.Equal("", await app.ListAsync(site, "/b/1/s/1/cracks"));
        Assert.Equal("unknown 404", await app.ListAsync(site, "/b/2/s/2/cracks"));
        var (answer, _) = await app.VisitAsync(site, "/b/1/s/2/cracks");
        using (answer)
        {
            var view = Assert.IsType<ListView>(answer.View);
            Assert.Equal("Cracks of Span 2 of Ash", view.Heading);
            Assert.Equal("North  > Ash  > Span 2 /b/1/s/2", Valley.Texts(view.Trail));
        }
    }

    [Fact]
    public async Task One_path_is_the_whole_list_one_record_and_a_year()
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                $"all:\n  path: /b\n  {All}\none: {{ path: \"/b{{?id}}\", detail: bridge }}\nyear:\n  path: "
                    + $"\"/b{{?year}}\"\n  {All}\n  required: [year]\n  title: \"Of {{year}}\"\n  where: {{ opened_on: "
                    + "{ year: \"{year}\" } }"
            )
        );
        Assert.Equal("Ash Beech Cedar Dog_Rose Elm 100% Fir", await app.ListAsync(site, "/b"));
        Assert.Equal("Beech Cedar", await app.ListAsync(site, "/b?year=2020"));
        Assert.Equal("found 200", await app.ListAsync(site, "/b?id=3"));
        Assert.Equal("malformed 400", await app.ListAsync(site, "/b?id=3&year=2020"));
        Assert.Equal("missing 302 /b?lacking=year.year", await app.ListAsync(site, "/b?year="));
        Assert.Equal("missing 302 /b?lacking=one.id", await app.ListAsync(site, "/b?id="));
        var (answer, _) = await app.VisitAsync(site, "/b?year=2020");
        using (answer)
            Assert.Equal("Of 2020", Assert.IsType<ListView>(answer.View).Heading);
    }

    private static string Everything =>
        Valley.App(
            """
            b:
              path: "/b{?kind*,min,year,month,toll,day,state,d}"
              list: bridge
              show: [name, kind, id]
              order: [id]
              search: [name, district.name]
              where:
                kind: { one_of: "{kind}" }
                length_m: { from: "{min}" }
                opened_on: { year: "{year}", month: "{month}" }
                all: [{ opened_on: "{day}" }, { price: { is: "{state}" } }, { district.name: "{d}" }]
            """
        );

    private static string Plan(TestApp app, string sql)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={app.Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "EXPLAIN QUERY PLAN " + sql;
        using var reader = command.ExecuteReader();
        var plan = "";
        while (reader.Read())
            plan += reader.GetString(3) + "\n";
        return plan;
    }

    [Theory]
    [InlineData("", "2019 1, 2020 2, 2021 1", "January 1, December 1")]
    [InlineData("zone: Etc/GMT-1", "2020 2, 2021 2", "January 2")]
    [InlineData("zone: Pacific/Auckland", "2020 2, 2021 2", "January 2")]
    public async Task Years_and_months_of_moments_are_those_of_the_apps_clocks(string top, string years, string months)
    {
        await using var app = new TestApp(Valley.Schema);
        var site = await app.SiteAsync(
            Valley.App(
                """
                b: { path: /b, list: bridge, side: [{ by: seen_at, part: year }] }
                y: { path: "/b{?year,month}", list: bridge, required: [year], where: { all: [{ seen_at: { year: "{year}" } }, { seen_at: { month: "{month}", year: "{year}" } }] }, show: [name], order: [id], side: [{ by: seen_at, part: month }, { by: -seen_at, part: year }] }
                """,
                top: top
            )
        );
        Assert.Equal(years, await SideAsync("/b", 0));
        Assert.Equal(months, await SideAsync("/b?year=2020", 0));
        Assert.Equal(string.Join(", ", years.Split(", ").Reverse()), await SideAsync("/b?year=2020", 1));
        Assert.Equal(top.Length == 0 ? "Beech Cedar" : "Ash Beech", await app.ListAsync(site, "/b?year=2020"));

        async Task<string> SideAsync(string target, int number)
        {
            var (answer, _) = await app.VisitAsync(site, target);
            using (answer)
                return string.Join(
                    ", ",
                    Assert.IsType<ListView>(answer.View).Sides[number].Entries.Select(entry => $"{entry.Text} {entry.Count}")
                );
        }
    }
}
