using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Html;
using Microsoft.Data.Sqlite;

namespace Jexa.Bench.Visits;

/// <summary>Walking through a list of a million rows, ordered by a field that is neither unique nor always filled.</summary>
internal static class Walks
{
    private const int Rows = 1_000_000;
    private const int FarPage = 20_000;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            Make(Path.Combine(folder, "walks.db"));
            var file = Path.Combine(folder, "walks.yaml");
            await File.WriteAllTextAsync(
                file,
                """
                app: Walks
                sources: { s: { engine: sqlite, connection: walks.db } }
                records:
                  owner: { from: s.owner, label: name }
                  row: { from: s.row, label: name }
                  part: { from: s.part }
                  note: { from: s.note }
                  mark: { from: s.mark }
                pages:
                  rows: { path: "/rows{?kind}", list: row, show: [name, grade, kind], order: [grade], side: [kind] }
                  row: { path: "/rows/{id}", detail: row }
                  alone: { path: "/alone/{id}", detail: row, neighbours: hidden }
                  full: { path: "/full/{id}", detail: row, related: [part, note, mark] }
                  plain: { path: /plain, list: row, show: [name, grade, kind], order: [grade] }
                  owner: { path: "/owners/{id}", detail: owner, related: [row], neighbours: hidden }
                """
            );
            await using var sources = SourceEngines.Open();
            var site = (await AppFileCompiler.CompileAsync(file, sources, Mount.Root, CancellationToken.None)).Site!;
            var runner = new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings());
            var html = new HtmlPageWriter("bench");

            var far = "/plain";
            for (var page = 1; page < FarPage; page++)
                far = await NextAsync(far);
            var first = await TimeAsync(500, "/plain");
            var last = await TimeAsync(500, far);
            Console.WriteLine($"{"a million rows", -44} {"µs", 10} {"ratio", 7}");
            Say("page 1 of the list", first, null);
            Say($"page {FarPage:N0}", last, last / first);
            var alone = await TimeAsync(20_000, "/alone/500003");
            Say("a record by itself", alone, null);
            var row = await TimeAsync(20_000, "/rows/500003");
            Say("with the ones before and behind", row, row / alone);
            Say("with three related blocks as well", await TimeAsync(10_000, "/full/500003"), null);
            Say("a record with a million related ones", await TimeAsync(50, "/owners/1"), null);
            var counting = Stopwatch.GetTimestamp();
            await VisitAsync("/rows");
            Say("a side list of all, counted", Stopwatch.GetElapsedTime(counting).TotalMicroseconds, null);
            Say("the same while it is kept", await TimeAsync(500, "/rows"), null);
            Console.WriteLine($"queries of a record with three blocks: {(await VisitAsync("/full/500003")).Queries}");

            async Task<double> TimeAsync(int times, string address) =>
                (await Stopper.TakeAsync(times, async () => (await VisitAsync(address)).Queries)).Microseconds;

            async ValueTask<string> NextAsync(string address) => (await VisitAsync(address)).Next!;

            async ValueTask<(int Queries, string? Next)> VisitAsync(string raw)
            {
                var trace = new VisitTrace("GET", raw, TimeProvider.System);
                using var answer = await runner.RunAsync(
                    site,
                    new VisitRequest("GET", RequestTarget.Read(raw), Reader.Person, Principal.Anonymous.Value),
                    trace,
                    CancellationToken.None
                );
                if (answer.Status != 200)
                    throw new InvalidOperationException($"{raw}: {answer.Outcome}. {trace.Why}");
                using var body = new Utf8Buffer(16 * 1024);
                html.Write(answer.View!, trace.Page, "", body);
                return (trace.Queries.Count, (answer.View as ListView)?.Windows.Next);
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static void Say(string what, double microseconds, double? ratio) =>
        Console.WriteLine($"{what, -44} {microseconds, 10:N1} {(ratio is { } times ? times.ToString("0.00") : ""), 7}");

    private static void Make(string file)
    {
        using var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = $"""
            CREATE TABLE owner (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
            CREATE TABLE row (id INTEGER PRIMARY KEY, name TEXT NOT NULL, grade INTEGER, kind TEXT NOT NULL, owner INTEGER NOT NULL REFERENCES owner (id));
            CREATE TABLE part (id INTEGER PRIMARY KEY, row INTEGER NOT NULL REFERENCES row (id), name TEXT NOT NULL);
            CREATE TABLE note (id INTEGER PRIMARY KEY, row INTEGER NOT NULL REFERENCES row (id), name TEXT NOT NULL);
            CREATE TABLE mark (id INTEGER PRIMARY KEY, row INTEGER NOT NULL REFERENCES row (id), name TEXT NOT NULL);
            INSERT INTO owner VALUES (1, 'Everything');
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < {Rows})
              INSERT INTO row SELECT i, 'Row ' || i, CASE WHEN i % 20 > 0 THEN (i * 7919) % 1000 END, 'kind ' || (i % 12), 1 FROM n;
            WITH RECURSIVE n(i) AS (SELECT 499900 UNION ALL SELECT i + 1 FROM n WHERE i < 500100) INSERT INTO part (row, name) SELECT i, 'p' FROM n, (SELECT 1 UNION ALL SELECT 2 UNION ALL SELECT 3);
            INSERT INTO note (row, name) SELECT row, name FROM part;
            INSERT INTO mark (row, name) SELECT row, name FROM part;
            CREATE INDEX row_by_grade ON row (grade, id);
            CREATE INDEX row_by_owner ON row (owner, id);
            CREATE INDEX row_by_kind ON row (kind);
            CREATE INDEX part_by_row ON part (row, id);
            CREATE INDEX note_by_row ON note (row, id);
            CREATE INDEX mark_by_row ON mark (row, id);
            ANALYZE;
            """;
        command.CommandTimeout = 300;
        command.ExecuteNonQuery();
    }
}
