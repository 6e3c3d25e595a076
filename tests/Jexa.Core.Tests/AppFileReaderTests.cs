using System.Diagnostics;
using System.Text;
using CsCheck;
using Jexa.Core.Definitions;

namespace Jexa.Core.Tests;

public class AppFileReaderTests
{
    private const string Good = """
        app: Register
        home: bridges
        sources:
          register: { engine: sqlite, connection: register.db }
        records:
          bridge:
            from: register.bridge
            key: bridge_id
            label: "{code} {name}"
            visible: { status: { not: withdrawn }, kind: { one_of: [arch, beam] }, note: { is: filled } }
            fields:
              opened_on: { label: Opened, type: date }
              pin: { secret: true }
        pages:
          bridges:
            path: /bridges
            list: bridge
            show: [name, code]
            order: [name, -opened_on]
            links: [{ to: bridge, column: name }]
          bridge:
            path: /bridges/{id}
            detail: bridge
            title: "{name}"
            by: { id: bridge_id }
            ids: { missing: bridges, malformed: 400, unknown: 404 }
        """;

    [Fact]
    public void A_good_file_is_read_without_findings()
    {
        var (app, findings) = Read(Good);
        Assert.Empty(findings);
        Assert.Equal("Register", app!.Title.Value);
        Assert.Equal(new Place("app.yaml", 16, 11), app.Pages[0].Path.At);
        Assert.Equal([false, true], app.Pages[0].Order.Select(order => order.Descending));
        Assert.Equal("opened_on", app.Pages[0].Order[1].Field.Value);
        Assert.Equal(3, app.Records[0].Visible.Count);
        Assert.True(app.Records[0].Fields[1].Secret);
    }

    [Fact]
    public void JSON_is_read_as_well()
    {
        var (app, findings) = Read(
            """
            {
            	"app": "Register",
            	"sources": { "register": { "engine": "sqlite", "connection": "register.db" } },
            	"records": { "bridge": { "from": "register.bridge" } },
            	"pages": { "bridges": { "path": "/bridges", "list": "bridge", "show": ["name", "\u00e9"] } }
            }
            """
        );
        Assert.Empty(findings);
        Assert.Equal("é", app!.Pages[0].Show[1].Value);
    }

    [Fact]
    public void Every_scalar_is_text_until_the_schema_types_it()
    {
        var (app, findings) = Read(Good.Replace("{ not: withdrawn }", "{ not: 007 }").Replace("app: Register", "app: no"));
        Assert.Empty(findings);
        Assert.Equal("007", app!.Records[0].Visible[0].Values[0].Value);
        Assert.Equal("no", app.Title.Value);
    }

    [Theory]
    [InlineData("list: bridge", "lsit: bridge", "JX111", 17, 5, "list")]
    [InlineData("engine: sqlite", "engin: sqlite", "JX111", 4, 15, "engine")]
    [InlineData("home: bridges", "app: Again", "JX112", 2, 1, null)]
    [InlineData("app: Register\n", "", "JX113", 1, 1, null)]
    [InlineData("    path: /bridges\n", "", "JX113", 16, 5, null)]
    [InlineData("show: [name, code]", "show: { a: b }", "JX114", 18, 11, null)]
    [InlineData("title: \"{name}\"", "title: {name}", "JX115", 24, 12, null)]
    [InlineData("type: date", "type: dates", "JX116", 12, 41, "date")]
    [InlineData("secret: true", "secret: yes", "JX116", 13, 22, null)]
    [InlineData("is: filled", "is: fill", "JX116", 10, 88, "filled")]
    [InlineData("malformed: 400", "malformed: 200", "JX116", 26, 41, "400")]
    [InlineData("  bridge:\n    path", "  b r:\n    path", "JX117", 21, 3, null)]
    [InlineData("from: register.bridge", "from: bridge", "JX114", 7, 11, null)]
    [InlineData("{ not: withdrawn }", "{ }", "JX114", 10, 24, null)]
    [InlineData("home: bridges", "origins: [\"https://app.example/\"]", "JX116", 2, 12, null)]
    [InlineData("home: bridges", "origins: app.example", "JX116", 2, 10, null)]
    [InlineData("detail: bridge", "detail: bridge\n    form: [name]", "JX409", 24, 5, null)]
    [InlineData("detail: bridge", "detail: bridge\n    then: bridges", "JX409", 24, 5, null)]
    [InlineData("detail: bridge", "detail: bridge\n    edit: bridge", "JX114", 22, 5, null)]
    [InlineData("secret: true", "required: yes", "JX116", 13, 24, null)]
    [InlineData("secret: true", "kept: changd", "JX116", 13, 20, "changed")]
    [InlineData("detail: bridge", "detail: bridge\n    list: bridge", "JX114", 22, 5, null)]
    [InlineData("detail: bridge", "detail: bridge\n    order: [name]", "JX409", 24, 5, null)]
    [InlineData("list: bridge", "list: bridge\n    by: { id: bridge_id }", "JX409", 18, 5, null)]
    public void Each_mistake_is_found_at_its_place(string good, string bad, string code, int line, int column, string? nearest)
    {
        Assert.Contains(good, Good);
        var (_, findings) = Read(ReplaceFirst(Good, good, bad));
        var finding = Assert.Single(findings, finding => finding.Code.Id == code);
        Assert.Equal((line, column), (finding.At.Line, finding.At.Column));
        Assert.Equal(nearest, finding.Nearest);
        Assert.EndsWith(".", finding.Message);
        Assert.NotEqual("", finding.Remedy);
    }

