using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using System.Xml.Linq;

namespace Jexa.Service.Tests;

/// <summary><c>jexa sweep</c> as a build and a person use it: exit codes, reports, going on, and what is in its way.</summary>
public class SweepTests(Browser browser)
{
    private const string App = """
        app: Things
        sources: { s: { engine: sqlite, connection: data.db } }
        records:
          thing: { from: s.thing, label: name, fields: { story: { as: markdown } } }
          part: { from: s.part, label: name }
        pages:
          things: { path: /things, list: thing }
          thing: { path: "/things/{id}", detail: thing, related: [part] }
          part: { path: "/parts/{id}", detail: part }
        """;

    private const string Schema = """
        CREATE TABLE thing (id INTEGER PRIMARY KEY, name TEXT NOT NULL, amount INTEGER, story TEXT);
        CREATE TABLE part (id INTEGER PRIMARY KEY, name TEXT NOT NULL, thing_id INTEGER REFERENCES thing (id));
        WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000) INSERT INTO thing SELECT i, 'thing ' || i, i, '' FROM n;
        WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000) INSERT INTO part SELECT i, 'part ' || i, i FROM n;
        """;

    private const string Faults = """
        PRAGMA foreign_keys = off;
        UPDATE part SET thing_id = 90000 + id WHERE id IN (7, 70, 700);
        UPDATE thing SET amount = 'a <b>lot</b> | `x`' WHERE id = 2999;
        """;

    private static AppFolder Folder(string sql = "")
    {
        var folder = new AppFolder();
        folder.MakeDatabase(Schema + sql);
        folder.Write("app.yaml", App);
        return folder;
    }

    private static Task<Ran> SweepAsync(AppFolder folder, params string[] more) =>
        RunningService.RunAsync(["sweep", folder.File("app.yaml"), "--state", folder.File("state"), .. more]);

    private static JsonElement Json(string text) => JsonDocument.Parse(text).RootElement;

    [Fact]
    public async Task Right_data_has_no_finding_and_says_how_much_was_seen()
    {
        using var folder = Folder();
        var ran = await SweepAsync(folder);
        Assert.Equal(0, ran.ExitCode);
        Assert.Contains("Seen: 6,000 records", ran.Out);
        Assert.Contains("no findings.", ran.Out);
        Assert.Empty(Directory.GetFiles(folder.File("state"), "*.json"));
    }

    [Fact]
    public async Task Each_finding_has_its_number_its_rows_and_the_query_that_finds_them()
    {
        using var folder = Folder(Faults);
        var ran = await SweepAsync(folder);
        Assert.Equal(1, ran.ExitCode);
        Assert.Contains("warning JX801 thing_id of some parts names a thing that is not there.", ran.Out);
        Assert.Contains("70: 90070", ran.Out);
        Assert.Contains("warning JX804 amount of some things is not a whole number.", ran.Out);

        var json = Json((await SweepAsync(folder, "--json")).Out);
        Assert.Equal("sweep", json.GetProperty("means").GetString());
        var lost = json.GetProperty("findings").EnumerateArray().Single(one => one.GetProperty("code").GetString() == "JX801");
        Assert.Equal(3, lost.GetProperty("count").GetInt64());
        Assert.Equal("part.thing_id", lost.GetProperty("about").GetString());
        using var connection = folder.Open();
        using var command = connection.CreateCommand();
        command.CommandText = lost.GetProperty("query").GetString();
        using var rows = command.ExecuteReader();
        var found = new List<long>();
        while (rows.Read())
            found.Add(rows.GetInt64(0));
        Assert.Equal([7, 70, 700], found);
    }

