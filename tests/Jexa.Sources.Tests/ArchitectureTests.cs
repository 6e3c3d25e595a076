using NetArchTest.Rules;

namespace Jexa.Sources.Tests;

/// <summary>
/// Holds what each part of the program may know, and how its files are laid out. <see cref="RoomTests"/> holds the folders.
/// </summary>
public class ArchitectureTests
{
    private static readonly System.Reflection.Assembly Core = typeof(Core.Sites.Site).Assembly;

    [Fact]
    public void Core_points_at_nothing_of_ours_and_knows_no_HTTP_and_no_SQL() =>
        Holds(
            Types
                .InAssembly(Core)
                .ShouldNot()
                .HaveDependencyOnAny(
                    "Jexa.Sources",
                    "Jexa.Service",
                    "Jexa.Cli",
                    "Microsoft.AspNetCore",
                    "Microsoft.Data",
                    "SQLitePCL",
                    "System.Net.Http",
                    "Serilog"
                )
        );

    [Fact]
    public void Sources_point_at_Core_alone() =>
        Holds(
            Types
                .InAssembly(typeof(Sqlite.SqliteEngine).Assembly)
                .ShouldNot()
                .HaveDependencyOnAny("Jexa.Service", "Jexa.Cli", "Microsoft.AspNetCore")
        );

    [Fact]
    public void The_service_does_not_know_the_command_line() =>
        Holds(
            Types
                .InAssembly(typeof(Service.JexaService).Assembly)
                .ShouldNot()
                .HaveDependencyOnAny("Jexa.Cli", "System.CommandLine", "Spectre.Console")
        );

    /// <summary>
    /// The formatter lays out code. It breaks no comment and no text, so the width is held here. Raw texts of tests are data.
    /// </summary>
    [Fact]
    public void Lines_are_at_most_130_columns_wide()
    {
        foreach (var file in Code("src"))
        foreach (var line in File.ReadLines(file))
            Assert.True(line.Length <= Widest, $"{file}: {line}");
        foreach (
            var file in Code("tests", "bench", "demo").Where(file => !file.Contains("/clients/") && !file.Contains("/vectors/"))
        )
        {
            var isRaw = false;
            foreach (var line in File.ReadLines(file))
            {
                var marks = line.Split("\"\"\"").Length - 1;
                if (!isRaw && marks == 0)
                    Assert.True(line.Length <= Widest, $"{file}: {line}");
                if (marks % 2 == 1)
                    isRaw = !isRaw;
            }
        }
    }

    private const int Widest = 130;

    /// <summary>
    /// A reader finds a type by its name: each file has one, named like it. Files of <c>Clients/Runtime</c> are parts of what is
    /// written for programs.
    /// </summary>
    [Fact]
    public void Each_file_has_one_type_and_its_name()
    {
        var declared = new System.Text.RegularExpressions.Regex(
            @"^(?:[a-z]+ )*(?:class|interface|enum|struct|record|record struct|delegate \S+) (?<name>\w+)",
            System.Text.RegularExpressions.RegexOptions.Multiline
        );
        foreach (var file in Code("src").Where(file => !file.Contains("/Clients/Runtime/")))
        {
            var names = declared.Matches(File.ReadAllText(file)).Select(match => match.Groups["name"].Value).Distinct();
            Assert.True(
                names.All(name => name == Path.GetFileNameWithoutExtension(file)) && names.Count() <= 1,
                $"{file} has {string.Join(", ", names)}"
            );
        }
    }

    /// <summary>
    /// A method fits on a screen, and what travels together is a type. The formatter puts a method's braces in one column, so a
    /// body can be told by its lines. Records and primary constructors are such types themselves.
    /// </summary>
    [Fact]
    public void Methods_have_at_most_50_lines_and_6_parameters()
    {
        var large = new List<string>();
        foreach (var file in Code("src").Where(file => !file.Contains("/Clients/Runtime/")))
        {
            foreach (var method in Methods(File.ReadAllLines(file)))
                if (method.Lines > MostLines || method.Parameters > MostParameters)
                    large.Add($"{file}: {method.Head} has {method.Lines} lines and {method.Parameters} parameters.");
        }
        Assert.True(large.Count == 0, string.Join("\n", large));
    }

    private const int MostLines = 50;

    private const int MostParameters = 6;

    private sealed record Method(string Head, int Lines, int Parameters);

