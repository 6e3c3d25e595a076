using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Sources;
using Jexa.Demo;
using Jexa.Sources.Sqlite;

namespace Jexa.Sources.Tests;

/// <summary>The demo's app file, whole and with each of its lines spoilt in turn.</summary>
public sealed class DemoFileTests : IAsyncLifetime
{
    private readonly SourceRegistry _sources = new([new SqliteEngine(), new Jexa.Sources.Http.HttpEngine()]);
    private readonly string _folder = Directory.CreateTempSubdirectory("jexa-demo-").FullName;
    private string[] _lines = [];

    public async ValueTask InitializeAsync()
    {
        RegisterMaker.Ensure(Path.Combine(_folder, "data", "register.db"));
        foreach (var text in new[] { "about.md", "not-found.md" })
            File.Copy(Repository.File($"demo/{text}"), Path.Combine(_folder, text));
        Directory.CreateDirectory(Path.Combine(_folder, "designs"));
        foreach (var file in Directory.GetFiles(Repository.File("demo/designs")))
            File.Copy(file, Path.Combine(_folder, "designs", Path.GetFileName(file)));
        _lines = await File.ReadAllLinesAsync(Repository.File("demo/bridges.yaml"));
    }

    public async ValueTask DisposeAsync()
    {
        await _sources.DisposeAsync();
        Directory.Delete(_folder, recursive: true);
    }

    [Fact]
    public async Task It_has_no_findings() => Assert.Empty((await CompileAsync(_lines)).Findings);

    [Fact]
    public async Task Any_line_removed_leaves_a_finding_or_a_working_site()
    {
        for (var i = 0; i < _lines.Length; i++)
            await CheckAsync([.. _lines[..i], .. _lines[(i + 1)..]], $"without line {i + 1}: {_lines[i]}");
    }

    [Fact]
    public async Task Any_word_misspelt_leaves_a_finding_or_a_working_site()
    {
        var tried = 0;
        for (var i = 0; i < _lines.Length; i++)
        {
            if (_lines[i].TrimStart().StartsWith('#'))
                continue;
            foreach (var word in Words(_lines[i]))
            {
                var spoilt = _lines[i][..word.Start] + Swapped(_lines[i][word]) + _lines[i][word.End..];
                await CheckAsync([.. _lines[..i], spoilt, .. _lines[(i + 1)..]], $"line {i + 1} as: {spoilt}");
                tried++;
            }
        }

        Assert.True(tried > 100);
    }

    [Fact]
    public async Task Any_character_of_its_punctuation_removed_leaves_a_finding_or_a_working_site()
    {
        var text = string.Join('\n', _lines);
        for (var i = 0; i < text.Length; i++)
            if (":{}[]\"-,?/".Contains(text[i]))
                await CheckAsync([text.Remove(i, 1)], $"without the {text[i]} at {i}");
    }

    [Fact]
    public void The_data_is_the_same_each_time_it_is_made()
    {
        var again = Path.Combine(_folder, "again", "register.db");
        Assert.True(RegisterMaker.Ensure(again));
        Assert.False(RegisterMaker.Ensure(again));
        Assert.Equal(Dump(Path.Combine(_folder, "data", "register.db")), Dump(again));
        var photos = Directory.GetFiles(Path.Combine(_folder, "data", "photos"));
        Assert.InRange(photos.Length, 1000, 1214);
        foreach (var photo in photos.Where((_, i) => i % 100 == 0))
            Assert.Equal(
                File.ReadAllText(photo),
                File.ReadAllText(Path.Combine(_folder, "again", "photos", Path.GetFileName(photo)))
            );
    }

    private static string Dump(string file)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={file};Mode=ReadOnly;Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText =
            "SELECT group_concat(b, char(10)) FROM (SELECT concat_ws('|', bridge_id, code, name, district, "
            + "status, opened_on, length_m, note) AS b FROM bridge ORDER BY bridge_id)";
        return (string)command.ExecuteScalar()!;
    }

    private async Task CheckAsync(string[] lines, string what)
    {
        var compilation = await CompileAsync(lines);
        Assert.True(compilation.Site is not null || compilation.Findings.Count > 0, what);
        if (compilation.Site is { } site)
            Assert.True(site.Pages.Count > 0, what);
    }

    private Task<Compilation> CompileAsync(string[] lines) =>
        new SiteCompiler(_sources, _ => null, Mount.Root).CompileAsync(
            Path.Combine(_folder, "bridges.yaml"),
            Encoding.UTF8.GetBytes(string.Join('\n', lines)),
            CancellationToken.None
        );

    private static IEnumerable<Range> WordRanges(string line)
    {
        for (var i = 0; i < line.Length; i++)
        {
            if (!char.IsLetter(line[i]))
                continue;
            var end = i;
            while (end < line.Length && (char.IsLetterOrDigit(line[end]) || line[end] == '_'))
                end++;
            if (end - i > 1)
                yield return i..end;
            i = end;
        }
    }

    private static IEnumerable<Range> Words(string line) => WordRanges(line);

    private static string Swapped(string word) => $"{word[1]}{word[0]}{word[2..]}";
}
