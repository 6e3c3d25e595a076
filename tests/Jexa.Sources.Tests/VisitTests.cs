using System.Text;
using System.Text.Json;
using CsCheck;
using Jexa.Core.Keys;
using Jexa.Core.Sources;
using Jexa.Core.Traces;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.Traces;

namespace Jexa.Sources.Tests;

public class VisitTests
{
    [Theory]
    [InlineData("/", "not-canonical 302 /bridges")]
    [InlineData("/bridges", "listed 200")]
    [InlineData("/bridges?nothing=1", "listed 200")]
    [InlineData("/bridges/", "not-canonical 301 /bridges")]
    [InlineData("/bridges/?x=1", "not-canonical 301 /bridges?x=1")]
    [InlineData("/bridges/7", "found 200")]
    [InlineData("/bridges/7/", "not-canonical 301 /bridges/7")]
    [InlineData("/bridges/%37", "found 200")]
    [InlineData("/bridges/007", "not-canonical 301 /bridges/7")]
    [InlineData("/bridges/007?x=%20y&z", "not-canonical 301 /bridges/7?x=%20y&z")]
    [InlineData("/bridges/+7", "not-canonical 301 /bridges/7")]
    [InlineData("/bridges/-0", "not-canonical 301 /bridges/0")]
    [InlineData("/bridges/-1", "unknown 404")]
    [InlineData("/bridges/6", "unknown 404")]
    [InlineData("/bridges/9223372036854775807", "unknown 404")]
    [InlineData("/bridges/8", "hidden 404")]
    [InlineData("/bridges/9", "found 200")]
    [InlineData("/bridges/abc", "malformed 400")]
    [InlineData("/bridges/7.0", "malformed 400")]
    [InlineData("/bridges/9223372036854775808", "malformed 400")]
    [InlineData("/bridges/%zz", "malformed 400")]
    [InlineData("/bridges/%ff", "malformed 400")]
    [InlineData("/bridges/..", "malformed 400")]
    [InlineData("/bridges/7%2F8", "malformed 400")]
    [InlineData("/bridges/7/8", "no-page 404")]
    [InlineData("/Bridges/7", "no-page 404")]
    [InlineData("/bridges//", "no-page 404")]
    [InlineData("//bridges/", "no-page 404")]
    [InlineData("//bridges", "no-page 404")]
    [InlineData("/_jexa/unwritten/survey", "no-page 404")]
    [InlineData("/_jexa/other", "no-page 404")]
    [InlineData("/lookup", "missing 302 /bridges?lacking=lookup.code")]
    [InlineData("/lookup?code=", "missing 302 /bridges?lacking=lookup.code")]
    [InlineData("/lookup?x=1", "missing 302 /bridges?lacking=lookup.code")]
    [InlineData("/lookup?code=AV-0007", "found 200")]
    [InlineData("/lookup?code=AV-0007&x=1", "found 200")]
    [InlineData("/lookup?code=av-0007&x=1&y=a+b", "not-canonical 301 /lookup?code=AV-0007&x=1&y=a+b")]
    [InlineData("/lookup?x=1&code=av-0007", "not-canonical 301 /lookup?code=AV-0007&x=1")]
    [InlineData("/lookup?code=AV-0007%20", "unknown 404")]
    [InlineData("/lookup?code=AV-9999", "unknown 404")]
    [InlineData("/lookup?code=AV-0008", "hidden 404")]
    [InlineData("/lookup?code=av-0008", "hidden 404")]
    [InlineData("/lookup?code=AV-0007&code=AV-0007", "malformed 400")]
    [InlineData("/lookup?Code=AV-0007", "malformed 400")]
    [InlineData("/lookup?co_de=AV-0007", "malformed 400")]
    [InlineData("/lookup?code=AV-0007&CODE=AV-0009", "malformed 400")]
    [InlineData("/lookup?code=%ff", "malformed 400")]
    [InlineData("/lookup/", "not-canonical 301 /lookup")]
    [InlineData("/districts/n%2Fw-moor", "found 200")]
    [InlineData("/districts/n%2fw-moor", "found 200")]
    [InlineData("/districts/l%C3%B8kke", "found 200")]
    [InlineData("/districts/L%C3%98KKE", "unknown 404")]
    [InlineData("/districts/shut", "hidden 404")]
    [InlineData("/districts/7", "unknown 404")]
    [InlineData("http://any/bridges/7", "found 200")]
    [InlineData("*", "malformed 400")]
    public async Task Every_address_has_its_outcome(string target, string outcome)
    {
        await using var app = new TestApp();
        Assert.Equal(outcome, await app.OutcomeAsync(await app.SiteAsync(), target));
    }

