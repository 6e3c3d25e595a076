using Jexa.Core.Guidance;
using Jexa.Core.Rewriting;

namespace Jexa.Core.Tests;

/// <summary>What an editor is told about a place of an app file, finished or not.</summary>
public sealed class GuidanceTests
{
    private static readonly SchemaTree Schema = new(File.ReadAllBytes(Repository.File("docs/app-file.schema.json")));

    /// <summary>Reads the context of the bar in a text, which is not part of it.</summary>
    private static TextContext At(string text)
    {
        var bar = text.IndexOf('|');
        return TextContext.At(text.Remove(bar, 1), bar);
    }

    [Theory]
    [InlineData("ap|", "", true, "ap")]
    [InlineData("app: A\nho|", "", true, "ho")]
    [InlineData("app: A\nhome: br|", "home", false, "br")]
    [InlineData("pages:\n  |", "pages", true, "")]
    [InlineData("pages:\n  bridges:\n    |", "pages.bridges", true, "")]
    [InlineData("pages:\n  bridges:\n    path: /a\n    lo|", "pages.bridges", true, "lo")]
    [InlineData("pages:\n  bridges:\n    look: ca|", "pages.bridges.look", false, "ca")]
    [InlineData("pages:\n  bridges:\n    path: /a\n|", "", true, "")]
    [InlineData("pages:\n  bridges:\n    path: /a\n  |", "pages", true, "")]
    [InlineData("pages:\n  bridges: { path: /a, |", "pages.bridges", true, "")]
    [InlineData("pages:\n  bridges: { path: /a, look: |", "pages.bridges.look", false, "")]
    [InlineData("pages:\n  bridges: { show: [name, co|", "pages.bridges.show.1", false, "co")]
    [InlineData("pages:\n  bridges: { show: [name, code], li|", "pages.bridges", true, "li")]
    [InlineData("pages:\n  a:\n    links:\n      - { to: x }\n      - { to: bri|", "pages.a.links.1.to", false, "bri")]
    [InlineData("pages:\n  a:\n    links:\n      - to: x\n        wi|", "pages.a.links.0", true, "wi")]
    [InlineData("pages:\n  a:\n    links:\n    - to: x\n    - to: y\n      with: { i|", "pages.a.links.1.with", true, "i")]
    [InlineData("pages:\n  a:\n    links:\n    - to: x\n    lo|", "pages.a", true, "lo")]
    [InlineData("pages:\n  a:\n    show: [\n      name,\n      co|", "pages.a.show.1", false, "co")]
    [InlineData("a: # {[ no\n  b: 'it''s: {'\n  c|", "a", true, "c")]
    [InlineData("a: |\n  b: c\nd|", "a", false, "")]
    [InlineData("home: \"bri|", "home", false, "bri")]
    public void The_context_of_what_is_typed(string text, string place, bool isKey, string typed)
    {
        var context = At(text);
        Assert.Equal(place, string.Join('.', context.Place));
        Assert.Equal((isKey, typed), (context.IsKey, context.Typed));
    }

    [Fact]
    public void Lines_of_a_block_text_are_no_keys()
    {
        var text = "records:\n  tally:\n    query: |\n      SELECT a: b\n\n      FROM c\n    key: a\n    ";
        Assert.Equal("records.tally", string.Join('.', TextContext.At(text, text.Length).Place));
        Assert.False(TextContext.At(text, text.IndexOf("FROM", StringComparison.Ordinal)).IsKey);
    }

    [Theory]
    [MemberData(nameof(RewriteTests.Files), MemberType = typeof(RewriteTests))]
    public void The_context_of_every_value_of_every_file_is_its_place(string name, string form)
    {
        var text = RewriteTests.TextOf(name, form).TrimStart('\uFEFF');
        var map = FileMap.Read(text)!;
        var lines = text.Split('\n');
        var starts = new List<int> { 0 };
        foreach (var line in lines)
            starts.Add(starts[^1] + line.Length + 1);
        foreach (var place in RewriteTests.Places(map.Value, []))
        {
            var range = map.RangeOfValue(place)!;
            Assert.Equal(place, map.At(range.Line, range.Column).Place.Take(place.Count));
            // A mapping or list begins with its first entry, whose own place is another one.
            if (
                range.Line != range.EndLine
                || new FileRewriter(text).Find(place) is not FileValue.Text { Value.Length: > 0 } value
            )
                continue;
            var offset = starts[range.Line - 1] + range.Column;
            Assert.Equal(string.Join('/', place), string.Join('/', TextContext.At(text, offset).Place));
        }
    }

