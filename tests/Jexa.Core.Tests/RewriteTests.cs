using Jexa.Core.Definitions;
using Jexa.Core.Guidance;
using Jexa.Core.Rewriting;

namespace Jexa.Core.Tests;

/// <summary>Single values of an app file's text are changed; everything else stays, byte for byte.</summary>
public sealed class RewriteTests
{
    private const string Small = """
        # The register.
        app: Bridges   # its name
        home: bridges

        pages:
          # All of them.
          bridges:
            path: /bridges
            list: bridge      # the kind
            show: [name, 'code',  "opened"]
            links:
              - to: bridge
                column: name
              # Another way.
              - { to: district, with: { district: district } }

          # One of them.
          bridge: { path: "/bridges/{id}", detail: bridge }
        """;

    private static string[] At(string place) => place.Split('.');

    private static string Changed(string text, Action<FileRewriter> change)
    {
        var file = new FileRewriter(text);
        change(file);
        var undone = file.Undo.Aggregate(file.Text, Splice.Apply);
        Assert.Equal(text, undone);
        return file.Text;
    }

    /// <summary>The lines that a change takes away and adds, in order.</summary>
    private static (string[] Gone, string[] New) Lines(string before, string after)
    {
        var (old, now) = (before.Split('\n'), after.Split('\n'));
        var start = old.Zip(now).TakeWhile(pair => pair.First == pair.Second).Count();
        var end = old.Reverse().Zip(now.Reverse()).TakeWhile(pair => pair.First == pair.Second).Count();
        end = Math.Min(end, Math.Min(old.Length, now.Length) - start);
        return (old[start..^end], now[start..^end]);
    }

    private static void Changes(Action<FileRewriter> change, string[] gone, string[] added)
    {
        var lines = Lines(Small, Changed(Small, change));
        Assert.Equal(gone, lines.Gone);
        Assert.Equal(added, lines.New);
    }

    [Fact]
    public void A_value_is_replaced_and_its_comment_stays()
    {
        Changes(file => file.Set(["app"], FileValue.Of("Spans")), ["app: Bridges   # its name"], ["app: Spans   # its name"]);
        Changes(
            file => file.Set(At("pages.bridge.path"), FileValue.Of("/b/{id}")),
            ["  bridge: { path: \"/bridges/{id}\", detail: bridge }"],
            ["  bridge: { path: \"/b/{id}\", detail: bridge }"]
        );
        Changes(
            file => file.Set(At("pages.bridges.show.1"), FileValue.Of("it's")),
            ["    show: [name, 'code',  \"opened\"]"],
            ["    show: [name, 'it''s',  \"opened\"]"]
        );
    }

    [Fact]
    public void A_new_value_stands_behind_the_others_as_they_stand()
    {
        Changes(file => file.Set(At("pages.bridges.size"), FileValue.Of("20")), [], ["    size: 20"]);
        Changes(
            file => file.Set(At("pages.bridge.title"), FileValue.Of("{code}: {name}")),
            ["  bridge: { path: \"/bridges/{id}\", detail: bridge }"],
            ["  bridge: { path: \"/bridges/{id}\", detail: bridge, title: \"{code}: {name}\" }"]
        );
        Changes(
            file => file.Set(At("pages.bridge.ids.missing"), FileValue.Of("bridges")),
            ["  bridge: { path: \"/bridges/{id}\", detail: bridge }"],
            ["  bridge: { path: \"/bridges/{id}\", detail: bridge, ids: { missing: bridges } }"]
        );
        Changes(
            file => file.Append(At("pages.bridges.links"), FileValue.Of(("to", FileValue.Of("spans")))),
            [],
            ["      - { to: spans }"]
        );
        Changes(
            file => file.Append(At("pages.bridges.show"), FileValue.Of("length")),
            ["    show: [name, 'code',  \"opened\"]"],
            ["    show: [name, 'code',  \"opened\", length]"]
        );
        Changes(
            file => file.Set(At("pages.bridges.title"), FileValue.Of("Two\nlines\n")),
            [],
            ["    title: |", "      Two", "      lines"]
        );
    }

