using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Drafts;
using Jexa.Core.Endpoints;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Demo;
using Jexa.Sources.Http;
using Jexa.Sources.Tests.Conformance;

namespace Jexa.Sources.Tests;

/// <summary>First app files drafted from schemas: good ones, ugly ones, large ones.</summary>
public sealed class DraftTests
{
    private static async Task<(AppDraft Draft, Compilation Compilation)> DraftAsync(TestDatabase database, string schema)
    {
        database.Execute(schema);
        await using var source = database.Open();
        var described = await source.DescribeAsync(CancellationToken.None);
        var samples = await TableSample.ReadAsync(source, described, CancellationToken.None);
        var draft = Drafter.Write(
            new DraftInput("Test", database.Engine, "${BASE}", described)
            {
                Samples = samples,
                Guesses = await RelationGuess.ReadAsync(source, described, samples, CancellationToken.None),
            }
        );
        await using var sources = new SourceRegistry([TestDatabase.EngineOf(database.Engine)]);
        var folder = Directory.CreateTempSubdirectory("jexa-draft-").FullName;
        var connection = database.Engine == "sqlite" ? database.Folder + "/register.db" : database.Connection;
        var compilation = await new SiteCompiler(sources, name => name == "BASE" ? connection : null, Mount.Root).CompileAsync(
            Path.Combine(folder, "app.yaml"),
            Encoding.UTF8.GetBytes(draft.Text),
            CancellationToken.None
        );
        Directory.Delete(folder);
        return (draft, compilation);
    }

