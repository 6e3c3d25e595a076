using System.Text.RegularExpressions;

namespace Jexa.Sources.Tests;

/// <summary>
/// The app files in the tutorial and the recipes are what they say: each is compiled and visited as it stands there.
/// </summary>
public sealed partial class DocsTests
{
    private static string Doc(string name) => File.ReadAllText(Repository.File($"docs/{name}"));

    private static string Schema => Block("sql", Doc("first-pages.md")).Single();

    private static List<string> Block(string language, string text) =>
        [.. Fence().Matches(text).Where(match => match.Groups[1].Value == language).Select(match => match.Groups[2].Value)];

    public static TheoryData<string, int> Apps { get; } =
    [.. new[] { "first-pages.md", "recipes.md" }.SelectMany(doc => Block("yaml", Doc(doc)).Select((_, i) => (doc, i)))];

    [Theory]
    [MemberData(nameof(Apps))]
    public async Task An_app_file_of_the_docs_has_nothing_wrong_with_it(string doc, int number)
    {
        var text = Block("yaml", Doc(doc))[number];
        await using var app = Made();
        Directory.CreateDirectory(Path.Combine(app.Folder, "photos"));
        var compilation = text.Contains("engine: http", StringComparison.Ordinal)
            ? await new ServedApp("app.yaml", _ => "http://127.0.0.1:1", new Http.HttpEngine()).CompileAsync(text)
            : await app.CompileAsync(text);
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));

        // The tutorial's first files are not finished yet: hints say what comes next.
        Assert.Empty(doc == "recipes.md" ? compilation.Findings : compilation.Wrong());
    }

    [Theory]
    [InlineData("first-pages.md", 1, "/bridges/1", "found 200")]
    [InlineData("first-pages.md", 1, "/bridges/99", "unknown 404")]
    [InlineData("first-pages.md", 1, "/bridges/x", "malformed 400")]
    [InlineData("first-pages.md", 1, "/bridges/007", "not-canonical 301 /bridges/7")]
    [InlineData("recipes.md", 0, "/bridges/1", "found 200")]
    [InlineData("recipes.md", 0, "/tags/9", "unknown 404")]
    [InlineData("recipes.md", 1, "/bridges", "listed 200")]
    [InlineData("recipes.md", 1, "/bridges?region_id=1", "listed 200")]
    [InlineData("recipes.md", 1, "/bridges?bridge=1", "found 200")]
    [InlineData("recipes.md", 1, "/bridges?bridge=1&region_id=1", "malformed 400")]
    [InlineData("recipes.md", 1, "/bridges?Region_ID=1", "malformed 400")]
    [InlineData("recipes.md", 2, "/visits?year=2024", "listed 200")]
    [InlineData("recipes.md", 2, "/visits?year=0", "malformed 400")]
    [InlineData("recipes.md", 3, "/code/UV-01", "found 200")]
    [InlineData("recipes.md", 3, "/code/1", "unknown 404")]
    [InlineData("recipes.md", 5, "/bridges/1/tags/1", "found 200")]
    [InlineData("recipes.md", 6, "/counts/2024-01-01/1", "found 200")]
    [InlineData("recipes.md", 6, "/counts/2024-05-01/1", "unknown 404")]
    [InlineData("recipes.md", 6, "/counts/soon/1", "malformed 400")]
    public async Task Its_addresses_end_as_the_docs_say(string doc, int number, string target, string outcome)
    {
        await using var app = Made();
        Assert.Equal(outcome, await app.OutcomeAsync(await app.SiteAsync(Block("yaml", Doc(doc))[number]), target));
    }

    [Theory]
    [InlineData(0, "[name, code, region_id]", "[nmae, code, region_id]", "JX301", "name")]
    [InlineData(0, "valley.bridge", "valley.bridges", "JX205", "bridge")]
    [InlineData(0, "valley.db", "vallye.db", "JX203", null)]
    [InlineData(1, "\"/bridges/{id}\"", "/bridges/{id}", "JX115", null)]
    [InlineData(1, "\"/bridges/{id}\"", "/bridges/:id", "JX404", null)]
    [InlineData(2, "show: [name, code, region_id]", "links: [{ to: region, with: { id: id } }]", "JX510", null)]
    [InlineData(2, "show: [name, code, region_id]", "links: [{ to: region, with: { region: region_id } }]", "JX503", null)]
    [InlineData(2, "show: [name, code, region_id]", "links: [{ to: region, with: { ID: region_id } }]", "JX504", "id")]
    [InlineData(4, "under: photos", "under: fotos", "JX312", null)]
    public async Task The_mistakes_that_the_tutorial_tells_of_have_the_findings_that_it_says(
        int number,
        string good,
        string bad,
        string code,
        string? nearest
    )
    {
        var text = Block("yaml", Doc("first-pages.md"))[number];
        Assert.Contains(good, text, StringComparison.Ordinal);
        await using var app = Made();
        Directory.CreateDirectory(Path.Combine(app.Folder, "photos"));
        var wrong = (await app.CompileAsync(text.Replace(good, bad))).Wrong();
        var finding = wrong.FirstOrDefault(finding => finding.Code.Id == code);
        Assert.True(finding is not null, string.Join("\n", wrong));
        Assert.Equal(nearest, finding.Nearest);
        if (code is "JX115" or "JX404")
            Assert.Single(wrong);
        if (code == "JX404")
            Assert.Contains("/bridges/{id}", finding.Remedy, StringComparison.Ordinal);
    }

    private static TestApp Made()
    {
        var app = new TestApp(null);
        app.Execute(Schema, "valley.db");
        return app;
    }

    [GeneratedRegex(@"^```(\w+)\n(.*?)^```", RegexOptions.Multiline | RegexOptions.Singleline)]
    private static partial Regex Fence();
}
