using System.Diagnostics;
using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Compiler;
using Jexa.Core.Edits;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Views;
using Jexa.Core.Visits;
using Jexa.Service.State;
using Jexa.Sources.Sqlite;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Data.Sqlite;

namespace Jexa.Bench.Visits;

/// <summary>
/// What a save costs against a parameterised UPDATE by hand, both durable (a commit that has reached the disk), in turn. The
/// visit reads the ID, loads the record, validates, locks, compares, updates, reads back, writes the log, notes, commits and
/// confirms.
/// </summary>
internal static class Saves
{
    private const int Rounds = 400;
    private const int WarmUp = 1500;

    private const string App = """
        app: Saves
        sources: { s: { engine: sqlite, connection: saves.db } }
        records: { thing: { from: s.thing, label: name } }
        pages:
          things: { path: /things, list: thing }
          thing: { path: "/things/{id}", detail: thing }
          thing-edit: { path: "/things/{id}/edit", edit: thing }
        """;

    public static async Task RunAsync()
    {
        Console.WriteLine("a save, in microseconds      jexa    by hand   ratio");
        foreach (var mode in new[] { "DELETE", "WAL" })
        {
            var (jexa, hand) = await MeasureAsync(mode);
            Console.WriteLine(
                $"{(mode == "WAL" ? "write-ahead log, FULL" : "rollback journal (usual)"), -24} {jexa, 8:0} "
                    + $"{hand, 10:0} {jexa / hand, 7:0.00}"
            );
        }
    }

    private static async Task<(double Jexa, double Hand)> MeasureAsync(string mode)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            // Each has a file of its own: whoever removes the other's journal would be timed for it.
            Make(Path.Combine(folder, "saves.db"), mode).Dispose();
            using var by = Make(Path.Combine(folder, "hand.db"), mode);
            using var update = by.CreateCommand();
            update.CommandText = "UPDATE thing SET name = @name WHERE id = @id";
            var (name, id) = (update.Parameters.Add("@name", SqliteType.Text), update.Parameters.Add("@id", SqliteType.Integer));
            update.Prepare();

            await using var sources = new SourceRegistry([new SqliteEngine()]);
            var compilation = await new SiteCompiler(sources, _ => null, Mount.Root).CompileAsync(
                Path.Combine(folder, "app.yaml"),
                Encoding.UTF8.GetBytes(App),
                CancellationToken.None
            );
            var site = compilation.Site ?? throw new InvalidOperationException(string.Join('\n', compilation.Findings));
            using var log = new ChangeStore(Path.Combine(folder, "changes.db"), "bench", TimeProvider.System);
            var runner = new VisitRunner(
                TimeProvider.System,
                new ListCursor(new byte[32]),
                new RuntimeFindings(),
                new EditServices(log, new FormSeal(new EphemeralDataProtectionProvider()), new byte[32])
            );

            var (ours, theirs) = (new List<double>(), new List<double>());
            for (var i = -WarmUp; i < Rounds; i++)
            {
                var number = 1 + ((i + WarmUp) * 7919 % 10000);
                var body = await FormAsync(runner, site, number, $"Jexa {i}");
                var started = Stopwatch.GetTimestamp();
                await SaveAsync(runner, site, number, body);
                ours.Add(Stopwatch.GetElapsedTime(started).TotalMicroseconds);
                started = Stopwatch.GetTimestamp();
                (name.Value, id.Value) = ($"Hand {i}", 10001 - number);
                update.ExecuteNonQuery();
                theirs.Add(Stopwatch.GetElapsedTime(started).TotalMicroseconds);
            }

            return (Median([.. ours.Skip(WarmUp)]), Median([.. theirs.Skip(WarmUp)]));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static SqliteConnection Make(string database, string mode)
    {
        var connection = new SqliteConnection($"Data Source={database};Pooling=False");
        connection.Open();
        Run(
            connection,
            $"PRAGMA journal_mode={mode}; PRAGMA synchronous=FULL; CREATE TABLE thing (id INTEGER PRIMARY "
                + "KEY, code TEXT NOT NULL UNIQUE, name TEXT NOT NULL, grade INTEGER);"
                + "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 10000) INSERT INTO "
                + "thing SELECT i, 'C' || i, 'Thing ' || i, i % 7 FROM n"
        );
        return connection;
    }

    /// <summary>The form of a record, as a browser sends it back.</summary>
    private static async Task<byte[]> FormAsync(VisitRunner runner, Site site, int id, string name)
    {
        using var answer = await VisitAsync(runner, site, "GET", id, SentForm.None);
        var form = (FormView)answer.View!;
        return Encoding.ASCII.GetBytes(
            string.Join(
                '&',
                form.Inputs.Select(input => $"{input.Name}={Uri.EscapeDataString(input.Name == "name" ? name : input.Text)}")
                    .Append($"{SentForm.Contract}={form.Contract}")
                    .Append($"{SentForm.End}=1")
            )
        );
    }

    private static async Task SaveAsync(VisitRunner runner, Site site, int id, byte[] body)
    {
        using var answer = await VisitAsync(runner, site, "POST", id, SentForm.OfForm(body));
        if (answer.Outcome is not Outcome.Saved)
            throw new InvalidOperationException($"{answer.Outcome} {answer.Status}");
    }

    private static ValueTask<Answer> VisitAsync(VisitRunner runner, Site site, string method, int id, SentForm sent)
    {
        var target = $"/things/{id}/edit";
        var request = new VisitRequest(method, RequestTarget.Read(target), Reader.Person, Principal.Anonymous.Value)
        {
            Sent = sent,
            Visitor = "0123456789abcdef0123456789abcdef",
        };
        return runner.RunAsync(site, request, new VisitTrace(method, target, TimeProvider.System), CancellationToken.None);
    }

    private static void Run(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private static double Median(List<double> times)
    {
        times.Sort();
        return times[times.Count / 2];
    }
}