    [Fact]
    public void A_removed_value_takes_its_own_comments_along()
    {
        Changes(file => file.Remove(At("pages.bridges")), Small.Split('\n')[5..15], []);
        Changes(file => file.Remove(At("pages.bridges.list")), ["    list: bridge      # the kind"], []);
        Changes(
            file => file.Remove(At("pages.bridges.links.1")),
            ["      # Another way.", "      - { to: district, with: { district: district } }"],
            []
        );
        Changes(
            file => file.Remove(At("pages.bridges.links.0.to")),
            ["      - to: bridge", "        column: name"],
            ["      - column: name"]
        );
        Changes(
            file => file.Remove(At("pages.bridges.show.0")),
            ["    show: [name, 'code',  \"opened\"]"],
            ["    show: ['code',  \"opened\"]"]
        );
        Changes(
            file => file.Remove(At("pages.bridges.show.2")),
            ["    show: [name, 'code',  \"opened\"]"],
            ["    show: [name, 'code']"]
        );
    }

    [Fact]
    public void A_block_becomes_a_line_and_its_key_keeps_its_comment() =>
        Assert.Equal(
            "pages: # all\n  a:  [one, two]  # which\n  b: 1\n",
            Changed("pages: # all\n  a:  # which\n    - one\n    - three\n  b: 1\n", file =>
                    file.Set(["pages", "a"], FileValue.Of(["one", "two"]))
                )
                .Replace("a: [one, two]  #", "a:  [one, two]  #")
        );

    [Fact]
    public void What_would_read_as_something_else_is_quoted() =>
        Changes(
            file => file.Set(["app"], FileValue.Of("Bridges:")),
            ["app: Bridges   # its name"],
            ["app: \"Bridges:\"   # its name"]
        );

    [Theory]
    [InlineData("m:\n  a: 1\n  t: |+\n    x\n\n")]
    [InlineData("m:\n  a: 1\n  t: |+\n    x\n\nn: 1\n")]
    [InlineData("m:\n  a: 1\n  t: |\n    x\n\nn: 1\n")]
    [InlineData("m:\n  a: 1\n  t: |-\n    x\n# n\nn: 1\n")]
    [InlineData("m:\n  a: 1\n  t: |\n    x\nn: 1\n")]
    public void A_block_text_keeps_its_blank_lines(string text)
    {
        var before = new FileRewriter(text).Find("m", "t");
        var file = new FileRewriter(text);
        file.Set(["m", "c"], FileValue.Of("2"));
        Assert.Equal(before, file.Find("m", "t"));
        Assert.Equal(FileValue.Of("2"), file.Find("m", "c"));
        Assert.Equal(text, file.Undo.Aggregate(file.Text, Splice.Apply));
    }

    [Theory]
    [InlineData("a: 1\na: 2\n", "a second time")]
    [InlineData("? a\n: 1\n", "without its colon")]
    [InlineData("a: &x 1\nb: *x\n", "alias, anchor or tag")]
    [InlineData("a: [1\n", "cannot be read as YAML at line")]
    [InlineData("a:\t1\n\tb: 2\n", "cannot be read as YAML")]
    [InlineData("a: 1\rb: 2\r", "carriage returns")]
    [InlineData("", "empty")]
    [InlineData("- a\n", "no mapping")]
    [InlineData("a: 1\n---\nb: 2\n", "second document")]
    public void What_cannot_be_changed_by_name_is_refused_with_a_sentence(string text, string why) =>
        Assert.Contains(why, Assert.Throws<RewriteException>(() => new FileRewriter(text)).Message);

    [Fact]
    public void A_bracket_that_is_never_closed_is_told_where_reading_ended()
    {
        const string Text = "app: R\nsources:\n  s: { engine: sqlite, connection: data.db\nrecords:\n         a: { from: s.bri";
        Assert.Contains("line 4", Assert.Throws<RewriteException>(() => new FileRewriter(Text)).Message);
        var findings = new FindingList();
        Assert.Null(AppFileReader.Read("app.yaml", System.Text.Encoding.UTF8.GetBytes(Text), findings));
        var finding = Assert.Single(findings.All);
        Assert.Equal(4, finding.At.Line);
    }