    internal const string Register = """
        CREATE TABLE district (slug TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL);
        CREATE TABLE bridges (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, name TEXT NOT NULL, district TEXT NOT NULL REFERENCES district (slug), status TEXT NOT NULL CHECK (status IN ('open', 'closed')),
          opened_on DATE, story TEXT, password_hash TEXT, created_at TIMESTAMP);
        CREATE TABLE inspection (id INTEGER PRIMARY KEY, bridge_id INTEGER NOT NULL REFERENCES bridges (id), held_on DATE NOT NULL, verdict TEXT NOT NULL);
        CREATE TABLE tag (tag_id INTEGER PRIMARY KEY, title TEXT NOT NULL UNIQUE);
        CREATE TABLE bridge_tag (bridge_id INTEGER NOT NULL REFERENCES bridges (id), tag_id INTEGER NOT NULL REFERENCES tag (tag_id), PRIMARY KEY (bridge_id, tag_id));
        CREATE VIEW open_bridges AS SELECT id, name FROM bridges WHERE status = 'open';
        """;

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task A_register_gets_the_pages_that_a_person_would_give_it(string engine)
    {
        using var database = new TestDatabase(engine);
        var (draft, compilation) = await DraftAsync(database, SchemaDialect.Translate(Register, engine));
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings) + draft.Text);
        Assert.DoesNotContain(compilation.Findings, finding => finding.Code.Severity == Severity.Error);
        Assert.Contains("home: bridges\n", draft.Text);
        var app = compilation.Definition!;
        RecordDefinition Record(string name) => app.Records.Single(record => record.Name.Value == name);
        PageDefinition Page(string name) => app.Pages.Single(page => page.Name.Value == name);
        Assert.Equal(
            ["bridge", "bridge-tag", "district", "inspection", "open-bridge", "tag"],
            app.Records.Select(record => record.Name.Value).Order()
        );
        Assert.Equal("name", Record("bridge").Label!.Value);
        Assert.Equal("title", Record("tag").Label!.Value);
        Assert.Equal(["bridge_id"], Record("inspection").Parent.Select(field => field.Value));
        Assert.Contains("password_hash: { secret: true }", draft.Text);
        Assert.Contains("created_at: { kept: created }", draft.Text);
        Assert.Equal(
            "name district status opened_on",
            string.Join(' ', Page("bridges").Show.Select(name => name.Value).Where(name => name != "code"))
        );
        Assert.Equal(
            ["inspection", "bridge-tag"],
            Page("bridge").Related.Select(block => block.Record!.Value).OrderByDescending(name => name)
        );
        Assert.Equal("/bridges/{id}/edit", Page("bridge-edit").Path.Value);
        Assert.Equal("/new-district", Page("district-new").Path.Value);
        Assert.Contains("# bridge_tag ties ", draft.Text);
        Assert.Equal(
            ["bridge-tag-delete", "bridge-tag-new"],
            app.Pages.Select(page => page.Name.Value)
                .Where(name => name.StartsWith("bridge-tag", StringComparison.Ordinal))
                .Order()
        );
        Assert.Equal("/inspections/new{?bridge_id}", Page("inspection-new").Path.Value);
        var site = compilation.Site.Pages.OfType<DetailPage>().Single(page => page.Name == "bridge");
        Assert.Equal(["bridge-tag-new", "inspection-new"], site.Blocks.Select(block => block.Add?.Page).Order());
        Assert.Equal(
            "bridge-tag-delete Remove",
            site.Blocks.SelectMany(block => block.Shape.Rows!.Actions).Select(link => $"{link.Page} {link.Text}").Single()
        );
        Assert.Contains(draft.Doubts, doubt => doubt.StartsWith("open_bridges has no key", StringComparison.Ordinal));
        Assert.DoesNotContain(app.Pages, page => page.Name.Value == "open-bridge");
    }

    [Fact]
    public async Task Years_and_side_lists_come_where_there_is_enough_to_look_through()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            Register
                + """
                INSERT INTO district VALUES ('moor', 'The Moor'), ('fen', 'The Fen');
                INSERT INTO bridges (code, name, district, status) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 300) SELECT 'B' || i, 'Bridge ' || i, 'moor', 'open' FROM n;
                INSERT INTO inspection (bridge_id, held_on, verdict) SELECT id, '2020-01-01', 'sound' FROM bridges;
                """
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        Assert.Contains("inspections-of-year:\n    path: /inspections{?year}", draft.Text);
        Assert.Contains("side: [district]", draft.Text);
        Assert.Contains("path: \"/districts/{district}/bridges\"", draft.Text);
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Relations_that_nobody_declared_are_proposed_where_name_type_and_values_agree(string engine)
    {
        using var database = new TestDatabase(engine);
        var (draft, compilation) = await DraftAsync(
            database,
            """
            CREATE TABLE keepers (keeper_id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
            CREATE TABLE lamp (lamp_no VARCHAR(10) NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
            CREATE TABLE lights (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL, keeper_id INTEGER, keeper VARCHAR(40), lampno VARCHAR(10), lamp INTEGER, keeperid INTEGER);
            INSERT INTO keepers VALUES (1, 'Ada'), (2, 'Bo'), (3, 'Cy');
            INSERT INTO lamp VALUES ('L-1', 'Big'), ('L-2', 'Small');
            INSERT INTO lights VALUES (10, 'North', 1, 'x', 'L-1', 1, 1), (11, 'South', 2, 'y', 'L-2', 2, 77), (12, 'West', 3, 'z', 'L-1', 3, 2);
            """
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings) + draft.Text);
        Assert.Equal(
            ["keeper_id: { refers_to: keeper }", "lampno: { refers_to: lamp }"],
            draft
                .Text.Split('\n')
                .Where(line => line.Contains("refers_to", StringComparison.Ordinal))
                .Select(line => line.Trim(' ', '#').Split("  ")[0])
                .Order()
        );
        Assert.Contains(draft.Doubts, doubt =>
            doubt == "lights.keeper_id looks like the key of keepers: if it is, take the # away before its line."
        );

        // As a comment it changes nothing; without its # it is a link.
        await using var sources = new SourceRegistry([TestDatabase.EngineOf(engine)]);
        var taken = string.Join(
            '\n',
            draft
                .Text.Split('\n')
                .Select(line =>
                    line.Contains("refers_to", StringComparison.Ordinal) || line.Trim() == "# fields:"
                        ? line.Remove(line.IndexOf("# ", StringComparison.Ordinal), 2)
                        : line
                )
        );
        var connection = database.Engine == "sqlite" ? database.Folder + "/register.db" : database.Connection;
        var linked = await new SiteCompiler(sources, _ => connection, Mount.Root).CompileAsync(
            "app.yaml",
            Encoding.UTF8.GetBytes(taken),
            CancellationToken.None
        );
        Assert.True(linked.Site is not null, string.Join("\n", linked.Findings) + taken);
        Assert.Contains(linked.Site.Pages.Single(page => page.Name == "light").Links, link => link.Plan.Page == "keeper");
    }

    [Fact]
    public async Task A_table_that_refers_to_itself_stands_on_both_sides()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            """
            CREATE TABLE keeper (id INTEGER PRIMARY KEY, name TEXT NOT NULL, reports_to INTEGER REFERENCES keeper (id));
            INSERT INTO keeper VALUES (1, 'Ada', NULL), (2, 'Bo', 1);
            """
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings) + draft.Text);
        Assert.Contains("- { record: keeper, by: reports_to, title: \"Keepers by reports to\", show: [name] }", draft.Text);
        Assert.Contains(compilation.Site.Pages.Single(page => page.Name == "keeper").Links, link =>
            link.Column == "reports_to" && link.Plan.Page == "keeper"
        );
    }

    [Fact]
    public async Task Ugly_names_and_lacking_keys_still_make_a_site()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            """
            CREATE TABLE "Order" ("Select" INTEGER PRIMARY KEY, "Group By" TEXT, "from" DATE, [Key Value] TEXT, "100%" REAL);
            CREATE TABLE "ORDER LINES" (OrderNo INTEGER NOT NULL, LineNo INTEGER NOT NULL, "find" TEXT, PRIMARY KEY (OrderNo, LineNo));
            CREATE TABLE tblCustomers (CustID INTEGER PRIMARY KEY, CustName VARCHAR(80), Photo BLOB NOT NULL);
            CREATE TABLE "no key at all" (a REAL, b BLOB); CREATE TABLE bytes (b BLOB);
            CREATE TABLE log (at TIMESTAMP, line TEXT);
            CREATE TABLE "crème brûlée" (id INTEGER PRIMARY KEY, "größe" INTEGER, "naïve ""quoted"" name" TEXT);
            CREATE TABLE a (id INTEGER PRIMARY KEY, b_id INTEGER NOT NULL REFERENCES b (id));
            CREATE TABLE b (id INTEGER PRIMARY KEY, a_id INTEGER NOT NULL REFERENCES a (id), boss INTEGER REFERENCES b (id));
            CREATE TABLE "1st" (id INTEGER PRIMARY KEY, "is" TEXT);
            CREATE TABLE "null" (id INTEGER PRIMARY KEY, "null" TEXT, "true" BOOLEAN, "#hash" TEXT, "a: b" TEXT, "{x}" TEXT);
            CREATE TABLE session (token TEXT NOT NULL PRIMARY KEY, at TIMESTAMP); CREATE TABLE jexa_commit (token TEXT NOT NULL PRIMARY KEY, key TEXT);
            CREATE TABLE bridge (id INTEGER PRIMARY KEY); CREATE TABLE bridges (id INTEGER PRIMARY KEY); CREATE TABLE "Bridge-s" (id INTEGER PRIMARY KEY);
            """
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings) + draft.Text);
        Assert.Contains("No page for a new tbl customer: Photo holds bytes", draft.Text);
        Assert.Contains(compilation.Findings, finding => finding.Code.Id == "JX303");
        Assert.DoesNotContain("jexa_commit", draft.Text);
        Assert.Contains(draft.Doubts, doubt => doubt.StartsWith("no key at all has no key", StringComparison.Ordinal));
        Assert.Contains("bytes has nothing that a list could show; it is left out.", draft.Doubts);
        Assert.All(draft.Doubts, doubt => Assert.Contains($"# Unsure: {doubt}", draft.Text));
    }

    [Fact]
    public async Task What_no_address_could_carry_is_listed_all_the_same()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            """
            CREATE TABLE reading (at TIMESTAMP, value REAL, password TEXT);
            CREATE TABLE letter (body TEXT, photo BLOB);
            INSERT INTO reading VALUES ('2026-01-01 10:00:00', 1.5, 'x'), ('2026-01-01 11:00:00', 2.5, 'y'), ('2026-01-01 11:00:00', 2.5, 'z');
            """
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        Assert.Equal(["letters", "readings"], compilation.Site.Pages.Select(page => page.Name).Order());
        Assert.Matches("""key: \["?at"?, "?value"?\]""", draft.Text);
        Assert.Contains("{ secret: true }", draft.Text);
    }

    [Fact]
    public async Task A_source_with_nothing_to_list_is_a_draft_that_can_be_read()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(database, "CREATE TABLE bytes (b BLOB);");
        Assert.Contains("# None of the source's tables has anything that a list could show.", draft.Text);
        Assert.DoesNotContain(compilation.Findings, finding => finding.Code.Id == "JX114");
    }

    [Fact]
    public async Task Three_hundred_tables_make_a_site_with_a_menu_one_can_read()
    {
        using var database = new TestDatabase("sqlite");
        var schema = new StringBuilder();
        for (var i = 0; i < 300; i++)
            schema.Append(
                $"CREATE TABLE thing_{i} (id INTEGER PRIMARY KEY, name TEXT NOT "
                    + $"NULL{(i > 0 ? $", of_id INTEGER NOT NULL REFERENCES thing_{i / 3} (id)" : "")});\n"
            );
        var (_, compilation) = await DraftAsync(database, schema.ToString());
        Assert.Equal(300, compilation.Definition!.Records.Count);
        Assert.InRange(compilation.Site!.Frame.Menu.Count, 5, 20);
    }

    [Fact]
    public async Task Comparing_tells_what_is_new_gone_and_different()
    {
        using var database = new TestDatabase("sqlite");
        database.Execute(Register + "CREATE TABLE toll (id INTEGER PRIMARY KEY);");
        await using var source = database.Open();
        var schema = await source.DescribeAsync(CancellationToken.None);
        const string App = """
            app: Old
            sources: { s: { engine: sqlite, connection: register.db } }
            records:
              bridge: { from: s.bridges, key: code, fields: { opened_on: { type: text }, weight: { label: Weight } } }
              keeper: { from: s.keeper }
              inspection: { from: s.inspection }
            pages:
              bridges: { path: /bridges, list: bridge, show: [name] }
              bridge: { path: "/bridges/{id}", detail: bridge, show: [name, district, status] }
              inspection: { path: "/inspections/{id}", detail: inspection }
            """;
        var app = AppFileReader.Read("app.yaml", Encoding.UTF8.GetBytes(App), new FindingList())!;
        var told = DraftComparison
            .Of(app, "s", schema)
            .Select(difference => $"{difference.Kind} {difference.What}")
            .Order(StringComparer.Ordinal);
        Assert.Equal(
            [
                "different bridge",
                "different bridge.opened_on",
                "gone bridge.weight",
                "gone keeper",
                "new bridge.created_at",
                "new bridge.password_hash",
                "new bridge.story",
                "new bridge_tag",
                "new district",
                "new open_bridges",
                "new tag",
                "new toll",
            ],
            told
        );
    }

    [Fact]
    public async Task What_is_in_the_tables_decides_columns_and_labels()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            """
            CREATE TABLE place (id INTEGER PRIMARY KEY, parent_id INTEGER REFERENCES place, remark_name VARCHAR(40), caption VARCHAR(500), call_sign TEXT, never TEXT, state TEXT);
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60)
            INSERT INTO place SELECT i, CASE WHEN i = 9 THEN 1 END, '', 'Place number ' || i, 'PL' || i, NULL, CASE i % 2 WHEN 0 THEN 'open' ELSE 'shut' END FROM n;
            CREATE TABLE mark (id INTEGER PRIMARY KEY, a TEXT, b TEXT);
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60) INSERT INTO mark SELECT i, 'same', 'B-' || i FROM n;
            """
        );
        Assert.Empty(compilation.Wrong());
        Assert.Contains("label: caption", draft.Text);
        Assert.Contains("show: [caption, parent_id, call_sign, state]", draft.Text);
        Assert.DoesNotContain("never", draft.Text);
        Assert.Contains("label: b", draft.Text);
    }

    [Theory]
    [InlineData("sqlite")]
    [InlineData("postgresql")]
    [InlineData("mariadb")]
    public async Task Columns_are_drafted_by_what_they_hold(string engine)
    {
        using var database = new TestDatabase(engine);
        var text = engine == "mariadb" ? "VARCHAR(200)" : "TEXT";
        var rows = string.Join(
            ", ",
            Enumerable
                .Range(1, 40)
                .Select(i =>
                    $"({i}, 'Bridge {i}', 'https://bridges.example/{i}', 'https://bridges.example/{i}.jpg', "
                    + $"'b{i}.png', 'keeper{i}@bridges.example', '{{\"deck\": {i}}}', {1_700_000_000 + i}, {i}.5, "
                    + $"'{(i % 2 == 0 ? "steel" : "stone")}', {i % 3}, {i % 2}, 'word {i}')"
                )
        );
        var (draft, compilation) = await DraftAsync(
            database,
            $"""
            CREATE TABLE bridge (id INTEGER PRIMARY KEY, name {text} NOT NULL, page {text}, view {text}, photo {text}, keeper {text}, extra {text}, seen_at BIGINT, cost DOUBLE PRECISION, made_of {text},
              grade INTEGER, is_lit SMALLINT, loose {text});
            INSERT INTO bridge VALUES {rows};
            CREATE TABLE span (bridge_id INTEGER NOT NULL REFERENCES bridge (id), no INTEGER NOT NULL, PRIMARY KEY (bridge_id, no));
            """
        );
        Assert.Empty(compilation.Wrong());
        foreach (
            var line in new[]
            {
                "      page: { as: web }",
                "      view: { as: image }",
                "      keeper: { as: email }",
                "      extra: { as: json }",
                "      seen_at: { as: epoch }",
                "      cost: { decimals: 2 }",
                "      # photo: { as: image, under: FOLDER }          # these are names of pictures: say which "
                    + "folder they are in",
                "      # made_of: { choices: { steel: Steel, stone: Stone } }          # the only values that were seen",
                "      # grade: { choices: { \"0\": \"0\", \"1\": \"1\", \"2\": \"2\" } }          # the only "
                    + "values that were seen",
                "      # is_lit: { type: boolean }          # the only values that were seen",
                "    label: \"{bridge_id.name}, span {no}\"",
            }
        )
        {
            Assert.Contains(line + "\n", draft.Text);
        }

        Assert.DoesNotContain("loose:", draft.Text);

        // What is proposed holds too, once its mark is taken away.
        await using var app = new TestApp("");
        var proposed = System
            .Text.RegularExpressions.Regex.Replace(
                draft.Text,
                "^      # ",
                "      ",
                System.Text.RegularExpressions.RegexOptions.Multiline
            )
            .Replace("FOLDER", ".");
        await using var sources = new SourceRegistry([TestDatabase.EngineOf(engine)]);
        var connection = engine == "sqlite" ? database.Folder + "/register.db" : database.Connection;
        var again = await new SiteCompiler(sources, _ => connection, Mount.Root).CompileAsync(
            Path.Combine(app.Folder, "app.yaml"),
            Encoding.UTF8.GetBytes(proposed),
            CancellationToken.None
        );
        Assert.Empty(again.Wrong());
    }

    [Theory]
    [InlineData("/paged", "/paged{?page}", ApiPaging.Page)]
    [InlineData("/offset", "/offset{?offset}", ApiPaging.Offset)]
    [InlineData("/linked", "/linked", ApiPaging.Links)]
    [InlineData("/gauges", "/gauges", ApiPaging.Links)]
    public async Task The_pages_of_an_API_are_found_by_asking_for_the_second(string list, string template, ApiPaging paging)
    {
        using var gauges = GaugeService.Start(0)!;
        var api = await ApiSampler.SampleAsync(
            new SourceSettings("http", gauges.Url, gauges.Url, "/", TimeSpan.FromSeconds(5)),
            [list],
            CancellationToken.None
        );
        Assert.Equal((template, paging), (Assert.Single(api.Endpoints).List, Assert.Single(api.Endpoints).Paging));
    }

    [Fact]
    public async Task Every_list_of_a_large_database_is_reached_from_the_menu()
    {
        using var database = new TestDatabase("sqlite");
        var (draft, compilation) = await DraftAsync(
            database,
            string.Concat(
                Enumerable
                    .Range(0, 40)
                    .Select(i => $"CREATE TABLE {(i % 2 == 0 ? "span" : "crew")}_n{i} (id INTEGER PRIMARY KEY, name TEXT);")
            )
        );
        Assert.Empty(compilation.Wrong());
        var index = Assert.Single(compilation.Site!.Pages.OfType<TextPage>());
        Assert.Contains("lists: all", draft.Text);
        Assert.Equal(
            compilation.Site.Pages.OfType<ListPage>().Select(list => list.Name).Order(),
            index.Lists.SelectMany(group => group.Lists).Select(list => list.Name).Order()
        );
        Assert.Equal(["Crew", "Span"], index.Lists.Select(group => group.Title));
        Assert.Contains(compilation.Site.Frame.Menu, link => link.Page == index.Name);
    }

    [Theory]
    [InlineData("password", true)]
    [InlineData("dbpass", true)]
    [InlineData("tls_psk", true)]
    [InlineData("key_passphrase", true)]
    [InlineData("snmp_community", true)]
    [InlineData("passwordHash", true)]
    [InlineData("api_key", true)]
    [InlineData("passwd_min_length", false)]
    [InlineData("must_change_password", false)]
    [InlineData("file_hash", false)]
    [InlineData("overpass", false)]
    [InlineData("sort_key", false)]
    public async Task Secrets_are_told_by_whole_words(string column, bool isSecret)
    {
        using var database = new TestDatabase("sqlite");
        var (draft, _) = await DraftAsync(
            database,
            $"CREATE TABLE account (id INTEGER PRIMARY KEY, name TEXT NOT NULL, {column} TEXT);"
        );
        Assert.Equal(isSecret, draft.Text.Contains($"{column}: {{ secret: true }}"));
    }

    private static async Task<(AppDraft Draft, Compilation Compilation, Site Site)> OfApiAsync(ApiDescription api, string url)
    {
        var settings = new SourceSettings("http", url, url, "/", TimeSpan.FromSeconds(5))
        {
            Api = new ApiSettings([], [], false, api.Endpoints),
        };
        await using var sources = new SourceRegistry([new HttpEngine()]);
        var schema = await sources.Open(settings).DescribeAsync(CancellationToken.None);
        var draft = Drafter.Write(new DraftInput("API", "http", url, schema) { Api = api });
        var compilation = await new SiteCompiler(sources, _ => null, Mount.Root).CompileAsync(
            "/tmp/app.yaml",
            Encoding.UTF8.GetBytes(draft.Text),
            CancellationToken.None
        );
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings) + draft.Text);
        Assert.Empty(compilation.Wrong());
        return (draft, compilation, compilation.Site);
    }

    [Fact]
    public async Task An_API_is_drafted_from_what_it_says_of_itself()
    {
        using var gauges = GaugeService.Start(0)!;
        var text = await ApiSampler.FetchAsync(
            new Uri(gauges.Url + "/openapi.json"),
            TimeSpan.FromSeconds(5),
            CancellationToken.None
        );
        var (draft, _, site) = await OfApiAsync(ApiDescription.Read(text), gauges.Url);
        Assert.Contains("item: \"/gauges/{code}\"", draft.Text);
        Assert.Contains("level_m: decimal, rising: boolean, measured_at: timestamp, note: text", draft.Text);
        Assert.Equal(
            ["gauges /gauges", "gauge /gauges/{id}"],
            site.Pages.Select(page => $"{page.Name} {page.Head.Template.Text}")
        );
    }

    [Theory]
    [InlineData("/gauges", "/gauges/{code}", "")]
    [InlineData("/wrapped/gauges", "/wrapped/gauges/{code}", "/items")]
    [InlineData("/nested/gauges", "/nested/gauges/{code}", "/data/items")]
    [InlineData("/named", "/named/{key}", "")]
    [InlineData("/lying/gauges", null, "")]
    public async Task An_API_without_a_description_is_drafted_from_its_lists(string list, string? item, string records)
    {
        using var gauges = GaugeService.Start(0)!;
        var api = await ApiSampler.SampleAsync(
            new SourceSettings("http", gauges.Url, gauges.Url, "/", TimeSpan.FromSeconds(5)),
            [list],
            CancellationToken.None
        );
        var endpoint = Assert.Single(api.Endpoints);
        Assert.Equal((item, records), (endpoint.Item, endpoint.Records));
        await OfApiAsync(api, gauges.Url);
    }

    [Fact]
    public void A_description_is_read_however_it_puts_its_records()
    {
        const string Text = """
            openapi: 3.0.3
            info: { title: Awkward }
            paths:
              /v1/towns: { get: { parameters: [ { name: page, in: query } ], responses: { "200": { content: { application/json: { schema: { type: object, properties: { total: { type: integer }, items: { type: array, items: { $ref: "#/components/schemas/Town" } } } } } } } } } }
              /v1/towns/{townId}: { get: { responses: { "2XX": { content: { application/json: { schema: { type: object, properties: { data: { $ref: "#/components/schemas/Town" } } } } } } } } }
              /v1/towns/{townId}/streets: { get: { responses: { "200": { content: { application/json: { schema: { type: array, items: { $ref: "#/components/schemas/Town" } } } } } } } }
              /v1/weather: { get: { parameters: [ { name: day, in: query, required: true } ], responses: { "200": { content: { application/json: { schema: { type: array, items: { $ref: "#/components/schemas/Town" } } } } } } } }
              /v1/rivers/{ref}: { get: { responses: { "200": { content: { application/json: { schema: { type: object, properties: { length: { type: number } } } } } } } } }
              /v1/codes: { get: { responses: { "200": { content: { application/json: { schema: { type: object, additionalProperties: { $ref: "#/components/schemas/Town" } } } } } } } }
              /v1/towns/search: { post: { responses: { "200": { content: { application/json: { schema: { type: array } } } } } } }
            components:
              schemas:
                Base: { type: object, properties: { id: { type: integer } } }
                Town:
                  allOf: [ { $ref: "#/components/schemas/Base" }, { type: object, properties: { name: { type: string }, since: { type: string, format: date }, mayor: { oneOf: [ { type: "null" }, { $ref: "#/components/schemas/Base" } ] }, streets: { type: array, items: { type: string } } } } ]
            """;
        var api = ApiDescription.Read(Encoding.UTF8.GetBytes(Text));
        Assert.Equal(("3.0.3", "Awkward"), (api.Version, api.Title));
        Assert.Equal(
            ["town /v1/towns/{id} /data /v1/towns{?page} /items Page id", "code   /v1/codes  Links id"],
            api.Endpoints.Select(one =>
                $"{one.Name} {one.Item} {one.Record} {one.List} {one.Records} {one.Paging} {string.Join(",", one.Key)}"
            )
        );
        Assert.Equal(
            "id integer, name text, since date",
            string.Join(", ", api.Endpoints[0].Fields.Select(field => $"{field.Key} {field.Value.Word()}"))
        );
        Assert.Equal(3, api.Doubts.Count);
        Assert.Null(ApiDescription.Read("{ \"openapi\": 3"u8.ToArray()).Version);
        Assert.Null(ApiDescription.Read("swagger: '2.0'"u8.ToArray()).Version);
        Assert.Empty(
            ApiDescription
                .Read(
                    """{ "openapi": "3.1.0", "paths": { "/a": { "get": { "responses": { "200": { "content": { "application/json": { "schema": { "$ref": "#/components/schemas/A" } } } } } } } }, "components": { "schemas": { "A": { "$ref": "#/components/schemas/A" } } } }"""u8.ToArray()
                )
                .Endpoints
        );
    }
}
