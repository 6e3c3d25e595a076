using System.Text.RegularExpressions;

namespace Jexa.Sources.Tests;

/// <summary>
/// Holds the folders of <c>src/</c> to docs/map.md: its table has each with those that it points at, which come before it. The
/// sources are read, not what is compiled of them: a constant leaves no trace there.
/// </summary>
public partial class RoomTests
{
    private static readonly string Map = Repository.File("docs/map.md");

    [Fact]
    public void Folders_point_where_the_map_says_and_only_downwards()
    {
        var arrows = Arrows();
        if (Environment.GetEnvironmentVariable("JEXA_WRITE") == "1")
            Write(arrows);
        var drawn = Drawn();
        Assert.Equal(arrows.Keys.Order(), drawn.Select(row => row.Room).Order());
        var below = new HashSet<string>();
        foreach (var (room, targets) in drawn)
        {
            var found = arrows[room].Select(arrow => arrow.Target).Distinct().Order(StringComparer.Ordinal);
            Assert.True(
                targets.SequenceEqual(found),
                $"{room} points at {string.Join(", ", found.Except(targets))}, which docs/map.md does not say; the map also says "
                    + $"{string.Join(", ", targets.Except(found))}. Write its table anew with JEXA_WRITE=1 if that is meant.\n"
                    + string.Join("\n", arrows[room].Where(arrow => !targets.Contains(arrow.Target)).Take(5))
            );
            Assert.True(
                targets.All(below.Contains),
                $"{room} points at {string.Join(", ", targets.Except(below))}, which is below it in docs/map.md:\n"
                    + string.Join("\n", arrows[room].Where(arrow => !below.Contains(arrow.Target)).Take(5))
            );
            below.Add(room);
        }
    }

    /// <summary>
    /// For each folder, the types of other folders that its files name. Files of <c>Clients/Runtime</c> are parts of what is
    /// written for programs.
    /// </summary>
    private static Dictionary<string, List<Arrow>> Arrows()
    {
        var source = Repository.File("src");
        var files = Directory
            .EnumerateFiles(source, "*.cs", SearchOption.AllDirectories)
            .Where(file => !BuiltOrGiven().IsMatch(file))
            .Select(file => (Room: Path.GetDirectoryName(Path.GetRelativePath(source, file))!["Jexa.".Length..], File: file))
            .ToList();
        var rooms = files.Select(file => file.Room).ToHashSet();
        var homes = files.ToLookup(file => Path.GetFileNameWithoutExtension(file.File), file => file.Room);
        return files
            .GroupBy(file => file.Room)
            .ToDictionary(room => room.Key, room => room.SelectMany(file => From(file.Room, file.File, rooms, homes)).ToList());
    }

    private static IEnumerable<Arrow> From(string room, string file, HashSet<string> rooms, ILookup<string, string> homes)
    {
        var code = NoCode().Replace(File.ReadAllText(file), "");
        // What a file opens it points at: a using directive that nothing needs is an error.
        var open = Using()
            .Matches(code)
            .Select(match => match.Groups[1].Value.Replace('.', '/'))
            .Where(rooms.Contains)
            .ToHashSet();
        var opened = open.Select(home => new Arrow(home, $"{Path.GetFileName(file)} opens {home}")).ToList();
        // A namespace sees what is in those around it.
        for (var around = room; around.Contains('/', StringComparison.Ordinal); )
            open.Add(around = around[..around.LastIndexOf('/')]);
        var named =
            from match in Name().Matches(Using().Replace(code, ""))
            from home in homes[match.Groups["name"].Value]
            let before = match.Groups["before"]
            where before.Success ? before.Value == home.Split('/')[^1] : open.Contains(home)
            select new Arrow(home, $"{Path.GetFileName(file)} names {match.Groups["name"].Value}");
        return opened.Concat(named).Where(arrow => arrow.Target != room);
    }

    private static List<(string Room, string[] Targets)> Drawn() =>
        [
            .. File.ReadLines(Map)
                .Select(line => Row().Match(line))
                .Where(match => match.Success)
                .Select(match =>
                    (match.Groups[1].Value, match.Groups[3].Value.Split(", ", StringSplitOptions.RemoveEmptyEntries))
                ),
        ];

    private static void Write(Dictionary<string, List<Arrow>> arrows) =>
        File.WriteAllLines(
            Map,
            [
                .. File.ReadAllLines(Map)
                    .Select(line =>
                        Row().Match(line) is { Success: true } row && arrows.TryGetValue(row.Groups[1].Value, out var found)
                            ? $"| `{row.Groups[1].Value}` | {row.Groups[2].Value} | "
                                + string.Join(", ", found.Select(arrow => arrow.Target).Distinct().Order(StringComparer.Ordinal))
                                + " |"
                            : line
                    ),
            ]
        );

    [GeneratedRegex(@"/(obj|bin|Runtime)/")]
    private static partial Regex BuiltOrGiven();

    /// <summary>Comments and texts.</summary>
    [GeneratedRegex("//[^\n]*|\"\"\"(.|\n)*?\"\"\"|\"(\\\\.|[^\"\\\\\n])*\"")]
    private static partial Regex NoCode();

    [GeneratedRegex(@"^using (?:static )?Jexa\.([\w.]+);$", RegexOptions.Multiline)]
    private static partial Regex Using();

    [GeneratedRegex(@"(?:(?<=\b(?<before>\w+)\.)|(?<![\w.]))(?<name>[A-Z]\w*)\b")]
    private static partial Regex Name();

    [GeneratedRegex(@"^\| `([A-Z]\w*(?:/\w+)*)` \| (.*?) \| ?(.*?) ?\|$")]
    private static partial Regex Row();

    /// <param name="Target">The folder that is pointed at.</param>
    /// <param name="Why">Which file points at it, by which name.</param>
    private sealed record Arrow(string Target, string Why)
    {
        public override string ToString() => Why;
    }
}