    /// <summary>Texts as they are while somebody types, cuts and pastes: each is read, or refused with a sentence.</summary>
    [Theory]
    [MemberData(nameof(Files))]
    public void A_half_written_file_is_read_or_refused(string name, string form)
    {
        var text = TextOf(name, form);
        var random = new Random(name.Length * 7 + form.Length);
        const string Signs = "{}[]\"':,#-&*!|>?%@`\t\n\r ";
        var tries = int.Parse(Environment.GetEnvironmentVariable("JEXA_TRIES") ?? "60");
        for (var i = 0; i < tries; i++)
        {
            var typed = text[..random.Next(text.Length)];
            for (var change = random.Next(4); change > 0 && typed.Length > 0; change--)
            {
                var at = Math.Max(0, typed.Length - random.Next(1, 200));
                typed = random.Next(2) == 0 ? typed.Remove(at, 1) : typed.Insert(at, Signs[random.Next(Signs.Length)].ToString());
            }

            var map = FileMap.Read(typed);
            var findings = new FindingList();
            var definition = AppFileReader.Read(name, System.Text.Encoding.UTF8.GetBytes(typed), findings);
            // What was read has findings or a definition; what can be changed by name was read.
            Assert.True(definition is not null || findings.All.Count > 0, typed);
            Assert.True(map is null || definition is not null || findings.All.Count > 0, typed);
            _ = TextContext.At(typed, typed.Length);
        }
    }

    public static TheoryData<string, string> Files()
    {
        var files = new TheoryData<string, string>();
        foreach (
            var file in Directory
                .EnumerateFiles(Repository.File("."), "*.yaml", SearchOption.AllDirectories)
                .Where(file => !file.Contains("/bin/") && !file.Contains("/obj/") && !file.Contains("/node_modules/"))
                .Where(file => new FileInfo(file).Length < 200_000 && File.ReadAllText(file).Contains("\npages:"))
                .Order()
        )
        foreach (var form in (string[])["lf", "crlf", "open", "bom", "json", "blocks"])
            files.Add(Path.GetRelativePath(Repository.File("."), file), form);
        return files;
    }

    /// <summary>
    /// Whatever is changed in any app file: what was to change has changed and nothing else, not even a comment; undoing it gives
    /// the bytes back. A change that cannot be made so is refused.
    /// </summary>
    [Theory]
    [MemberData(nameof(Files))]
    public void Any_change_touches_nothing_else(string name, string form)
    {
        var text = TextOf(name, form);
        var random = new Random(name.Length * 31 + form.Length);
        var places = Places(new FileRewriter(text).Value, []).ToList();
        var refused = new List<string>();
        var tries = int.Parse(Environment.GetEnvironmentVariable("JEXA_TRIES") ?? "60");
        for (var i = 0; i < tries; i++)
        {
            var place = places[random.Next(places.Count)];
            var file = new FileRewriter(text);
            try
            {
                Change(file, place, random);
            }
            catch (RewriteException refusal)
            {
                // Some changes make no sense there: an item for a mapping, a name for an item.
                if (refusal.Message.Contains("without touching"))
                    refused.Add(string.Join('.', place));
                Assert.Equal(text, file.Text);
                continue;
            }

            Assert.Equal(text, file.Undo.Aggregate(file.Text, Splice.Apply));
            // No comment is lost; those of an item that is moved are in what undoes it as well.
            var kept = Comments(file.Text) + file.Undo.SelectMany(step => step).Sum(step => Comments(step.Text));
            Assert.True(Comments(text) <= kept, string.Join('.', place));
        }

        Assert.True(refused.Count <= tries / 20, $"Refused: {string.Join(", ", refused)}");
    }

    /// <summary>An app file of the repository in another form.</summary>
    internal static string TextOf(string name, string form)
    {
        var text = File.ReadAllText(Repository.File(name));
        return form switch
        {
            "crlf" => text.Replace("\n", "\r\n"),
            "open" => text.TrimEnd('\n'),
            "bom" => "\uFEFF" + text,
            "json" => Json(new FileRewriter(text).Value, ""),
            "blocks" => Blocks(new FileRewriter(text).Value, ""),
            _ => text,
        };
    }

