using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// What people who make such pages need, over data of their own: one app by text, its pages as visitors meet them, and the
/// mistakes that belong to each need. The numbers are those of the list of needs.
/// </summary>
public sealed class NeedsTests(NeedsTests.Coast coast) : IClassFixture<NeedsTests.Coast>
{
    private const string Schema = """
        CREATE TABLE region (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
        CREATE TABLE light (
          id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE COLLATE NOCASE, name TEXT NOT NULL, region_id INTEGER NOT NULL REFERENCES region (id),
          kind INTEGER NOT NULL CHECK (kind IN (1, 2, 3)), lit_on DATE NOT NULL, height_m DECIMAL(6, 2), active BOOLEAN NOT NULL DEFAULT 1, film TEXT, photo TEXT, extra JSON);
        CREATE TABLE keeper (id INTEGER PRIMARY KEY, name TEXT NOT NULL, light_id INTEGER NOT NULL REFERENCES light (id));
        CREATE TABLE view (light_id INTEGER NOT NULL REFERENCES light (id), no INTEGER NOT NULL, caption TEXT NOT NULL, PRIMARY KEY (light_id, no));
        CREATE TABLE log (token TEXT NOT NULL PRIMARY KEY, light_id INTEGER NOT NULL REFERENCES light (id), entry TEXT NOT NULL);
        INSERT INTO region VALUES (1, 'North Shore'), (2, 'South Shore'), (3, 'Nobody''s Shore');
        INSERT INTO light VALUES
          (7, 'NS-7', 'Gull Point', 1, 1, '1888-03-01', 41.5, 1, 'https://films.example/7', 'gull.png', '{"range":18,"lamps":["a","b"]}'), (8, 'NS-8', 'Kelp Rock', 1, 2, '1901-07-09', 12, 0, 'https://films.example/8', NULL, NULL),
          (12, 'SS-12', 'Sandling', 2, 3, '1888-11-20', NULL, 1, NULL, NULL, 'no json');
        INSERT INTO keeper VALUES (1, 'A. Tern', 7), (2, 'B. Plover', 7), (3, 'C. Dunlin', 12);
        INSERT INTO view VALUES (7, 1, 'From the sea'), (7, 2, 'From above');
        INSERT INTO log VALUES ('f3a9-0b7c-long-opaque-text-41e8', 7, 'Lamp changed.');
        """;

    private const string App = """
        app: Lights of the coast
        home: lights
        not_found: lost
        locale: de-DE
        sources: { coast: { engine: sqlite, connection: data.db } }
        records:
          region: { from: coast.region }
          light:
            from: coast.light
            parent: region_id
            fields:
              kind: { choices: { 1: Tower, 2: Ship, 3: Beacon } }
              lit_on: { label: Lit since }
              height_m: { label: Height, unit: m }
              film: { as: web, when: { active: true } }
              photo: { as: image, under: photos }
          keeper: { from: coast.keeper, parent: light_id }
          view: { from: coast.view, label: "{caption}", parent: light_id }
          log: { from: coast.log, label: "Entry {token}", parent: light_id }
        pages:
          lights: { path: /lights, list: light, show: [code, name, kind, lit_on], order: [name], search: [name, code], size: 20, side: [{ by: -lit_on, part: year }, region_id] }
          lights-of-year: { path: "/lights{?year}", list: light, required: [year], where: { lit_on: { year: "{year}" } }, title: "Lit in {year}", show: [name, lit_on] }
          light: { path: "/lights{?light}", detail: light, by: { light: id }, title: "{name}", forms: [edit, delete], related: [keeper, view], beside: lights, links: [{ to: region, text: Its region }] }
          light-new: { path: "/new-light{?region}", new: light, form: [code, name, region_id, kind, lit_on, height_m] }
          by-code: { path: "/code/{code}", detail: light, linked: elsewhere }
          regions: { path: /regions, list: region, links: [{ to: region, on: row }] }
          region: { path: "/regions/{id}", detail: region }
          lights-of: { path: "/shore{?region}", list: light, required: [region], where: { region_id: "{region}" }, title: "Lights of {region}", ids: { missing: regions }, show: [name, kind], linked: elsewhere }
          keeper: { path: "/keeper{?id}", detail: keeper, forms: [edit] }
          keeper-new: { path: "/keeper{?light}", new: keeper }
          keepers: { path: /keepers, list: keeper, show: [name, light_id], add: keeper-new }
          view: { path: "/lights/{light}/views/{no}", detail: view, by: { light: light_id } }
          view-new: { path: "/lights/{light}/views/new", new: view, by: { light: light_id } }
          log: { path: "/log/{token}", detail: log }
          logs: { path: /log, list: log, look: cards, links: [{ to: log, on: row }] }
          about: { path: /about, text: "Made for [all who sail](page:lights)." }
          lost: { path: /lost, text: There is no such place on this coast., title: Lost }
        """;