    [Fact]
    public async Task A_parameter_with_the_name_of_a_field_means_that_field_and_not_the_key()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(
            TestApp.App.Replace(
                "path: \"/lookup{?code}\", detail: bridge, by: { code: code }",
                "path: \"/code/{code}\", detail: bridge"
            )
        );
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/code/AV-0007"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/code/7"));
    }

    [Theory]
    [InlineData("/bridge/7", "/bridges/7")]
    [InlineData("/Bridges/7", "/bridges/7")]
    [InlineData("/brigdes/007", "/bridges/7")]
    [InlineData("/district/l%C3%B8kke", "/districts/l%C3%B8kke")]
    [InlineData("/bridge/abc", null)]
    [InlineData("/elsewhere/7", null)]
    public async Task A_path_that_is_no_page_s_leads_to_the_nearest_record_s(string target, string? near)
    {
        await using var app = new TestApp();
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(), target);
        using (answer)
        {
            Assert.Equal(404, answer.Status);
            var links = ((MessageView)answer.View!).Links.Select(link => link.Address).ToList();
            Assert.Equal(near, links.Find(address => address.Count(c => c == '/') > 1));
            Assert.Contains("/bridges", links);
        }
    }

    [Theory]
    [InlineData(7, "n/w-moor", true)]
    [InlineData(10, "shut", false)]
    public async Task A_record_leads_back_only_to_a_list_that_may_be_opened(int bridge, string district, bool leadsBack)
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(
            TestApp.App
                + "\n  of-district: { path: \"/districts/{district}/bridges\", list: bridge, where: { district: "
                + "\"{district}\" } }"
        );
        var (answer, _) = await app.VisitAsync(
            site,
            $"/bridges/{bridge}?from={Uri.EscapeDataString($"of-district?district={Uri.EscapeDataString(district)}")}"
        );
        using (answer)
            Assert.Equal(leadsBack, ((DetailView)answer.View!).Back!.Address.StartsWith("/districts/", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_program_is_told_of_a_missing_ID_instead_of_being_led_to_the_list()
    {
        await using var app = new TestApp();
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(), "/lookup", json: true);
        Assert.Equal("missing 400", $"{answer.Outcome} {answer.Status}");
    }

    [Fact]
    public async Task The_list_says_which_ID_was_lacking_and_nothing_that_was_made_up()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        Assert.Contains("code", await Notice("lookup.code"));
        foreach (var made in new[] { "lookup", "lookup.name", "bridges.code", "nothing.code", "<script>", "" })
            Assert.Null(await Notice(made));

        async Task<string?> Notice(string lacking)
        {
            var (answer, _) = await app.VisitAsync(site, "/bridges?lacking=" + Uri.EscapeDataString(lacking));
            using (answer)
                return ((ListView)answer.View!).Notice;
        }
    }

    [Fact]
    public async Task The_app_file_may_choose_other_answers_for_bad_IDs()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(
            TestApp.App.Replace("by: { code: code }", "by: { code: code }, ids: { missing: 404, malformed: 404 }")
        );
        Assert.Equal("missing 404", await app.OutcomeAsync(site, "/lookup"));
        Assert.Equal("malformed 404", await app.OutcomeAsync(site, "/lookup?code=%ff"));
        site = await app.SiteAsync(TestApp.App.Replace("by: { code: code }", "by: { code: code }, ids: { missing: districts }"));
        Assert.Equal("missing 302 /districts?lacking=lookup.code", await app.OutcomeAsync(site, "/lookup"));
    }

    [Fact]
    public async Task Only_reading_is_allowed()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        foreach (
            var (method, target) in new[]
            {
                ("POST", "/bridges/7"),
                ("PUT", "/bridges"),
                ("DELETE", "/bridges/007"),
                ("POST", "/bridges/"),
                ("OPTIONS", "/bridges"),
                ("TRACE", "/lookup"),
            }
        )
        {
            var (answer, _) = await app.VisitAsync(site, target, method: method);
            Assert.Equal("not-allowed 405 GET, HEAD", $"{answer.Outcome} {answer.Status} {answer.Allow}");
        }

        Assert.Equal("no-page", (await app.VisitAsync(site, "/nothing", method: "POST")).Answer.Outcome.Word);
        Assert.Equal("found", (await app.VisitAsync(site, "/bridges/7", method: "HEAD")).Answer.Outcome.Word);
    }

    [Fact]
    public async Task Two_visible_records_are_ambiguous_and_one_beside_a_hidden_one_is_found()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (k TEXT, hide INTEGER NOT NULL, x TEXT);
            INSERT INTO t VALUES ('twin', 0, 'a'), ('twin', 0, 'b'), ('one', 1, 'a'), ('one', 1, 'b'), ('one', 0, 'c'), ('one', 1, 'd'), ('none', 1, 'a'), ('none', 1, 'b');
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t, key: k, unique: assumed, visible: { hide: 0 } } }
            pages: { one: { path: "/t/{k}", detail: t, show: [x] } }
            """
        );
        Assert.Equal("ambiguous 500", await app.OutcomeAsync(site, "/t/twin"));
        Assert.Equal("JX601", Assert.Single(app.Findings.All).Code.Id);
        Assert.Equal("hidden 404", await app.OutcomeAsync(site, "/t/none"));
        var (answer, _) = await app.VisitAsync(site, "/t/one");
        using (answer)
            Assert.Equal("c", ((DetailView)answer.View!).Record.Text(0));
    }

    [Fact]
    public async Task Under_a_folding_collation_the_exact_spelling_is_preferred()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (k TEXT COLLATE NOCASE, x TEXT);
            INSERT INTO t VALUES ('ABC', 'upper'), ('abc', 'lower'), ('Only', 'only'), ('Two', '1'), ('tWO', '2');
            CREATE TABLE r (k TEXT PRIMARY KEY NOT NULL COLLATE RTRIM); INSERT INTO r VALUES ('pad  ');
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t, key: k, unique: assumed }, r: { from: register.r } }
            pages: { one: { path: "/t/{k}", detail: t, show: [x] }, padded: { path: "/r/{k}", detail: r } }
            """
        );
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/t/ABC"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/t/abc"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/t/aBc"));
        Assert.Equal("not-canonical 301 /t/Only", await app.OutcomeAsync(site, "/t/oNLY"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/t/two"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/r/pad"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/r/pad%20%20"));
    }

    [Fact]
    public async Task A_number_never_finds_a_text_nor_a_text_a_number()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (k, x TEXT); CREATE UNIQUE INDEX t_k ON t (k);
            INSERT INTO t VALUES (7, 'number'), ('8', 'text'), (9.0, 'real');
            """
        );
        const string text = """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t, key: k, fields: { k: { type: TYPE } } } }
            pages: { one: { path: "/t/{k}", detail: t } }
            """;
        var numbers = await app.SiteAsync(text.Replace("TYPE", "integer"));
        Assert.Equal("found 200", await app.OutcomeAsync(numbers, "/t/7"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(numbers, "/t/8"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(numbers, "/t/9"));
        var texts = await app.SiteAsync(text.Replace("TYPE", "text"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(texts, "/t/7"));
        Assert.Equal("found 200", await app.OutcomeAsync(texts, "/t/8"));
    }

    [Fact]
    public async Task Composite_keys_are_read_from_path_and_query_together()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE span (bridge_id INTEGER NOT NULL, span_no INTEGER NOT NULL, name TEXT, PRIMARY KEY (bridge_id, span_no));
            INSERT INTO span VALUES (7, 1, 'a'), (7, 2, 'b'), (8, 1, 'c');
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { span: { from: register.span } }
            pages:
              spans: { path: /spans, list: span }
              span: { path: "/bridges/{bridge}/spans/{number}", detail: span, by: { bridge: bridge_id, number: span_no } }
              other: { path: "/span/{span_no}{?bridge_id}", detail: span }
            """
        );
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/bridges/7/spans/2"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/bridges/8/spans/2"));
        Assert.Equal("not-canonical 301 /bridges/7/spans/2", await app.OutcomeAsync(site, "/bridges/07/spans/+2"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/bridges/7/spans/x"));
        Assert.Equal("missing 302 /spans?lacking=span.number", await app.OutcomeAsync(site, "/bridges/7/spans/"));
        Assert.Equal("missing 302 /spans?lacking=span.bridge", await app.OutcomeAsync(site, "/bridges//spans/1"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/span/2?bridge_id=7"));
        Assert.Equal("not-canonical 301 /span/2?bridge_id=7&x=1", await app.OutcomeAsync(site, "/span/2?x=1&bridge_id=07"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/span/2?bridgeId=7"));
    }

    [Fact]
    public async Task A_UUID_is_found_under_every_spelling_that_is_stored_and_two_spellings_of_one_are_ambiguous()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (k UUID NOT NULL PRIMARY KEY, x TEXT);
            INSERT INTO t VALUES
              ('00000000-0000-4000-8000-00000000000a', 'plain'), ('00000000-0000-4000-8000-00000000000B', 'capitals'),
              ('0000000000004000800000000000000c', 'compact'), ('{00000000-0000-4000-8000-00000000000d}', 'braces'),
              (x'0000000000004000800000000000000e', 'bytes'),
              ('00000000-0000-4000-8000-00000000000f', 'one'), ('0000000000004000800000000000000F', 'two'), ('nonsense', 'none');
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages: { all: { path: /all, list: t }, one: { path: "/t/{k}", detail: t } }
            """
        );
        foreach (var digit in "abcde")
        {
            Assert.Equal("found 200", await app.OutcomeAsync(site, $"/t/00000000-0000-4000-8000-00000000000{digit}"));
            Assert.Equal(
                $"not-canonical 301 /t/00000000-0000-4000-8000-00000000000{digit}",
                await app.OutcomeAsync(site, $"/t/00000000-0000-4000-8000-00000000000{char.ToUpperInvariant(digit)}")
            );
        }

        Assert.Equal("ambiguous 500", await app.OutcomeAsync(site, "/t/00000000-0000-4000-8000-00000000000f"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/t/nonsense"));
    }

    [Fact]
    public async Task Of_several_spellings_of_one_UUID_the_visible_one_is_found()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (k UUID NOT NULL PRIMARY KEY, hide INTEGER NOT NULL, x TEXT);
            INSERT INTO t VALUES
              ('00000000-0000-4000-8000-00000000000a', 1, 'hidden'), ('00000000-0000-4000-8000-00000000000A', 1, 'hidden'),
              ('{00000000-0000-4000-8000-00000000000a}', 0, 'seen');
            """
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t, visible: { hide: 0 } } }
            pages: { one: { path: "/t/{k}", detail: t, show: [x] } }
            """
        );
        var (answer, _) = await app.VisitAsync(site, "/t/00000000-0000-4000-8000-00000000000a");
        using (answer)
            Assert.Equal("seen", Assert.IsType<DetailView>(answer.View).Record.Text(0));
    }

    [Fact]
    public async Task Dates_and_truth_are_parts_of_keys_and_timestamps_and_decimals_are_not()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE t (day DATE NOT NULL, late BOOLEAN NOT NULL, at TIMESTAMP NOT NULL UNIQUE, price DECIMAL NOT NULL UNIQUE, PRIMARY KEY (day, late));
            INSERT INTO t VALUES ('2024-02-29', 0, '2024-02-29 10:00', 1.5), ('2024-02-29', 1, '2024-02-29 20:00', 2.5), ('29 February', 1, 'x', 3);
            """
        );
        const string text = """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages:
              all: { path: /all, list: t }
              one: { path: "/days/{day}{?late}", detail: t }
            """;
        var site = await app.SiteAsync(text);
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/days/2024-02-29?late=true"));
        Assert.Equal(
            "not-canonical 301 /days/2024-02-29?late=false&x=1",
            await app.OutcomeAsync(site, "/days/2024-02-29?x=1&late=0")
        );
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/days/2024-02-30?late=true"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/days/2024-02-29?late=yes"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/days/2024-02-28?late=true"));
        Assert.Equal("missing 302 /all?lacking=one.late", await app.OutcomeAsync(site, "/days/2024-02-29"));
        foreach (var field in new[] { "at", "price" })
            Assert.Equal(
                "JX304",
                Assert
                    .Single(
                        (
                            await app.CompileAsync(
                                text + $"\n  other: {{ path: \"/other/{{id}}\", detail: t, by: {{ id: {field} }} }}"
                            )
                        ).Wrong()
                    )
                    .Code.Id
            );
    }

    [Fact]
    public async Task A_row_that_is_not_of_its_declared_form_has_no_address()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (k TEXT NOT NULL PRIMARY KEY); INSERT INTO t VALUES ('AV-0001'), ('other');"
        );
        const string text = """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t, fields: { k: { pattern: "AV-[0-9]{4}", such_as: AV-0007 } } } }
            pages: { all: { path: /all, list: t }, one: { path: "/t/{k}", detail: t } }
            """;
        var site = await app.SiteAsync(text);
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/t/other"));
        Assert.Equal("unknown 404", await app.OutcomeAsync(site, "/t/AV-0002"));
        var (answer, _) = await app.VisitAsync(site, "/all");
        using (answer)
        {
            using var address = new Utf8Buffer();
            Assert.False(((ListView)answer.View!).Shape.RecordLink!.TryWrite(((ListView)answer.View!).Rows[1], address));
        }

        foreach (
            var (good, bad, code) in new[]
            {
                ("such_as: AV-0007", "such_as: x", "JX307"),
                ("AV-[0-9]{4}", "AV-(", "JX306"),
                ("such_as:", "max_length: 0, such_as:", "JX116"),
            }
        )
            Assert.Contains((await app.CompileAsync(text.Replace(good, bad))).Findings, finding => finding.Code.Id == code);
    }

    [Fact]
    public async Task Former_paths_lead_to_where_the_page_is_now()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(
            TestApp
                .App.Replace("path: /bridges\n", "path: /bridges\n    was: /all-bridges\n")
                .Replace("path: /bridges/{id}", "path: /bridges/{id}\n    was: [\"/bridge-{id}.html\", \"/show{?id}\"]")
                .Replace("\"/lookup{?code}\"", "\"/lookup{?code}\", was: \"/codes/{code}\"")
        );
        Assert.Equal("not-canonical 301 /bridges?x=1", await app.OutcomeAsync(site, "/all-bridges?x=1"));
        Assert.Equal("not-canonical 301 /bridges/7", await app.OutcomeAsync(site, "/bridge-007.html"));
        Assert.Equal("not-canonical 301 /bridges/7?x=1", await app.OutcomeAsync(site, "/show?id=7&x=1"));
        Assert.Equal("not-canonical 301 /lookup?code=AV-0007&x=1", await app.OutcomeAsync(site, "/codes/AV-0007?x=1"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/bridge-x.html"));
        Assert.Equal("missing 302 /bridges?lacking=bridge.id", await app.OutcomeAsync(site, "/show?id="));
        Assert.Equal("not-allowed", (await app.VisitAsync(site, "/show?id=7", method: "POST")).Answer.Outcome.Word);
        var (answer, trace) = await app.VisitAsync(site, "/bridge-7.html");
        using (answer)
            Assert.Contains(TraceReport.Of(trace).Candidates, candidate =>
                candidate is { Won: true, Page: "bridge", Reason: "A former path of this page agrees." }
            );
        foreach (
            var (was, code) in new[]
            {
                ("/old", "JX412"),
                ("/old/{number}", "JX412"),
                ("/bridges/{id}", "JX402"),
                ("/districts/{id}", "JX402"),
                ("old/{id}", "JX401"),
            }
        )
            Assert.Equal(
                code,
                Assert
                    .Single(
                        (
                            await app.CompileAsync(
                                TestApp.App.Replace("path: /bridges/{id}", $"path: /bridges/{{id}}\n    was: \"{was}\"")
                            )
                        ).Wrong()
                    )
                    .Code.Id
            );
    }

    [Fact]
    public async Task Of_pages_that_share_a_path_the_one_whose_parameters_are_present_wins()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (a INTEGER PRIMARY KEY, b TEXT NOT NULL UNIQUE); INSERT INTO t VALUES (1, 'x');"
        );
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages:
              all: { path: /t, list: t }
              by-a: { path: "/t{?a}", detail: t }
              by-both: { path: "/t{?a,b}", detail: t, by: { a: a, b: b } }
            """
        );
        Assert.Equal("all", (await app.VisitAsync(site, "/t")).Trace.Page!.Name);
        Assert.Equal("all", (await app.VisitAsync(site, "/t?b=x")).Trace.Page!.Name);
        Assert.Equal("by-a", (await app.VisitAsync(site, "/t?a=1")).Trace.Page!.Name);
        Assert.Equal("by-both", (await app.VisitAsync(site, "/t?b=x&a=1")).Trace.Page!.Name);
        Assert.Equal("by-a", (await app.VisitAsync(site, "/t?a=")).Trace.Page!.Name);
        Assert.StartsWith("missing", await app.OutcomeAsync(site, "/t?a="));
    }

    [Fact]
    public async Task A_record_whose_address_another_page_takes_has_no_link()
    {
        await using var app = new TestApp("CREATE TABLE t (k TEXT NOT NULL PRIMARY KEY); INSERT INTO t VALUES ('new'), ('old');");
        var site = await app.SiteAsync(
            """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages: { all: { path: /t/new, list: t }, one: { path: "/t/{k}", detail: t } }
            """
        );
        Assert.Equal("JX403", Assert.Single(site.Wrong()).Code.Id);
        var (answer, _) = await app.VisitAsync(site, "/t/new");
        using (answer)
        {
            var view = (ListView)answer.View!;
            using var address = new Utf8Buffer();
            Assert.False(view.Shape.RecordLink!.TryWrite(view.Rows[0], address));
            Assert.True(view.Shape.RecordLink!.TryWrite(view.Rows[1], address));
        }
    }

    [Fact]
    public async Task A_foreign_key_shows_the_other_record_unless_that_may_not_be_seen()
    {
        await using var app = new TestApp();
        var (answer, _) = await app.VisitAsync(await app.SiteAsync(), "/bridges");
        using (answer)
        {
            var view = (ListView)answer.View!;
            var district = view.Shape.Columns.Single(column => column.Name == "district");
            var shown = Enumerable
                .Range(0, view.Rows.Count)
                .Select(i =>
                {
                    using var text = new Utf8Buffer();
                    district.WriteText(view.Rows[i], text);
                    var state =
                        district.IsLost(view.Rows[i]) ? "lost"
                        : district.IsEmpty(view.Rows[i]) ? "empty"
                        : "shown";
                    using var address = new Utf8Buffer();
                    district.LinkOn(view.Rows[i])?.TryWrite(view.Rows[i], address);
                    return $"{state} {text} {address}";
                });
            Assert.Equal(["lost  ", "shown North-West Moor /districts/n%2Fw-moor", "empty  "], shown);
        }
    }

    [Fact]
    public async Task Hidden_and_unknown_say_the_same_but_for_the_ID()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        foreach (
            var (hidden, unknown) in new[] { ("/bridges/8", "/bridges/6"), ("/lookup?code=AV-0008", "/lookup?code=AV-0006") }
        )
        {
            var (a, _) = await app.VisitAsync(site, hidden);
            var (b, _) = await app.VisitAsync(site, unknown);
            var (x, y) = ((MessageView)a.View!, (MessageView)b.View!);
            Assert.Equal((x.Outcome, x.Status, x.Heading, x.Page), (y.Outcome, y.Status, y.Heading, y.Page));
            Assert.Equal(x.Sentences.Select(s => s.Replace('8', '6')), y.Sentences);
            Assert.Equal(a.Outcome.PublicWord, b.Outcome.PublicWord);
            Assert.Equal(x.Links, y.Links);
        }
    }

    [Fact]
    public async Task A_source_that_goes_away_makes_its_pages_unavailable_and_that_alone()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        app.Execute("ALTER TABLE bridge RENAME TO elsewhere");
        var (answer, trace) = await app.VisitAsync(site, "/bridges/7");
        Assert.Equal("failed 500", $"{answer.Outcome} {answer.Status}");
        Assert.Contains("no such table", trace.Why);
        Assert.DoesNotContain("table", string.Join(' ', ((MessageView)answer.View!).Sentences));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/districts/n%2Fw-moor"));
        app.Execute("ALTER TABLE elsewhere RENAME TO bridge");
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/bridges/7"));
    }

    [Fact]
    public async Task A_trace_tells_what_was_tried_and_decided()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        var (answer, trace) = await app.VisitAsync(site, "/lookup?code=av-0007&x=1");
        using (answer)
        {
            var told = TraceReport.Of(trace);
            Assert.Equal("not-canonical", told.Outcome);
            Assert.Equal("lookup", told.Candidates.Single(candidate => candidate.Won).Page);
            Assert.All(told.Candidates, candidate => Assert.EndsWith(".", candidate.Reason));
            Assert.Equal(["x"], told.Ignored);
            Assert.Equal(
                ("code", "av-0007", "text", "av-0007"),
                (told.Parameters[0].Name, told.Parameters[0].Raw, told.Parameters[0].Type, told.Parameters[0].Value)
            );
            Assert.Contains("= 'av-0007'", told.Queries[0].Text);
            Assert.Contains("AV-0007", told.Queries[0].Rows[0]);
            Assert.Equal(["match", "parse", "load", "decide"], told.Steps.Select(step => step.Step));
        }
    }

    [Fact]
    public void Traces_are_bounded_in_number_and_in_bytes()
    {
        var log = new VisitLog(10, 200_000);
        for (var i = 1; i <= 25; i++)
            log.Add(log.Begin("GET", "/", TimeProvider.System));
        Assert.Equal(Enumerable.Range(16, 10).Reverse().Select(i => (long)i), log.Read(trace => trace.Number));
        Assert.Null(log.Read(15, trace => trace));
        Assert.NotNull(log.Read(16, trace => trace));
        for (var i = 0; i < 100; i++)
            log.Add(new VisitTrace("GET", "/" + new string('x', 100_000), TimeProvider.System) { Why = new string('y', 30_000) });
        Assert.InRange(log.Bytes, 1, 200_000);
    }

    [Fact]
    public async Task A_trace_that_is_used_again_tells_nothing_of_its_earlier_visit()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        var log = new VisitLog(1);
        var told = new List<TraceInfo>();
        var longest = "/bridges/" + new string('7', 5000);
        foreach (
            var target in new[]
            {
                "/lookup?code=AV-0007&x=1",
                "/nothing",
                "/bridges/7",
                "/bridges/x",
                "/bridges",
                "/lookup?code=av-0007",
                longest,
                "/bridges/%C3%28",
                "*",
                "/lookup",
            }
        )
        {
            var alone = (await app.VisitAsync(site, target)).Trace;
            var again = await app.VisitAsync(site, target, log);
            Assert.Equal(Said(TraceReport.Of(alone)), Said(TraceReport.Of(again)));
            told.Add(TraceReport.Of(again));
            log.Add(again);
            // What the log keeps is all that the trace said, to the microsecond.
            Assert.Equal(JsonSerializer.Serialize(told[^1]), JsonSerializer.Serialize(log.Read(told[^1].Number, TraceReport.Of)));
        }

        Assert.Equal(Enumerable.Range(1, 10).Select(number => (long)number), told.Select(trace => trace.Number));

        // All but what differs from visit to visit: number and times.
        static string Said(TraceInfo trace) =>
            JsonSerializer.Serialize(
                trace with
                {
                    Number = 0,
                    At = default,
                    Microseconds = 0,
                    Steps = [.. trace.Steps.Select(step => step with { Microseconds = 0 })],
                    Queries = [.. trace.Queries.Select(query => query with { Microseconds = 0 })],
                }
            );
    }

    [Fact]
    public void The_log_keeps_values_of_every_kind_as_they_were()
    {
        TypedValue[] values =
        [
            new TypedValue.Whole(long.MinValue),
            new TypedValue.Text(""),
            new TypedValue.Text("ø 🌉\0\n"),
            new TypedValue.Uuid(Guid.Parse("6f1a2b3c-0d4e-4f50-8a6b-7c8d9e0f1a2b")),
            new TypedValue.Date(DateOnly.MaxValue),
            new TypedValue.Moment(new DateTime(1999, 12, 31, 23, 59, 59)),
            new TypedValue.Number(-1.500m),
            new TypedValue.Number(decimal.MaxValue),
            new TypedValue.Number(0.0000000000000000000000000001m),
            new TypedValue.Boolean(true),
            new TypedValue.Boolean(false),
            new TypedValue.Real(double.NaN),
            new TypedValue.Real(-0.0),
            new TypedValue.Real(5e-324),
            TypedValue.Empty.Value,
        ];
        var log = new VisitLog();
        var trace = log.Begin("GET", "/", TimeProvider.System);
        foreach (var value in values.SkipLast(1))
            trace.Add(new TracedParameter("id", value.ToString(), KeyReading.Of(value, canonical: value is TypedValue.Text)));
        trace.Add(new TracedParameter("gone", null, default));
        trace.Add(new TracedParameter("bad", "x", KeyReading.Failed(KeyFault.WrongForm)));
        var rows = new RowBlock();
        rows.Reset(2);
        for (var i = 0; i < 2; i++)
        {
            rows.BeginRow();
            rows.AddRun(CellKind.Text, "one"u8);
            rows.AddReal(1.5);
        }

        var query = new ShownQuery();
        trace.Add(query, values, rows, 2, 0);
        trace.Add(query, [new TypedValue.Bytes([0, 255])], null, 0, 0);
        var (parameters, queries) = (trace.Parameters.ToList(), trace.Queries.ToList());
        log.Add(trace);
        var told = log.Read(1, kept => kept)!;

        Assert.Equal(parameters.Select(Said), told.Parameters.Select(Said));
        Assert.Equal(values, told.Queries[0].Arguments);
        Assert.Equal([0, 255], ((TypedValue.Bytes)told.Queries[1].Arguments[0]).Value);
        Assert.Equal(
            queries.Select(asked => (asked.Query, asked.RowCount, asked.Ticks)),
            told.Queries.Select(asked => (asked.Query, asked.RowCount, asked.Ticks))
        );
        Assert.Equal(
            (2, "one", 1.5),
            (told.Queries[0].Rows!.Count, told.Queries[0].Rows![1].Text(0), told.Queries[0].Rows![1][1].Real)
        );
        Assert.Null(told.Queries[1].Rows);

        static (string, string?, KeyFault, TypedValue?, bool) Said(TracedParameter parameter) =>
            (parameter.Name, parameter.Raw, parameter.Reading.Fault, parameter.Reading.Value, parameter.Reading.IsCanonical);
    }

    private sealed class ShownQuery : IPreparedQuery
    {
        public int Width => 2;

        public IReadOnlyList<string> ColumnNames => ["a", "b"];

        public ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation) =>
            throw new NotSupportedException();

        public string Shown(IReadOnlyList<TypedValue> arguments) => "";
    }

    [Fact]
    public void What_a_visitor_sent_cannot_disturb_a_terminal() =>
        Assert.Equal("a\\u001B[31m\\u202Eb\\u000A", TraceReport.Escaped("a\u001b[31m\u202eb\n"));

    [Fact]
    public async Task Any_target_whatever_has_exactly_one_outcome_and_never_fails()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync();
        var targets = Gen.OneOf(
            Gen.Select(
                Gen.OneOf("/bridges/", "/lookup?code=", "/districts/", "/bridges?after=", "/", "/lookup/", "/bridges/7?"),
                Gen.Byte.Array[0, 12],
                (path, bytes) =>
                    path + string.Concat(bytes.Select(b => b is > 32 and < 127 && b % 3 > 0 ? ((char)b).ToString() : $"%{b:X2}"))
            ),
            Gen.String[Gen.Char["/bridges7%20?code=AV-&+.zø\\"], 0, 30]
        );
        var seen = new HashSet<string>();
        await targets.SampleAsync(
            async target =>
            {
                var (answer, trace) = await app.VisitAsync(site, target);
                using (answer)
                {
                    lock (seen)
                        seen.Add(answer.Outcome.Word);
                    Assert.False(
                        answer.Outcome is Outcome.Failed or Outcome.Unavailable or Outcome.Ambiguous,
                        $"{target}: {answer.Outcome} {trace.Why}"
                    );
                    Assert.Same(answer.Outcome, trace.Outcome);
                    Assert.InRange(answer.Status, 200, 404);
                    if (answer.Location is { } location)
                        Assert.True(
                            location.StartsWith('/')
                                && !location.StartsWith("//", StringComparison.Ordinal)
                                && Ascii.IsValid(location),
                            location
                        );
                }
            },
            iter: 3000
        );
        Assert.Superset(new HashSet<string> { "malformed", "unknown", "no-page" }, seen);
    }

    [Fact]
    public async Task Lists_that_make_no_groups_stand_without_a_heading()
    {
        await using var app = new TestApp();
        var site = await app.SiteAsync(TestApp.App + "\n  all: { path: /all, text: All of them, lists: all }");
        var (answer, _) = await app.VisitAsync(site, "/all");
        using (answer)
        {
            var group = Assert.Single(Assert.IsType<TextView>(answer.View).Lists!.Groups);
            Assert.Equal("", group.Title);
            Assert.Equal(["bridges", "districts"], group.Lists.Select(list => list.Link.Page));
        }
    }
}