    /// <summary>The file as JSON, which is YAML too.</summary>
    private static string Json(FileValue value, string indent)
    {
        var deeper = indent + "  ";
        string Lines(IEnumerable<string> lines) => string.Join(",", lines.Select(line => $"\n{deeper}{line}"));
        return value switch
        {
            FileValue.Text text => System.Text.Json.JsonSerializer.Serialize(text.Value),
            FileValue.List { Items.Count: 0 } => "[]",
            FileValue.List list => $"[{Lines(list.Items.Select(item => Json(item, deeper)))}\n{indent}]",
            FileValue.Map { Entries.Count: 0 } => "{}",
            FileValue.Map map =>
                $"{{{Lines(map.Entries.Select(entry => $"\"{entry.Key}\": {Json(entry.Value, deeper)}"))}\n{indent}}}",
            _ => "",
        };
    }

    /// <summary>The file without any brackets, with a comment at every place that can have one.</summary>
    private static string Blocks(FileValue value, string indent)
    {
        var deeper = indent + "  ";
        string Entry(KeyValuePair<string, FileValue> entry) =>
            $"{indent}# {entry.Key}:\n{indent}{entry.Key}:{Blocks(entry.Value, deeper)}\n";
        return value switch
        {
            FileValue.Text text => $" {System.Text.Json.JsonSerializer.Serialize(text.Value)} # {indent.Length}\n",
            FileValue.List { Items.Count: 0 } => " []\n",
            FileValue.Map { Entries.Count: 0 } => " {} # none\n",
            FileValue.List list => $" # a list\n{string.Concat(list.Items.Select(item => Item(item, indent)))}",
            FileValue.Map map => (indent.Length == 0 ? "" : " # below\n") + string.Concat(map.Entries.Select(Entry)),
            _ => "",
        };
    }

    private static string Item(FileValue item, string indent)
    {
        var deeper = indent + "  ";
        return item is FileValue.Map map
            ? $"{indent}- "
                + string.Join(deeper, map.Entries.Select(entry => $"{entry.Key}:{Blocks(entry.Value, deeper + "  ")}"))
            : $"{indent}-{Blocks(item, deeper)}";
    }

    private static readonly string[] Texts =
    [
        "plain",
        "two words",
        "{hole}",
        "it's: #1",
        "a, b",
        "",
        "null",
        "- x",
        "\"q\"",
        "ø\u2028",
    ];

    private static void Change(FileRewriter file, IReadOnlyList<string> place, Random random)
    {
        var text = FileValue.Of(Texts[random.Next(Texts.Length)]);
        switch (random.Next(8))
        {
            case 0:
                file.Set(place, text);
                break;
            case 1:
                file.Set([.. place.Take(place.Count - 1), "brand_new"], text);
                break;
            case 2:
                file.Remove(place);
                break;
            case 3:
                file.Append(place, text);
                break;
            case 4:
                file.Rename(place, "renamed");
                break;
            case 5:
                file.Move(place, random.Next(3));
                break;
            case 6:
                file.Set(place, FileValue.Of(("inner", text), ("more", FileValue.Of(["a", "b"]))));
                break;
            default:
                file.Set(place, FileValue.Of(["one", Texts[random.Next(Texts.Length)]]));
                break;
        }
    }

    internal static IEnumerable<IReadOnlyList<string>> Places(FileValue value, IReadOnlyList<string> above) =>
        value switch
        {
            FileValue.Map map => map.Entries.SelectMany(entry =>
                Places(entry.Value, [.. above, entry.Key]).Prepend([.. above, entry.Key])
            ),
            FileValue.List list => list.Items.SelectMany(
                (item, i) => Places(item, [.. above, $"{i}"]).Prepend([.. above, $"{i}"])
            ),
            _ => [],
        };

    /// <summary>The number of comments on lines of their own.</summary>
    private static int Comments(string text) =>
        text.TrimStart('\uFEFF').Split('\n').Count(line => line.TrimStart().StartsWith('#'));
}