    public sealed class Coast : IAsyncLifetime
    {
        public AppFolder Folder { get; } = new();

        public RunningService Service { get; private set; } = null!;

        public async ValueTask InitializeAsync()
        {
            Folder.MakeDatabase(Schema);
            Directory.CreateDirectory(Folder.File("photos"));
            Service = await RunningService.StartAsync("serve", Folder.Write("app.yaml", App), "--log", "none");
        }

        public ValueTask DisposeAsync()
        {
            Service.Dispose();
            Folder.Dispose();
            return ValueTask.CompletedTask;
        }
    }

    [Theory]
    // 02, 21: one path for the whole list, one record and a year; the title follows; an archive of years at the side.
    [InlineData("/lights", 200, "<h1>Lights</h1>", "href=\"/lights?year=1888\"", "href=\"/lights?light=7")]
    [InlineData("/lights?light=7", 200, "<title>Gull Point", "<h1>Gull Point</h1>", "41,5")]
    [InlineData("/lights?year=1888", 200, "<h1>Lit in 1888</h1>", "Gull Point", "Sandling")]
    [InlineData("/lights?light=7&year=1888", 400, "says two things at once")]
    // 03, 04: the empty path leads home; a nonsense address gets a page.
    [InlineData("/", 302, "")]
    [InlineData("/lihgts", 404, "There is no such place on this coast.", "/lights")]
    // 05, 10, 13: text keys, long opaque ones, records on cards that lead on whole.
    [InlineData(
        "/log/f3a9-0b7c-long-opaque-text-41e8",
        200,
        "Entry f3a9-0b7c-long-opaque-text-41e8",
        "Lamp changed.",
        "href=\"/lights?light=7\""
    )]
    [InlineData("/log", 200, "class=\"card leads\"")]
    // 06: an ID of a type; one path for a new and an existing record.
    [InlineData("/keeper?id=2", 200, "B. Plover")]
    [InlineData("/keeper", 200, "<h1>New keeper</h1>")]
    [InlineData("/keeper?id=two", 400, "a whole number, such as 42")]
    [InlineData("/keeper?ID=2", 400, "reads “id”")]
    // 07, 08: a group, its name above its records; a missing one leads on, an unknown one is told, pasted SQL is a malformed ID.
    [InlineData("/shore?region=1", 200, "<h1>Lights of North Shore</h1>", "Kelp Rock")]
    [InlineData(
        "/shore?region=3",
        200,
        "<h1>Lights of Nobody&#x27;s Shore</h1>|<h1>Lights of Nobody&#39;s Shore</h1>|<h1>Lights of Nobody's Shore</h1>"
    )]
    [InlineData("/shore?region=9", 404, "There is no such region")]
    [InlineData("/shore?region=1%20OR%201=1", 400, "is not a whole number")]
    [InlineData("/shore", 302, "")]
    // 09, 18: the list is short, the record whole; a way to a new one; labels that can be read; singular for plural is told.
    [InlineData("/lights?order=-lit_on", 200, "Lit since", "/new-light", "20.07.|Beacon")]
    [InlineData("/light/7", 404, "There is no such place on this coast.", "href=\"/lights\"")]
    // 11: a form that is filled, with numbers as the locale writes them; its heading follows the record.
    [InlineData("/lights/edit?light=7", 200, "value=\"41,5\"", "Gull Point", "<option value=\"1\" selected>Tower</option>")]
    // 12, 20: a picture is a folder and a file name; what is missing is named. Always one record, never the first.
    [InlineData("/lights?light=8", 200, "Kelp Rock")]
    [InlineData("/lights?light=9", 404, "There is no such light")]
    // 15: the list stays beside the record, which is marked in it.
    [InlineData("/lights?light=12", 200, "aria-current=\"true\"|aria-current=\"page\"", "Gull Point")]
    // 16, 19: looked up by a code that is not the key; another case leads to the code; a key of two fields.
    [InlineData("/code/NS-8", 200, "Kelp Rock")]
    [InlineData("/code/ns-8", 301, "")]
    [InlineData("/code/7", 404, "There is no such light")]
    [InlineData("/lights/7/views/2", 200, "From above")]
    [InlineData("/lights/8/views/2", 404, "")]
    // 17: children stand on the record's page, each with its own address.
    [InlineData("/lights?light=7#", 200, "A. Tern", "href=\"/keeper?id=1", "href=\"/lights/7/views/1")]
    [InlineData("/lights?light=7&x=1", 200, "href=\"/lights/7/views/new\">New view")]
    [InlineData("/lights/7/views/new", 200, "<h1>New view</h1>", "href=\"/lights?light=7\">Do not add it")]
    // 21: what is switched off hides its action.
    [InlineData("/lights?light=7&size=1", 200, "https://films.example/7")]
    public async Task Pages_answer_as_people_need_it(string target, int status, params string[] said)
    {
        var answer = await coast.Service.GetAsync(target.TrimEnd('#'));
        Assert.True(answer.Status == status, $"{answer.Status} {answer.Header("Location")}\n{answer.Body}");
        foreach (var either in said)
            Assert.True(
                either.Split('|').Any(one => answer.Body.Contains(one, StringComparison.Ordinal)),
                $"“{either}” is not in\n{answer.Body}"
            );
    }