    [Fact]
    public async Task A_report_comes_in_every_form_and_each_is_what_it_says()
    {
        using var folder = Folder(Faults);
        var files = new[] { ".json", ".sarif", ".xml", ".md", ".html" }.Select(end => folder.File("report" + end)).ToList();
        var ran = await SweepAsync(folder, [.. files.SelectMany(file => new[] { "--report", file })]);
        Assert.Equal(1, ran.ExitCode);

        var sarif = Json(File.ReadAllText(folder.File("report.sarif")));
        Assert.Equal("2.1.0", sarif.GetProperty("version").GetString());
        var run = sarif.GetProperty("runs")[0];
        var results = run.GetProperty("results").EnumerateArray().ToList();
        Assert.Equal(["JX804", "JX801"], results.Select(result => result.GetProperty("ruleId").GetString()));
        foreach (var result in results)
        {
            var rule = run.GetProperty("tool").GetProperty("driver").GetProperty("rules")[
                result.GetProperty("ruleIndex").GetInt32()
            ];
            Assert.Equal(result.GetProperty("ruleId").GetString(), rule.GetProperty("id").GetString());
            var region = result.GetProperty("locations")[0].GetProperty("physicalLocation").GetProperty("region");
            Assert.InRange(region.GetProperty("startLine").GetInt32(), 4, 5);
        }

        Assert.Empty(await SarifFaultsAsync(File.ReadAllText(folder.File("report.sarif"))));
        Assert.NotEmpty(await SarifFaultsAsync(File.ReadAllText(folder.File("report.sarif")).Replace("ruleId", "rule")));

        var junit = XDocument.Load(folder.File("report.xml")).Root!.Element("testsuite")!;
        Assert.Equal("2", junit.Attribute("failures")!.Value);
        Assert.Equal(junit.Attribute("tests")!.Value, junit.Elements("testcase").Count().ToString(CultureInfo.InvariantCulture));

        var markdown = File.ReadAllText(folder.File("report.md"));
        Assert.Contains("a \\<b\\>lot\\</b\\> \\| \\`x\\`", markdown);

        var html = File.ReadAllText(folder.File("report.html"));
        Assert.Contains("a &lt;b&gt;lot&lt;/b&gt;", html);
        Assert.DoesNotContain("<script", html);
        Assert.DoesNotContain("http", html.Replace("http-equiv", ""));
        var page = await browser.OpenAsync();
        await page.GotoAsync("file://" + folder.File("report.html"));
        await Browser.AssertFitAsync(page);
        await page.Context.CloseAsync();
    }

    [Fact]
    public async Task Only_what_is_new_since_the_baseline_fails()
    {
        using var folder = Folder(Faults);
        var last = folder.File("last.json");
        Assert.Equal(1, (await SweepAsync(folder, "--report", last)).ExitCode);
        var same = await SweepAsync(folder, "--baseline", last);
        Assert.Equal(0, same.ExitCode);
        Assert.Contains("0 new, 2 known, 0 gone", same.Out);

        // New rows of a known fault are no new finding; another fault is.
        folder.MakeDatabase(
            "PRAGMA foreign_keys = off; UPDATE part SET thing_id = 5000 WHERE id = 9; UPDATE thing SET amount = 1"
        );
        Assert.Equal(0, (await SweepAsync(folder, "--baseline", last)).ExitCode);
        folder.MakeDatabase("UPDATE thing SET name = '' WHERE id = 5");
        var changed = await SweepAsync(folder, "--baseline", last);
        Assert.Equal(1, changed.ExitCode);
        Assert.Contains("1 new, 1 known, 1 gone", changed.Out);
        Assert.Contains("JX805", changed.Out);
        Assert.Equal(1, (await SweepAsync(folder, "--since", last)).ExitCode);
    }

    [Theory]
    [InlineData("--baseline", "app.yaml", "is no report")]
    [InlineData("--since", "none.json", "cannot be read")]
    [InlineData("--report", "report.pdf", "must end in")]
    [InlineData("--rate", "0", "--rate must be")]
    [InlineData("--within", "soon", "such as 90s")]
    [InlineData("--only", "thin", "Do you mean thing?")]
    [InlineData("--instead", "s", "NAME=CONNECTION")]
    public async Task Wrong_use_is_told_before_anything_is_read(string option, string value, string says)
    {
        using var folder = Folder();
        var ran = await SweepAsync(folder, option, value.Contains('.') ? folder.File(value) : value);
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains(says, ran.Error);
        Assert.Empty(ran.Out);
    }