    [Fact]
    public void All_mistakes_are_found_at_once()
    {
        var (_, findings) = Read(
            Good.Replace("list: bridge", "lsit: bridge")
                .Replace("engine:", "engin:")
                .Replace("title: \"{name}\"", "title: {name}")
        );
        Assert.Equal(
            ["JX111", "JX113", "JX113", "JX111", "JX115"],
            findings.OrderBy(f => f.At.Line).ThenBy(f => f.Code.Id).Select(f => f.Code.Id)
        );
    }

    [Theory]
    [InlineData("", "JX103")]
    [InlineData("   \n\n", "JX103")]
    [InlineData("# only a comment", "JX103")]
    [InlineData("---\n...", "JX103")]
    [InlineData("app: 'open", "JX104")]
    [InlineData("app: [a, b", "JX104")]
    [InlineData("app: a\n  b: c", "JX104")]
    [InlineData("app: a\n\thome: b", "JX104")]
    [InlineData("}{", "JX104")]
    [InlineData("app: &x a\nhome: *x", "JX106")]
    [InlineData("app: !!str a", "JX106")]
    [InlineData("app: a\n---\napp: b", "JX107")]
    [InlineData("- a\n- b", "JX114")]
    [InlineData("just text", "JX114")]
    [InlineData("? [a]\n: b", "JX114")]
    public void What_is_no_app_file_gets_a_finding_and_never_an_exception(string text, string code) =>
        Assert.Contains(Read(text).Findings, finding => finding.Code.Id == code);

    [Fact]
    public void Binary_files_are_refused()
    {
        Assert.Equal("JX102", Assert.Single(Read([0x7f, 0x45, 0x4c, 0x46, 0, 1, 2]).Findings).Code.Id);
        Assert.Equal("JX102", Assert.Single(Read([0xff, 0xfe, 0x41]).Findings).Code.Id);
    }

    [Fact]
    public void Fifty_megabytes_are_refused_at_once()
    {
        var clock = Stopwatch.StartNew();
        Assert.Equal("JX101", Assert.Single(Read(new byte[50 * 1024 * 1024]).Findings).Code.Id);
        Assert.True(clock.ElapsedMilliseconds < 1000);
    }

    [Theory]
    [InlineData(1_000)]
    [InlineData(100_000)]
    public void A_thousand_levels_are_refused_without_exhausting_the_stack(int levels)
    {
        Assert.Contains(Read("app: " + new string('[', levels)).Findings, finding => finding.Code.Id is "JX105" or "JX104");
        Assert.Contains(Read(string.Concat(Enumerable.Repeat("{a: ", levels))).Findings, finding =>
            finding.Code.Id is "JX105" or "JX104"
        );
    }

    [Fact]
    public void An_alias_bomb_is_refused_at_its_first_anchor()
    {
        var bomb = new StringBuilder("a: &a [x, x, x, x, x, x, x, x, x]\n");
        for (var c = 'b'; c <= 'i'; c++)
            bomb.Append($"{c}: &{c} [{string.Join(", ", Enumerable.Repeat($"*{(char)(c - 1)}", 9))}]\n");
        Assert.Equal("JX106", Assert.Single(Read(bomb.ToString()).Findings).Code.Id);
    }

    [Fact]
    public void A_text_of_over_64_kilobytes_is_refused() =>
        Assert.Contains(Read("app: " + new string('a', 70_000)).Findings, finding => finding.Code.Id == "JX108");

    [Fact]
    public void Any_change_of_a_good_file_is_read_without_an_exception() =>
        Gen.Select(
                Gen.Int[0, Good.Length - 1],
                Gen.Int[0, 6],
                Gen.OneOf(
                    Gen.OneOf("", ":", "{", "}", "[", "]", "\"", "'", "-", "\n", "\t", "*", "&", "!", "|", ">", "#", "? ", "\0"),
                    Gen.String[0, 5]
                )
            )
            .Sample(
                (at, length, text) =>
                {
                    var changed = Good[..at] + text + Good[Math.Min(Good.Length, at + length)..];
                    Read(Encoding.UTF8.GetBytes(changed));
                }
            );

    [Fact]
    public void Every_finding_code_is_explained_in_the_docs()
    {
        var docs = File.ReadAllText(Repository.File("docs/findings.md"));
        Assert.All(FindingCodes.All, code => Assert.Contains($"### {code.Id} {code.Title}", docs));
        Assert.Equal(FindingCodes.All.Count, FindingCodes.All.Select(code => code.Id).Distinct().Count());
    }

    private static string ReplaceFirst(string text, string old, string with)
    {
        var at = text.IndexOf(old, StringComparison.Ordinal);
        return text[..at] + with + text[(at + old.Length)..];
    }

    private static (AppDefinition? App, IReadOnlyList<Finding> Findings) Read(string text) => Read(Encoding.UTF8.GetBytes(text));

    private static (AppDefinition? App, IReadOnlyList<Finding> Findings) Read(byte[] bytes)
    {
        var findings = new FindingList();
        var app = AppFileReader.Read("app.yaml", bytes, findings);
        return (app, findings.All);
    }
}