    [Fact]
    public async Task JSON_is_laid_out_and_checked_and_what_is_none_stays_as_it_is()
    {
        Assert.Contains(
            "<pre class=\"json\">{&#xA;  &quot;range&quot;: 18,",
            (await coast.Service.GetAsync("/lights?light=7")).Body,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "<pre class=\"json\">no json</pre>",
            (await coast.Service.GetAsync("/lights?light=12")).Body,
            StringComparison.Ordinal
        );
        using var visitor = new Visitor(coast.Service.PagesUrl);
        var form = await visitor.FormAsync("/lights/edit?light=8");
        var refused = await visitor.PostAsync(form.With(("extra", "{\n \"range\": }")));
        Assert.Equal(422, refused.Status);
        Assert.Contains("This is not JSON from line 2 on.", refused.Body, StringComparison.Ordinal);
        Assert.Equal(
            303,
            (await visitor.PostAsync((await visitor.FormAsync("/lights/edit?light=12")).With(("height_m", "9")))).Status
        );
    }

    [Fact]
    public async Task A_record_that_is_switched_off_shows_no_film() =>
        Assert.DoesNotContain("films.example", (await coast.Service.GetAsync("/lights?light=8")).Body, StringComparison.Ordinal);

    [Theory]
    [InlineData("/", "/lights")]
    [InlineData("/shore", "/regions?lacking=lights-of.region")]
    [InlineData("/code/ns-8", "/code/NS-8")]
    [InlineData("/lights?light=007", "/lights?light=7")]
    public async Task An_address_leads_where_people_expect(string target, string location) =>
        Assert.Equal(location, (await coast.Service.GetAsync(target)).Header("Location"));