    [Fact]
    public async Task A_sweep_that_was_killed_is_gone_on_with_and_finds_the_same()
    {
        using var folder = Folder(Faults);
        var whole = Json((await SweepAsync(folder, "--json")).Out);

        // Two thousand rows a second: it is killed in the middle.
        using (var slow = Start(folder, "--rate", "500"))
        {
            var marks = folder.File("state");
            for (var tries = 0; Directory.GetFiles(marks, "*.json").Length == 0 && tries < 300; tries++)
                await Task.Delay(100);
            var second = await SweepAsync(folder);
            Assert.Equal(2, second.ExitCode);
            Assert.Contains("Another sweep", second.Error);
            slow.Kill();
            await slow.WaitForExitAsync();
        }

        var rest = Json((await SweepAsync(folder, "--json", "--resume")).Out);
        Assert.Equal(Told(whole), Told(rest));
        var (all, left) = (Count(whole, "links built and read back"), Count(rest, "links built and read back"));
        Assert.InRange(left, 1, all - 1);
        Assert.Equal(Count(whole, "records"), Count(rest, "records"));

        static string Told(JsonElement report) =>
            string.Join(
                '\n',
                report
                    .GetProperty("findings")
                    .EnumerateArray()
                    .Select(one => $"{one.GetProperty("about")} {one.GetProperty("count")}")
            );

        static long Count(JsonElement report, string what) =>
            report
                .GetProperty("seen")
                .EnumerateArray()
                .Single(one => one.GetProperty("name").GetString() == what)
                .GetProperty("count")
                .GetInt64();
    }

    [Fact]
    public async Task A_sweep_that_may_not_read_all_says_what_it_has_not_seen()
    {
        using var folder = Folder(Faults);
        var some = await SweepAsync(folder, "--rows", "100");
        Assert.Contains("not seen thing: only 100 rows were asked for", some.Out);
        Assert.Contains("Seen: 200 records", some.Out);
        Assert.Contains("not everything was seen", some.Out);
        Assert.Equal(1, some.ExitCode);
        var brief = await SweepAsync(folder, "--rate", "200", "--within", "1s");
        Assert.Contains("the time was over", brief.Out);
        Assert.Equal(3, brief.ExitCode);
        var rest = await SweepAsync(folder, "--resume");
        Assert.Contains("Seen: 6,000 records", rest.Out);
        Assert.Equal(1, rest.ExitCode);
    }

    [Fact]
    public async Task A_source_that_is_away_is_not_seen_and_the_others_are()
    {
        using var folder = Folder();
        folder.Write(
            "app.yaml",
            App.Replace("sources: {", "sources: { far: { engine: sqlite, connection: far.db },")
                .Replace("records:\n", "records:\n  far: { from: far.thing, label: name }\n")
                .Replace("pages:\n", "pages:\n  fars: { path: /far, list: far }\n")
        );
        folder.MakeDatabase(Schema, "far.db");
        Assert.Equal(0, (await SweepAsync(folder)).ExitCode);

        // Another file in its place, as one would name a replica.
        folder.MakeDatabase(Schema + "UPDATE thing SET name = '' WHERE id = 4;", "copy.db");
        var copy = await SweepAsync(folder, "--only", "far", "--instead", "far=copy.db");
        Assert.Contains("JX805", copy.Out);
        File.Delete(folder.File("far.db"));
        var away = await SweepAsync(folder);
        Assert.NotEqual(0, away.ExitCode);
        Assert.Contains("far", away.Out + away.Error);
    }