    /// <summary>The methods of a file: heads that end with their parameters, and the lines between their braces.</summary>
    private static IEnumerable<Method> Methods(string[] lines)
    {
        var begins = new System.Text.RegularExpressions.Regex(
            @"^(?<in> {4}(?: {4})?)(?:(?:public|private|internal|protected|static|async|override|virtual|abstract|sealed|readonly"
                + @"|partial|extern) )+(?!.*\b(?:class|record|struct|interface|enum|delegate) )"
                + @"[^=;]*?\b\w+(?:<[^()]*>)?\((?<rest>.*)$"
        );
        for (var i = 0; i < lines.Length; i++)
        {
            if (begins.Match(lines[i]) is not { Success: true } head)
                continue;
            var parameters = new System.Text.StringBuilder(head.Groups["rest"].Value);
            var end = i;
            while (Depth(parameters.ToString()) >= 0 && end + 1 < lines.Length)
                parameters.Append(lines[++end].Trim());
            var brace = head.Groups["in"].Value + "{";
            var from = end + 1;
            var body = 0;
            if (from < lines.Length && lines[from] == brace)
                body = Array.IndexOf(lines, head.Groups["in"].Value + "}", from) - from - 1;
            yield return new Method(lines[i].Trim(), body, Count(parameters.ToString()));
        }
    }

    /// <summary>How many brackets a text leaves open that begins within one pair; negative if that one is closed.</summary>
    private static int Depth(string text) => text.Count(c => c == '(') - text.Count(c => c == ')');

    /// <summary>The parameters in a text that ends their list.</summary>
    private static int Count(string text)
    {
        var (depth, commas, any) = (0, 0, false);
        foreach (var c in text)
        {
            if (c is ')' && depth == 0)
                break;
            depth +=
                c is '(' or '<' or '[' or '{' ? 1
                : c is ')' or '>' or ']' or '}' ? -1
                : 0;
            commas += c == ',' && depth == 0 ? 1 : 0;
            any |= !char.IsWhiteSpace(c);
        }

        return any ? commas + 1 : 0;
    }

    private static IEnumerable<string> Code(params string[] folders) =>
        folders
            .SelectMany(folder => Directory.EnumerateFiles(Repository.File(folder), "*.cs", SearchOption.AllDirectories))
            .Where(file =>
                !file.Contains("/obj/", StringComparison.Ordinal) && !file.Contains("/bin/", StringComparison.Ordinal)
            );

    /// <summary>
    /// Whoever opens and closes a database file drops the locks of the whole process on it. All files are read and written
    /// through <c>PlainFile</c>, which refuses databases; what opens files by itself is listed here, with files that are never
    /// databases.
    /// </summary>
    [Fact]
    public void Nothing_but_PlainFile_opens_files()
    {
        var opens = new System.Text.RegularExpressions.Regex(
            @"new FileStream\(|\bFile\.(Open|Read|Write|Append|Create|Copy)|"
                + @"new Stream(Reader|Writer)\((?!stream|OpenRead)|FileInfo\([^)]*\)\.Open|MemoryMappedFile"
        );
        // As if each statement stood on one line.
        static string Joined(string code) => System.Text.RegularExpressions.Regex.Replace(code, @"\s*([().,])\s*", "$1");

        var found = Code("src")
            .Where(file =>
                opens.IsMatch(Joined(File.ReadAllText(file)).Replace("PlainFile.OpenRead", "OpenRead").Replace("PlainFile.", ""))
            )
            .Select(file => Path.GetRelativePath(Repository.File("src"), file))
            .Order();
        Assert.Equal(
            ["Jexa.Core/Files/PlainFile.cs", "Jexa.Service/State/StateTurn.cs", "Jexa.Sources/Stores/StoreFolder.cs"],
            found
        );
    }

    /// <summary>
    /// Every query says whether its rows are those that a visitor may see; who reads all rows is listed here, and why.
    /// </summary>
    [Fact]
    public void Only_those_who_tell_visitors_nothing_read_rows_that_may_not_be_seen()
    {
        Assert.Equal(
            [
                "Compiler/ChangeCompiler.cs", // the record that is changed, as it is
                "Compiler/EditCompiler.cs", // tables that are no record kind of the app: how many rows refer to a record
                "Compiler/FormCompiler.cs", // what the source keeps unique, and tables that are no record kind
                "Compiler/Lookups.cs", // tells hidden from unknown, to the developer alone
                "Compiler/Projections.cs", // the sweep, which tells hidden from missing
                "Compiler/UploadCompiler.cs", // whether any record names a file, told to nobody
                "Drafts/RelationGuess.cs",
                "Drafts/RowSample.cs", // the first rows of a table, for the developer alone
                "Drafts/TableSample.cs", // what a draft is made of, for the developer alone
            ],
            Using("RecordRows.Whole(")
        );
        Assert.Equal(["Compiler/VisibilityCompiler.cs", "Sites/SiteRecord.cs"], Using("RecordRows.Seen("));

        static IEnumerable<string> Using(string words) =>
            Code("src")
                .Where(file => File.ReadAllText(file).Contains(words, StringComparison.Ordinal))
                .Select(file => Path.GetRelativePath(Repository.File("src/Jexa.Core"), file))
                .Order();
    }

    private static void Holds(ConditionList rule)
    {
        var result = rule.GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }
}
