using System.Diagnostics;
using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Values;
using Jexa.Service.Hosting;
using Microsoft.Data.Sqlite;

namespace Jexa.Bench.Visits;

/// <summary>What grows with the number of pages, and what must not: matching, building, compiling.</summary>
internal static class Scale
{
    private const int Times = 300_000;

    public static async Task RunAsync()
    {
        Console.WriteLine($"{"pages", 8} {"match µs", 10} {"bytes", 6} {"build µs", 10} {"bytes", 6}");
        foreach (var pages in (int[])[10, 1_000, 10_000])
            await MatchAndBuildAsync(pages);
        Console.WriteLine();
        Console.WriteLine($"{"pages", 8} {"compile ms", 10}");
        foreach (var pages in (int[])[10, 100, 1_000])
            Console.WriteLine($"{pages, 8} {await CompileAsync(pages), 10:N0}");
    }

    private static async Task MatchAndBuildAsync(int pages)
    {
        var tree = new PathTree<string>();
        var builders = new List<AddressBuilder>();
        for (var i = 0; i < pages / 2; i++)
        {
            Add($"/kind{i}");
            Add($"/kind{i}/{{id}}");
        }

        // Targets spread over all pages, so that no single path through the tree stays in the processor's cache.
        var random = new Random(1);
        var targets = Enumerable.Range(0, 256).Select(_ => RequestTarget.Read($"/kind{random.Next(pages / 2)}/4711")).ToArray();
        var at = 0;
        var (match, matchBytes) = await Stopper.TakeAsync(Times, () =>
            ValueTask.FromResult(tree.Match(targets[at++ & 255], 2).Count)
        );
        using var address = new Utf8Buffer(256);
        var (build, buildBytes) = await Stopper.TakeAsync(Times, () =>
        {
            address.Truncate(0);
            return ValueTask.FromResult(builders[((at++ & 255) * 2 % builders.Count) | 1].TryBuild(new OneId(), address) ? 1 : 0);
        });
        Console.WriteLine($"{pages, 8} {match, 10:N3} {matchBytes, 6} {build, 10:N3} {buildBytes, 6}");

        void Add(string path)
        {
            var template = PathTemplate.Parse(path, [])!;
            tree.Add(template, path);
            builders.Add(new AddressBuilder(template));
        }
    }

    /// <summary>
    /// Milliseconds to read and compile an app file of so many pages, half lists and half records, over as many tables as lists.
    /// </summary>
    private static async Task<double> CompileAsync(int pages)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            MakeTables(Path.Combine(folder, "data.db"), pages / 2);
            var file = Path.Combine(folder, "app.yaml");
            await File.WriteAllTextAsync(file, AppFile(pages / 2));
            var best = double.MaxValue;
            for (var round = 0; round < 5; round++)
            {
                await using var sources = SourceEngines.Open();
                var clock = Stopwatch.StartNew();
                var compilation = await AppFileCompiler.CompileAsync(file, sources, Mount.Root, CancellationToken.None);
                best = Math.Min(best, clock.Elapsed.TotalMilliseconds);
                if (compilation.Site?.Pages.Count != pages)
                    throw new InvalidOperationException(string.Join("\n", compilation.Findings.Take(5)));
            }

            return best;
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    internal static void MakeTables(string database, int tables)
    {
        using var connection = new SqliteConnection($"Data Source={database};Pooling=False");
        connection.Open();
        using var making = connection.CreateCommand();
        making.CommandText = string.Concat(
            Enumerable
                .Range(0, tables)
                .Select(i =>
                    $"CREATE TABLE kind{i} (id INTEGER PRIMARY KEY, name TEXT NOT NULL, code TEXT UNIQUE, made_on DATE, size REAL"
                    + (i == 0 ? ");" : $", parent INTEGER REFERENCES kind{i - 1} (id));")
                )
        );
        making.ExecuteNonQuery();
    }

    internal static string AppFile(int kinds)
    {
        var text = new StringBuilder("app: Bench\nsources: { s: { engine: sqlite, connection: data.db } }\nrecords:\n");
        for (var i = 0; i < kinds; i++)
            text.Append($"  kind{i}: {{ from: s.kind{i}, label: name }}\n");
        text.Append("pages:\n");
        for (var i = 0; i < kinds; i++)
            text.Append(
                    $"  list{i}:\n    path: /kind{i}\n    list: kind{i}\n    order: [name]\n    links:\n      - {{ "
                        + $"to: one{i}, column: name }}\n"
                )
                .Append($"  one{i}: {{ path: \"/kind{i}/{{id}}\", detail: kind{i} }}\n");
        return text.ToString();
    }

    private readonly struct OneId : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(4711);
            return true;
        }
    }
}