    [Fact]
    public void The_schema_tells_keys_words_and_meanings_by_place()
    {
        Assert.Contains(Schema.Keys([]), key => key.Text == "pages");
        Assert.Contains(Schema.Keys(["pages", "any", "links", "0"]), key => key is { Text: "with", Detail.Length: > 5 });
        Assert.Contains(Schema.Keys(["pages", "any", "side", "0"]), key => key.Text == "by");
        Assert.Equal(["table", "cards", "bullets"], Schema.Words(["pages", "any", "look"]));
        Assert.Contains("postgresql", Schema.Words(["sources", "any", "engine"]));
        Assert.Equal("Rows at a time, 50 if omitted.", Schema.Meaning(["pages", "any", "size"]));
        Assert.Null(Schema.Meaning(["pages", "any", "nonsense"]));
        Assert.True(Schema.IsNested(["pages", "any", "links"]));
        Assert.False(Schema.IsNested(["pages", "any", "title"]));
    }

    [Fact]
    public void Two_versions_are_merged_line_by_line_and_conflicts_are_named()
    {
        const string before = "a\nb\nc\nd\ne\n";
        var parts = LineMerge.Parts(before, "a\nB\nc\nd\ne\n", "a\nb\nc\nd\ne\nf\n");
        Assert.DoesNotContain(parts, part => part.IsConflict);
        Assert.Equal("a\nB\nc\nd\ne\nf\n", LineMerge.Merge(parts, [], "\n"));
        Assert.Equal("a\r\nB\r\nc\r\nd\r\ne\r\nf\r\n", LineMerge.Merge(parts, [], "\r\n"));

        var clash = LineMerge.Parts(before, "a\nB\nc\nd\ne\n", "a\nX\nY\nc\ne\n");
        var conflict = Assert.Single(clash, part => part.IsConflict);
        Assert.Equal(["b"], conflict.Base);
        Assert.Equal(["B"], conflict.Mine);
        Assert.Equal(["X", "Y"], conflict.Theirs);
        Assert.Equal(2, conflict.Line);
        Assert.Equal("a\nB\nc\ne\n", LineMerge.Merge(clash, [true], "\n"));
        Assert.Equal("a\nX\nY\nc\ne\n", LineMerge.Merge(clash, [false], "\n"));
    }

    [Fact]
    public void Merging_any_change_with_none_gives_the_change()
    {
        var random = new Random(7);
        string Text() => string.Join('\n', Enumerable.Range(0, random.Next(12)).Select(_ => "abc"[random.Next(3)]));
        for (var tries = 0; tries < 500; tries++)
        {
            var (before, after) = (Text(), Text());
            foreach (var (mine, theirs) in new[] { (before, after), (after, before), (after, after) })
            {
                var parts = LineMerge.Parts(before, mine, theirs);
                Assert.DoesNotContain(parts, part => part.IsConflict);
                Assert.Equal(after, LineMerge.Merge(parts, [], "\n"));
            }
        }
    }

    [Fact]
    public void A_patch_makes_of_the_one_text_the_other()
    {
        var random = new Random(11);
        using var folder = new PatchFolder();
        for (var tries = 0; tries < 60; tries++)
        {
            string Text() =>
                string.Join('\n', Enumerable.Range(0, 1 + random.Next(14)).Select(_ => "abc"[random.Next(3)]))
                + (random.Next(2) == 0 ? "\n" : "");
            var (before, after) = (Text(), Text());
            Assert.Equal(after, folder.Patched(before, UnifiedPatch.Of("app.yaml", before, after)));
        }
    }
}