    [Fact]
    public async Task Links_and_blocks_that_lead_to_another_source_are_proved_there()
    {
        using var folder = Folder();
        folder.MakeDatabase(
            """
            CREATE TABLE note (no INTEGER PRIMARY KEY, thing_id INTEGER, about TEXT NOT NULL);
            INSERT INTO note VALUES (1, 5, 'thing 5'), (2, 3000, 'thing 3000'), (3, 3001, 'thing 7'), (4, NULL, 'thing 8');
            """,
            "far.db"
        );
        folder.Write(
            "app.yaml",
            App.Replace("sources: {", "sources: { far: { engine: sqlite, connection: far.db },")
                .Replace("records:\n", "records:\n  note: { from: far.note, label: about }\n")
                .Replace("related: [part]", "related: [part, { record: note, tied: { about: name } }]")
                + "\n  notes: { path: /notes, list: note, links: [{ to: thing, with: { id: thing_id } }] }\n"
                + "  note: { path: \"/notes/{no}\", detail: note }\n"
        );
        var ran = await SweepAsync(folder, "--json");
        var finding = Json(ran.Out).GetProperty("findings").EnumerateArray().Single();
        Assert.Equal("JX801", finding.GetProperty("code").GetString());
        var example = Assert.Single(finding.GetProperty("examples").EnumerateArray().ToList());
        Assert.Equal("/things/3001", example.GetProperty("address").GetString());

        folder.Write("app.yaml", File.ReadAllText(folder.File("app.yaml")).Replace("{ about: name }", "{ no: amount }"));
        folder.MakeDatabase("UPDATE note SET no = 9000 + no, thing_id = 5", "far.db");
        var tied = Assert.Single(
            Json((await SweepAsync(folder, "--json")).Out).GetProperty("findings").EnumerateArray().ToList()
        );
        Assert.Equal(("JX811", "thing / note"), (tied.GetProperty("code").GetString(), tied.GetProperty("about").GetString()));
        Assert.Equal("nothing for amount 1", tied.GetProperty("examples")[0].GetProperty("says").GetString());
    }

    [Fact]
    public async Task An_app_file_that_changes_meanwhile_is_served_and_the_sweep_ends_with_what_it_began_with()
    {
        using var folder = Folder(Faults);
        folder.MakeDatabase(Schema, "other.db");
        using var service = await RunningService.StartAsync("serve", folder.File("app.yaml"));
        Assert.Equal(200, (await service.ManageAsync("proofs", new { means = "sweep", rate = 4000 })).Status);
        folder.Write("app.yaml", App.Replace("path: /things,", "path: /items,"));
        await service.ServesAsync("/items");
        // Its source is closed, and another one is opened.
        folder.Write("app.yaml", App.Replace("data.db", "other.db").Replace("path: /things,", "path: /goods,"));
        await service.ServesAsync("/goods");
        var report = await service.EndOfProofAsync();
        var (_, made) = await service.ManageAsync($"proofs/{report}");
        Assert.Empty(made.GetProperty("notSeen").EnumerateArray());
        Assert.Equal(2, made.GetProperty("findings").GetArrayLength());

        await service.ManageAsync("proofs", new { means = "sweep" });
        var (_, next) = await service.ManageAsync($"proofs/{await service.EndOfProofAsync()}");
        Assert.Empty(next.GetProperty("findings").EnumerateArray());
        Assert.Empty(next.GetProperty("notSeen").EnumerateArray());
    }

    [Fact]
    public async Task A_mark_of_another_app_file_is_not_gone_on_with()
    {
        using var folder = Folder();
        Assert.Equal(3, (await SweepAsync(folder, "--rate", "200", "--within", "1s")).ExitCode);
        // What was read already is wrong now.
        folder.Write("app.yaml", App.Replace("thing: { from: s.thing, label: name", "thing: { from: s.thing, label: story"));
        var ran = await SweepAsync(folder, "--resume", "--json");
        var empty = Json(ran.Out).GetProperty("findings").EnumerateArray().Single();
        Assert.Equal(("JX805", 3000), (empty.GetProperty("code").GetString(), empty.GetProperty("count").GetInt32()));
    }

    /// <summary>What the official schema of SARIF 2.1.0 has against a report.</summary>
    private static async Task<IReadOnlyList<string>> SarifFaultsAsync(string report)
    {
        var schema = await NJsonSchema.JsonSchema.FromJsonAsync(
            await File.ReadAllTextAsync(Path.Combine(AppContext.BaseDirectory, "sarif-2.1.0.json"))
        );
        return [.. schema.Validate(report).Select(fault => fault.ToString())];
    }

    private static Process Start(AppFolder folder, params string[] more)
    {
        var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (
            var word in new[]
            {
                RunningService.Program,
                "sweep",
                folder.File("app.yaml"),
                "--state",
                folder.File("state"),
            }.Concat(more)
        )
            start.ArgumentList.Add(word);
        return Process.Start(start)!;
    }
}