    [Fact]
    public async Task A_save_leads_back_and_says_so_and_is_there_after_a_refresh()
    {
        using var visitor = new Visitor(coast.Service.PagesUrl);
        var saved = await visitor.PostAsync(
            (await visitor.FormAsync("/lights/edit?light=12")).With(("height_m", "3,5"), ("name", "Sandling Head"))
        );
        Assert.Equal((303, "/lights?light=12"), (saved.Status, saved.Location));
        var page = (await visitor.GetAsync("/lights?light=12")).Body;
        Assert.Contains("Saved: Sandling Head.", page, StringComparison.Ordinal);
        Assert.Contains("3,5", page, StringComparison.Ordinal);
        Assert.Contains("<h1>Sandling Head</h1>", (await visitor.GetAsync("/lights?light=12")).Body, StringComparison.Ordinal);
        var refused = await visitor.PostAsync((await visitor.FormAsync("/lights/edit?light=12")).With(("height_m", "3.5")));
        Assert.Equal(422, refused.Status);
        Assert.Contains("write one like 3,5", refused.Body, StringComparison.Ordinal);
        Assert.Contains("value=\"3.5\"", refused.Body, StringComparison.Ordinal);
        var added = await visitor.PostAsync(
            (await visitor.FormAsync("/new-light?region=2")).With(
                ("code", "SS-13"),
                ("name", "Ness"),
                ("kind", "2"),
                ("lit_on", "1999-09-09"),
                ("height_m", "1.234,5")
            )
        );
        Assert.Equal((303, "/lights?light=13"), (added.Status, added.Location));
        Assert.Contains("1234,5", (await visitor.GetAsync("/lights?light=13")).Body, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("12", "title: \"{name}\", forms", "title: \"{nmae}\", forms", "JX301", "name")]
    [InlineData("14", "by: { light: id }", "by: { lihgt: id }", "JX407", "light")]
    [InlineData(
        "20",
        "links: [{ to: region, text: Its region }]",
        "links: [{ to: region, text: Its region, with: { ID: region_id } }]",
        "JX504",
        "id"
    )]
    [InlineData(
        "20",
        "links: [{ to: region, text: Its region }]",
        "links: [{ to: region, text: Its region, with: { id: id } }]",
        "JX510",
        null
    )]
    [InlineData(
        "16",
        "links: [{ to: region, text: Its region }]",
        "links: [{ to: region, text: Its region, with: { id: code } }]",
        "JX505",
        null
    )]
    [InlineData(
        "18",
        "links: [{ to: region, text: Its region }]",
        "links: [{ to: region, text: Its region, with: { id: kind } }]",
        "JX511",
        null
    )]
    [InlineData("13", "links: [{ to: region, text: Its region }]", "links: [{ to: harbour, text: Its harbour }]", "JX501", null)]
    [InlineData("08", "where: { region_id: \"{region}\" }", "where: { region_id: \"{rgion}\" }", "JX407", "region")]
    [InlineData(
        "09",
        "form: [code, name, region_id, kind, lit_on, height_m]",
        "form: [name, region_id, kind, lit_on, height_m]",
        "JX419",
        null
    )]
    [InlineData("20", "under: photos", "under: fotos", "JX312", null)]
    [InlineData("17", "path: \"/log/{token}\"", "path: /log/{token}", "JX115", null)]
    [InlineData("07", "order: [name], search", "sort: [name], search", "JX111", "order")]
    [InlineData(
        "06",
        "path: \"/keeper{?light}\", new: keeper",
        "path: \"/keeper{?id}\", detail: keeper, by: { id: id }",
        "JX402",
        null
    )]
    public async Task The_usual_mistakes_are_told_before_anybody_visits(
        string need,
        string good,
        string bad,
        string code,
        string? nearest
    )
    {
        Assert.Contains(good, App, StringComparison.Ordinal);
        var file = coast.Folder.Write($"mistake-{code}-{need}-{bad.Length}.yaml", App.Replace(good, bad));
        var ran = await RunningService.RunAsync("check", file, "--json");
        var findings = JsonDocument
            .Parse(ran.Out)
            .RootElement.GetProperty("findings")
            .EnumerateArray()
            .Where(finding => finding.GetProperty("severity").GetString() != "hint")
            .ToList();
        var told = findings.FirstOrDefault(finding => finding.GetProperty("code").GetString() == code);
        Assert.True(told.ValueKind == JsonValueKind.Object, ran.Out + ran.Error);
        Assert.Equal(nearest, told.GetProperty("nearest").GetString());
        Assert.Equal(1, ran.ExitCode);
    }

    [Fact]
    public async Task The_app_itself_has_nothing_wrong_with_it()
    {
        var ran = await RunningService.RunAsync("check", coast.Folder.File("app.yaml"));
        Assert.Equal((0, true), (ran.ExitCode, ran.Out.Contains("makes a site of", StringComparison.Ordinal)));
        Assert.True(ran.Out.Contains("no findings", StringComparison.Ordinal), ran.Out);
    }
}
