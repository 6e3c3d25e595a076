using NetArchTest.Rules;

namespace Jexa.Sources.Tests;

/// <summary>Holds the arrows between the rooms of the code, as docs/map.md draws them.</summary>
public class ArchitectureTests
{
    private static readonly System.Reflection.Assembly Core = typeof(Core.Sites.Site).Assembly;

    [Fact]
    public void Core_points_at_nothing_of_ours_and_knows_no_HTTP_and_no_SQL() =>
        Holds(Types.InAssembly(Core).ShouldNot().HaveDependencyOnAny(
            "Jexa.Sources", "Jexa.Service", "Jexa.Cli", "Microsoft.AspNetCore", "Microsoft.Data", "SQLitePCL", "System.Net.Http", "Serilog"));

    [Fact]
    public void Sources_point_at_Core_alone() =>
        Holds(Types.InAssembly(typeof(Sqlite.SqliteEngine).Assembly).ShouldNot().HaveDependencyOnAny("Jexa.Service", "Jexa.Cli", "Microsoft.AspNetCore"));

    [Fact]
    public void The_service_does_not_know_the_command_line() =>
        Holds(Types.InAssembly(typeof(Service.JexaService).Assembly).ShouldNot().HaveDependencyOnAny("Jexa.Cli", "System.CommandLine", "Spectre.Console"));

    [Theory]
    [InlineData("Values", "Definitions Schemas Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Edits", "Definitions Plans Views Sites Visits")]
    [InlineData("Definitions", "Schemas Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Schemas", "Definitions Keys Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Keys", "Definitions Addresses Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Addresses", "Definitions Schemas Keys Plans Sources Formats Views Edits Sites Visits")]
    [InlineData("Plans", "Definitions Schemas Keys Addresses Sources Formats Views Edits Sites Visits")]
    [InlineData("Sources", "Definitions Keys Addresses Formats Views Edits Sites Visits")]
    [InlineData("Formats", "Definitions Schemas Keys Addresses Plans Sources Views Edits Sites Visits")]
    [InlineData("Views", "Definitions Plans Sources Sites Visits")]
    [InlineData("Sites", "Visits")]
    public void Inside_Core_arrows_run_one_way(string room, string others) =>
        Holds(Types.InAssembly(Core).That().ResideInNamespace($"Jexa.Core.{room}").ShouldNot()
            .HaveDependencyOnAny([.. others.Split(' ').Select(other => $"Jexa.Core.{other}")]));

    /// <summary>The build holds the other rules of formatting (IDE0055); it does not look at usings.</summary>
    [Fact]
    public void Usings_are_sorted_with_those_of_System_first()
    {
        Assert.DoesNotContain(Code("src", "tests", "bench"), file =>
        {
            var usings = File.ReadLines(file).TakeWhile(line => !line.StartsWith("namespace", StringComparison.Ordinal))
                .Where(line => line.StartsWith("using ", StringComparison.Ordinal) && !line.Contains('='))
                .Select(line => line["using ".Length..].TrimEnd(';')).ToList();
            return !usings.SequenceEqual(usings.OrderBy(name => name.StartsWith("static ", StringComparison.Ordinal)).ThenBy(name => name.Split('.')[0] != "System")
                .ThenBy(name => name.Replace('.', '\0'), StringComparer.OrdinalIgnoreCase));
        });
    }

    private static IEnumerable<string> Code(params string[] folders) =>
        folders.SelectMany(folder => Directory.EnumerateFiles(Repository.File(folder), "*.cs", SearchOption.AllDirectories))
            .Where(file => !file.Contains("/obj/", StringComparison.Ordinal) && !file.Contains("/bin/", StringComparison.Ordinal));

    /// <summary>
    /// Whoever opens and closes a database file drops the locks of the whole process on it. All files are read and written through
    /// <c>PlainFile</c>, which refuses databases; what opens files by itself is listed here, with files that are never databases.
    /// </summary>
    [Fact]
    public void Nothing_but_PlainFile_opens_files()
    {
        var opens = new System.Text.RegularExpressions.Regex(
            @"new FileStream\(|\bFile\.(Open|Read|Write|Append|Create|Copy)|new Stream(Reader|Writer)\((?!stream|OpenRead)|FileInfo\([^)]*\)\.Open|MemoryMappedFile");
        var found = Code("src")
            .SelectMany(file => File.ReadLines(file).Where(line => opens.IsMatch(line.Replace("PlainFile.OpenRead", "OpenRead", StringComparison.Ordinal).Replace("PlainFile.", "", StringComparison.Ordinal)))
                .Select(_ => Path.GetRelativePath(Repository.File("src"), file))).Distinct().Order();
        Assert.Equal(["Jexa.Core/Files/PlainFile.cs", "Jexa.Service/State/StateTurn.cs", "Jexa.Sources/Sqlite/StoreFolder.cs"], found);
    }

    /// <summary>Every query says whether its rows are those that a visitor may see; who reads all rows is listed here, and why.</summary>
    [Fact]
    public void Only_those_who_tell_visitors_nothing_read_rows_that_may_not_be_seen()
    {
        Assert.Equal(
            [
                "Drafts/RelationGuess.cs", "Drafts/TableSample.cs", // what a draft is made of, for the developer alone
                "Sites/ChangeCompiler.cs", // the record that is changed, as it is
                "Sites/EditCompiler.cs", // tables that are no record kind of the app: how many rows refer to a record
                "Sites/FormCompiler.cs", // what the source keeps unique, and tables that are no record kind
                "Sites/Lookups.cs", // tells hidden from unknown, to the developer alone
            ], Using("RecordRows.Whole("));
        Assert.Equal(["Sites/Site.cs", "Sites/VisibilityCompiler.cs"], Using("RecordRows.Seen("));

        static IEnumerable<string> Using(string words) => Code("src").Where(file => File.ReadAllText(file).Contains(words, StringComparison.Ordinal))
            .Select(file => Path.GetRelativePath(Repository.File("src/Jexa.Core"), file)).Order();
    }

    private static void Holds(ConditionList rule)
    {
        var result = rule.GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }
}
