using Jexa.Core.Definitions;

namespace Jexa.Sources.Tests;

/// <summary>Each finding, planted in an app that is otherwise right.</summary>
public class FindingTests
{
    [Fact]
    public async Task The_app_that_mistakes_are_planted_in_has_none()
    {
        await using var app = new TestApp();
        Assert.Empty((await app.CompileAsync()).Wrong());
    }

    [Theory]
    // Sources and records.
    [InlineData("engine: sqlite", "engine: sqllite", "JX201", "sqlite", false)]
    [InlineData("connection: register.db", "connection: \"${NOPE}\"", "JX202", null, false)]
    [InlineData("connection: register.db", "connection: none.db", "JX203", null, false)]
    [InlineData("from: register.bridge", "from: registre.bridge", "JX204", "register", false)]
    [InlineData("from: register.bridge", "from: register.brigde", "JX205", "bridge", false)]
    [InlineData("from: register.bridge", "from: register.Bridge", "JX205", "bridge", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    label: nam", "JX301", "name", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    label: \"{nam}\"", "JX301", "name", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    key: bridgeid", "JX301", "bridge_id", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    fields: { Name: { label: N } }", "JX301", "name", false)]
    [InlineData("visible: { status", "visible: { statsu", "JX301", "status", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    key: name", "JX303", null, true)]
    [InlineData("from: register.bridge", "from: register.bridge\n    key: length_m\n    unique: assumed", "JX304", null, false)]
    [InlineData("list: bridge", "list: brigde", "JX305", "bridge", false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    label: \"{name\"", "JX306", null, false)]
    [InlineData("visible: { closed: 0 }", "visible: { closed: no }", "JX307", null, false)]
    [InlineData("from: register.bridge", "from: register.bridge\n    fields: { name: { secret: true } }", "JX308", null, false)]
    [InlineData("visible: { closed: 0 }", "visible: { closed: 0 }\n    fields: { slug: { secret: true } }", "JX308", null, false)]
    // Pages.
    [InlineData("home: bridges", "home: brigdes", "JX408", "bridges", false)]
    [InlineData("home: bridges", "home: bridge", "JX411", null, false)]
    [InlineData("path: /bridges\n", "path: bridges\n", "JX401", null, false)]
    [InlineData("path: /bridges/{id}", "path: /bridges/{id", "JX401", null, false)]
    [InlineData("path: /districts,", "path: /bridges,", "JX402", null, false)]
    [InlineData("\"/districts/{district}\"", "\"/bridges/{district}\"", "JX402", null, false)]
    [InlineData("path: /districts,", "path: /bridges/7,", "JX403", null, true)]
    [InlineData("path: /districts,", "path: /districts/new,", "JX403", null, true)]
    [InlineData("path: /bridges/{id}", "path: /bridge", "JX404", null, false)]
    [InlineData("path: /bridges/{id}", "path: /bridges/{id}/{other}", "JX406", null, false)]
    [InlineData("path: /bridges\n", "path: /bridges{?year}\n", "JX406", null, false)]
    [InlineData("by: { code: code }", "by: { kode: code }", "JX407", "code", false)]
    [InlineData("by: { code: code }", "by: { code: coed }", "JX301", "code", false)]
    [InlineData(
        "{ path: \"/lookup{?code}\", detail: bridge, by: { code: code }, linked: elsewhere }",
        "{ path: \"/by/{name}\", detail: bridge }",
        "JX410",
        null,
        true
    )]
    [InlineData("by: { code: code }", "by: { code: name }", "JX410", null, true)]
    [InlineData("show: [name, code,", "columns: [name, code,", "JX111", "show", false)]
    [InlineData("show: [name, code,", "fields: [name, code,", "JX111", "show", false)]
    [InlineData("order: [name]", "sort: [name]", "JX111", "order", false)]
    [InlineData("path: /bridges\n", "path: /bridges\n    filter: { code: x }\n", "JX111", "where", false)]
    [InlineData("column: name }", "\"on\": name }", "JX116", null, false)]
    [InlineData("show: [name, code,", "show: [name, coed,", "JX301", "code", false)]
    [InlineData("order: [name]", "order: [-nmae]", "JX301", "name", false)]
    [InlineData("list: bridge\n", "list: bridge\n    title: \"{name}\"\n", "JX407", null, false)]
    [InlineData("by: { code: code }", "by: { code: code }, ids: { missing: brigdes }", "JX408", "bridges", false)]
    [InlineData("by: { code: code }", "by: { code: code }, ids: { missing: bridge }", "JX411", null, false)]
    // Links.
    [InlineData("to: bridge,", "to: brigde,", "JX408", "bridge", false)]
    [InlineData("to: bridge,", "to: survey,", "JX501", null, true)]
    [InlineData(
        "{ to: bridge, column: name }",
        "{ to: lookup, column: name, with: { } }\n      - { to: trial_page, column: code }",
        "JX501",
        null,
        true
    )]
    [InlineData("{ to: bridge, column: name }", "{ to: bridge }\n      - { to: lookup, column: name }", "JX509", null, false)]
    [InlineData(
        "{ path: /districts, list: district }",
        "{ path: /districts, list: district, links: [{ to: bridge }] }",
        "JX502",
        null,
        false
    )]
    [InlineData("column: name }", "column: name, with: { id: bridge_id, span: name } }", "JX503", null, false)]
    [InlineData("to: bridge, column: name }", "to: bridges, with: { id: bridge_id } }", "JX503", null, false)]
    [InlineData("column: name }", "column: name, with: { ID: bridge_id } }", "JX504", "id", false)]
    [InlineData("column: name }", "column: name, with: { id: code } }", "JX505", null, false)]
    [InlineData("column: name }", "column: name, with: { id: brigde_id } }", "JX301", "bridge_id", false)]
    [InlineData("to: bridge, column: name }", "to: district, column: district }", "JX506", null, true)]
    [InlineData("column: name }", "column: nmae }", "JX507", "name", false)]
    public async Task Each_mistake_has_its_finding(string good, string bad, string code, string? nearest, bool serves)
    {
        Assert.Contains(good, TestApp.App);
        await using var app = new TestApp();
        var compilation = await app.CompileAsync(TestApp.App.Replace(good, bad));
        var finding = compilation.Findings.FirstOrDefault(finding => finding.Code.Id == code);
        Assert.True(finding is not null, string.Join("\n", compilation.Findings));
        Assert.Equal(nearest, finding.Nearest);
        Assert.Equal(serves, compilation.Site is not null);
        var line = TestApp.App.Replace(good, bad).Split('\n')[finding.At.Line - 1];
        Assert.InRange(finding.At.Column, 1, line.Length);
        Assert.NotEqual("", finding.Remedy);
    }

    [Theory]
    [InlineData("path: \"/b{?year}\"\n  list: bridge", "JX406", "year")]
    [InlineData("path: /b\n  list: bridge\n  where: { kind: \"{kind}\" }", "JX407", "kind")]
    [InlineData("path: \"/b{?year}\"\n  list: bridge\n  where: { name: { year: \"{year}\" } }", "JX311", "text")]
    [InlineData("path: /b\n  list: bridge\n  where: { opened_on: { month: 3 } }", "JX113", "no year")]
    [InlineData("path: \"/b{?y}\"\n  list: bridge\n  where: { length_m: { contains: \"{y}\" } }", "JX311", "real")]
    [InlineData("path: \"/b{?y*}\"\n  list: bridge\n  where: { kind: \"{y}\" }", "JX311", "several times")]
    [InlineData("path: \"/b{?y}\"\n  list: bridge\n  where: { kind: \"{y}\", length_m: \"{y}\" }", "JX311", "The parameter y is")]
    [InlineData("path: \"/b{?day}\"\n  list: bridge\n  where: { seen_at: { not: \"{day}\" } }", "JX311", "timestamp")]
    [InlineData("path: /b\n  list: bridge\n  where: { opened_on: { year: soon } }", "JX307", "soon")]
    [InlineData("path: /b\n  list: bridge\n  where: { length_m: long }", "JX307", "long")]
    [InlineData("path: /b\n  list: bridge\n  where: { any: { kind: arch } }", "JX114", "any")]
    [InlineData("path: /b\n  list: bridge\n  where: { kind: {} }", "JX114", "says nothing")]
    [InlineData("path: \"/b{?kind}\"\n  list: bridge\n  required: [sort]", "JX407", "sort")]
    [InlineData("path: /b\n  list: bridge\n  show: [distrikt.name]", "JX309", "distrikt")]
    [InlineData("path: /b\n  list: bridge\n  show: [district.nmae]", "JX301", "nmae")]
    [InlineData("path: /b\n  list: bridge\n  show: [kind.name]", "JX309", "kind")]
    [InlineData("path: /b\n  list: bridge\n  show: [twin.twin.twin.twin.twin.name]", "JX309", "more than 4")]
    [InlineData("path: /b\n  list: bridge\n  search: [opened_on]", "JX311", "search")]
    [InlineData("path: /b\n  list: bridge\n  side: [kind]", "JX413", "kind")]
    [InlineData("path: /b\n  list: bridge\n  side: [{ by: kind, part: year }]", "JX311", "year")]
    [InlineData("path: /b\n  list: bridge\n  side: [{ by: kind, to: nowhere }]", "JX408", "nowhere")]
    [InlineData("path: /b\n  list: bridge\n  look: mosaic", "JX116", "mosaic")]
    [InlineData("path: /b\n  list: bridge\n  size: 0", "JX116", "0")]
    [InlineData("path: /b\n  list: bridge\n  title: \"Of {yaer}\"", "JX407", "yaer")]
    [InlineData("path: /b\n  list: bridge\n  links: [{ to: b, on: column }]", "JX116", "column")]
    [InlineData("path: /b\n  list: bridge\n  menu: top", "JX116", "top")]
    [InlineData("path: /b\n  list: bridge\n  related: [span]", "JX409", "Only a record")]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  related: [crack]", "JX414", "No foreign key ties")]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  related: [{ record: span, by: note }]", "JX414", "note")]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  related: [{ record: span, all: b }]", "JX413", "b")]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  related: [{ record: span, notice: x }]", "JX114", "one of three")]
    [InlineData(
        "path: \"/b/{id}\"\n  detail: bridge\n  related: [{ record: span, where: { note: \"{id}\" } }]",
        "JX406",
        "block has none"
    )]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  beside: b", "JX413", "beside")]
    [InlineData("path: \"/b/{id}\"\n  detail: bridge\n  where: { kind: \"{id}\" }", "JX406", "its ID")]
    [InlineData("path: /b\n  text: missing.md", "JX416", "missing.md")]
    [InlineData("path: /b\n  text: See [this](page:nothing)", "JX408", "nothing")]
    [InlineData("path: \"/b/{x}\"\n  text: Hello {y}", "JX407", "y")]
    [InlineData("path: /b\n  text: Hello\n  show: [name]", "JX409", "show fields")]
    public async Task Each_mistake_in_a_page_has_its_finding(string page, string code, string said)
    {
        await using var app = new TestApp(Valley.Schema);
        var compilation = await app.CompileAsync(Valley.App("b:\n  " + page + "\ndistricts: { path: /d, list: district }"));
        var finding = compilation.Findings.FirstOrDefault(finding => finding.Code.Id == code);
        Assert.True(finding is not null, string.Join("\n", compilation.Findings));
        Assert.Contains(said, finding.Message + finding.Found, StringComparison.Ordinal);
        Assert.True(compilation.Findings.All(f => f.Code.Id == code), string.Join("\n", compilation.Findings));
        Assert.NotEqual("", finding.Remedy);
    }

    [Theory]
    [InlineData("", "zone: Middle/Earth", "JX415")]
    [InlineData("", "locale: xx-nowhere-at-all", "JX415")]
    [InlineData("", "not_found: b", "JX409")]
    [InlineData("", "frame: { style: look.css }", "JX416")]
    [InlineData(", fields: { kind: { as: picture } }", "", "JX116")]
    [InlineData(", fields: { kind: { as: image, under: photos } }", "", "JX312")]
    [InlineData(", fields: { kind: { as: image, under: photos, base: \"https://x.example\" } }", "", "JX114")]
    [InlineData(", fields: { kind: { as: image, base: \"ftp://x.example\" } }", "", "JX116")]
    [InlineData(", fields: { kind: { under: photos } }", "", "JX114")]
    [InlineData(", fields: { length_m: { as: markdown } }", "", "JX307")]
    [InlineData(", fields: { kind: { decimals: 2 } }", "", "JX307")]
    [InlineData(", fields: { length_m: { choices: { much: Much } } }", "", "JX307")]
    [InlineData(", fields: { kind: { when: { toll: maybe } } }", "", "JX307")]
    [InlineData(", fields: { kind: { when: { toll: \"{toll}\" } } }", "", "JX406")]
    [InlineData(", fields: { kind: { secret: true }, length_m: { when: { kind: arch } } }", "", "JX308")]
    [InlineData(", fields: { kind: { refers_to: span } }", "", "JX309")]
    [InlineData(", fields: { kind: { refers_to: nothing } }", "", "JX305")]
    public async Task Each_mistake_above_the_pages_has_its_finding(string bridge, string top, string code)
    {
        await using var app = new TestApp(Valley.Schema);
        var compilation = await app.CompileAsync(Valley.App("b: { path: /b, list: bridge, show: [name] }", bridge, top));
        Assert.True(compilation.Findings.Any(finding => finding.Code.Id == code), string.Join("\n", compilation.Findings));
    }

    /// <summary>Each mistake in a page that changes records, over the valley.</summary>
    [Theory]
    [InlineData("path: \"/b/{id}/edit\"\n  edit: bridge\n  form: [nmae]", "JX301", "nmae")]
    [InlineData("path: \"/b/{id}/edit\"\n  edit: bridge\n  form: [id]", "JX418", "fills it by itself")]
    [InlineData("path: /b/new\n  new: bridge\n  form: [name]", "JX419", "must have")]
    [InlineData("path: \"/b/{id}/edit\"\n  edit: bridge\n  then: nowhere-near", "JX501", "nowhere-near")]
    [InlineData("path: \"/b/{id}/edit\"\n  edit: bridge\n  then: district", "JX502", "district")]
    [InlineData("path: \"/b/{id}/delete\"\n  delete: bridge\n  then: bridge", "JX411", "deleted bridge")]
    [InlineData("path: /b/edit\n  edit: bridge", "JX404", "no ID")]
    [InlineData("path: \"/b/new{?river}\"\n  new: bridge", "JX406", "river")]
    [InlineData("path: \"/b/new{?kind}\"\n  new: bridge\n  required: [knid]", "JX407", "knid")]
    [InlineData("path: /b\n  list: bridge\n  add: bridge", "JX411", "new bridge")]
    [InlineData("path: /b\n  list: bridge\n  add: nothing", "JX408", "nothing")]
    [InlineData("path: \"/b/{id}/edit\"\n  edit: bridge\n  where: { kind: \"{id}\" }", "JX406", "its ID")]
    public async Task Each_mistake_in_a_page_that_changes_records_has_its_finding(string page, string code, string said)
    {
        await using var app = new TestApp(Valley.Schema);
        var compilation = await app.CompileAsync(
            Valley.App(
                "p:\n  "
                    + page
                    + "\nbridge: { path: \"/bridges/{bridge}\", detail: bridge }\ndistrict: { path: "
                    + "\"/d/{district}/{other}\", detail: district, by: { district: slug, other: name } }"
            )
        );
        var finding = compilation.Findings.FirstOrDefault(finding => finding.Code.Id == code);
        Assert.True(finding is not null, string.Join("\n", compilation.Findings));
        Assert.Contains(said, finding.Message + finding.Found, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("fields: { name: { min: 3 } }", "JX307", "name")]
    [InlineData("fields: { at: { max: soon } }", "JX307", "soon")]
    [InlineData("fields: { grade: { default: many } }", "JX307", "many")]
    [InlineData("fields: { grade: { min: 1, default: 0 } }", "JX307", "must be 1 or more")]
    [InlineData("fields: { name: { kept: changed } }", "JX307", "keep")]
    [InlineData("fields: { at: { kept: version } }", "JX307", "keep")]
    [InlineData("fields: { grade: { required: false } }", "JX418", "empty")]
    public async Task Each_mistake_in_what_a_form_asks_of_a_field_has_its_finding(string fields, string code, string said)
    {
        await using var app = new TestApp(
            "CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, at TIMESTAMP, grade INTEGER NOT NULL DEFAULT 1);"
        );
        var compilation = await app.CompileAsync(
            $$"""
            app: Things
            sources: { s: { engine: sqlite, connection: register.db } }
            records: { thing: { from: s.thing, {{fields}} } }
            pages: { thing-new: { path: /new, new: thing } }
            """
        );
        var finding = compilation.Findings.FirstOrDefault(finding => finding.Code.Id == code);
        Assert.True(finding is not null, string.Join("\n", compilation.Findings));
        Assert.Contains(said, finding.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("from: s.seen", "noted", "is a view")]
    [InlineData("source: s, query: SELECT id FROM thing, key: id, unique: assumed", "noted", "come from a query")]
    [InlineData("from: s.loose, key: id, unique: assumed", "noted", "nothing keeps their key unique")]
    [InlineData("from: s.thing", "refused", "writing: refused")]
    public async Task What_cannot_be_changed_has_no_page_that_changes_it(string record, string writing, string said)
    {
        await using var app = new TestApp(
            "CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT); CREATE VIEW seen AS SELECT id AS id, "
                + "name FROM thing; CREATE TABLE loose (id INTEGER, name TEXT);"
        );
        foreach (
            var page in new[]
            {
                "path: \"/t/{id}/edit\", edit: thing",
                "path: \"/t/{id}/delete\", delete: thing",
                "path: /t/new, new: thing",
            }
        )
        {
            var compilation = await app.CompileAsync(
                $$"""
                app: Things
                sources: { s: { engine: sqlite, connection: register.db, writing: {{writing}} } }
                records: { thing: { {{(record == "from: s.seen" ? record + ", key: id, unique: assumed" : record)}} } }
                pages: { p: { {{page}} } }
                """
            );
            var finding = compilation.Findings.FirstOrDefault(finding => finding.Code.Id == "JX421");
            Assert.True(finding is not null, string.Join("\n", compilation.Findings));
            Assert.Contains(said, finding.Message, StringComparison.Ordinal);
        }
    }

    [Theory]
    [InlineData("parent_id INTEGER REFERENCES parent (code)", "which nothing keeps unique")]
    [InlineData("parent_id INTEGER REFERENCES nobody (id)", "which is not there")]
    [InlineData("parent_id INTEGER REFERENCES parent", null)]
    [InlineData("parent_id INTEGER REFERENCES PARENT (ID)", null)]
    public async Task A_foreign_key_that_SQLite_will_refuse_changes_for_is_found(string column, string? said)
    {
        await using var app = new TestApp(
            $"CREATE TABLE parent (id INTEGER PRIMARY KEY, code INTEGER); CREATE TABLE child (id INTEGER PRIMARY KEY, {column});"
        );
        var findings = (
            await app.CompileAsync(
                "app: A\nsources: { s: { engine: sqlite, connection: register.db } }\nrecords: { child: { from: "
                    + "s.child } }\npages: { child: { path: \"/c/{id}\", detail: child } }"
            )
        ).Wrong();
        if (said is null)
            Assert.Empty(findings);
        else
            Assert.Contains(said, Assert.Single(findings, finding => finding.Code.Id == "JX206").Message);
    }

    [Fact]
    public async Task A_mistake_in_a_hole_is_found_at_the_hole()
    {
        await using var app = new TestApp();
        var text = TestApp.App.Replace(
            "detail: bridge\n  districts",
            "detail: bridge\n    title: \"The {code} of {nmae}\"\n  districts"
        );
        var finding = Assert.Single((await app.CompileAsync(text)).Wrong());
        Assert.Equal("nmae", text.Split('\n')[finding.At.Line - 1].Substring(finding.At.Column - 1, 4));
    }

    [Fact]
    public async Task A_link_that_two_foreign_keys_could_fill_must_say_which()
    {
        await using var app = new TestApp(
            """
            CREATE TABLE place (id INTEGER PRIMARY KEY, name TEXT);
            CREATE TABLE road (id INTEGER PRIMARY KEY, start INTEGER NOT NULL REFERENCES place, finish INTEGER NOT NULL REFERENCES place (id));
            """
        );
        const string text = """
            app: Roads
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { place: { from: register.place }, road: { from: register.road } }
            pages:
              roads: { path: /roads, list: road, links: [{ to: place, column: id }] }
              place: { path: "/places/{id}", detail: place }
            """;
        Assert.Equal("JX508", Assert.Single((await app.CompileAsync(text)).Wrong()).Code.Id);
        Assert.Empty((await app.CompileAsync(text.Replace("column: id }", "column: id, with: { id: finish } }"))).Wrong());
    }

    [Fact]
    public async Task A_record_without_a_key_needs_one()
    {
        await using var app = new TestApp("CREATE TABLE t (x TEXT); CREATE VIEW v AS SELECT * FROM t;");
        foreach (var table in new[] { "t", "v" })
        {
            var findings = (
                await app.CompileAsync(
                    $$"""
                    app: A
                    sources: { register: { engine: sqlite, connection: register.db } }
                    records: { r: { from: register.{{table}} } }
                    pages: { all: { path: /, list: r } }
                    """
                )
            ).Findings;
            Assert.Equal("JX302", Assert.Single(findings).Code.Id);
        }
    }

    [Fact]
    public async Task An_address_that_gives_what_two_pages_need_is_malformed_unless_a_page_takes_both()
    {
        await using var app = new TestApp(
            "CREATE TABLE t (a INTEGER PRIMARY KEY, b TEXT NOT NULL UNIQUE, c TEXT); INSERT INTO t VALUES (1, 'x', NULL);"
        );
        const string text = """
            app: A
            sources: { register: { engine: sqlite, connection: register.db } }
            records: { t: { from: register.t } }
            pages:
              by-a: { path: "/t{?a}", detail: t }
              by-b: { path: "/t{?b}", detail: t, by: { b: b } }
            """;
        var site = await app.SiteAsync(text);
        Assert.Empty(site.Wrong());
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/t?a=1"));
        Assert.Equal("found 200", await app.OutcomeAsync(site, "/t?b=x"));
        Assert.Equal("malformed 400", await app.OutcomeAsync(site, "/t?a=1&b=x"));
        Assert.Equal(
            "found 200",
            await app.OutcomeAsync(
                await app.SiteAsync(text + "\n  by-both: { path: \"/t{?a,b}\", detail: t, by: { a: a, b: b } }"),
                "/t?a=1&b=x"
            )
        );
        Assert.Equal(
            "JX402",
            Assert
                .Single((await app.CompileAsync(text.Replace("{?b}", "{?a}"))).Findings, finding => finding.Code.Id == "JX402")
                .Code.Id
        );
    }

    [Fact]
    public async Task A_literal_that_no_ID_could_be_hides_nothing()
    {
        await using var app = new TestApp();
        Assert.Empty((await app.CompileAsync(TestApp.App.Replace("path: /districts,", "path: /bridges/all,"))).Wrong());
        Assert.Empty((await app.CompileAsync(TestApp.App.Replace("path: /districts,", "path: /bridges/007,"))).Wrong());
    }

    [Fact]
    public async Task Errors_of_the_text_and_of_the_source_are_told_together()
    {
        await using var app = new TestApp();
        var findings = (
            await app.CompileAsync(
                TestApp
                    .App.Replace("home:", "hmoe:")
                    .Replace("list: bridge\n", "list: brigde\n")
                    .Replace("by: { code", "by: { kode")
                    .Replace("column: name }", "column: name, with: { ID: bridge_id } }")
            )
        ).Findings;
        Assert.Superset(
            new HashSet<string> { "JX111", "JX305", "JX407", "JX504" },
            findings.Select(finding => finding.Code.Id).ToHashSet()
        );
    }

    [Fact]
    public async Task A_variable_fills_a_connection_and_is_never_told()
    {
        await using var app = new TestApp();
        Assert.NotNull((await app.CompileAsync(TestApp.App.Replace("connection: register.db", "connection: \"${FILE}\""))).Site);
        var findings = (
            await app.CompileAsync(TestApp.App.Replace("connection: register.db", "connection: \"none-${FILE}\""))
        ).Findings;
        Assert.Equal(FindingCodes.SourceAway, Assert.Single(findings).Code);
        Assert.DoesNotContain("register.db", findings[0].Message + findings[0].Found + findings[0].Remedy);
    }
}
