using System.Diagnostics;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Files;

namespace Jexa.Bench.Visits;

/// <summary>A CSV file of a million rows: how long it takes to be taken up, and to answer by key.</summary>
internal static class Files
{
    private const int Rows = 1_000_000;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bench-").FullName;
        try
        {
            await using (var file = File.CreateText(Path.Combine(folder, "station.csv")))
            {
                await file.WriteLineAsync("code,name,opened,level");
                for (var i = 0; i < Rows; i++)
                    await file.WriteLineAsync($"S-{i:D7},Station {i},20{i % 25:D2}-0{(i % 9) + 1}-11,{i % 1000 / 10m}");
            }

            await using var source = new FilesEngine().Open(
                new SourceSettings("files", folder, "stations", "/", TimeSpan.FromMinutes(5)) { DeclaredKeys = "station: code" }
            );
            var clock = Stopwatch.StartNew();
            var schema = await source.DescribeAsync(CancellationToken.None);
            Console.WriteLine($"taken up:    {clock.Elapsed.TotalSeconds:N1} s for {schema.Tables[0].AboutRows:N0} rows");
            var query = source.Prepare(
                new RecordQuery(
                    RecordRows.Whole(RowOrigin.Of("station")),
                    [],
                    [new Projection(ColumnRef.Own("name"), FieldType.Text)],
                    [new Condition.Equal(ColumnRef.Own("code"), new Operand.Argument(0, FieldType.Text))],
                    null,
                    [],
                    2
                )
            );
            var rows = new RowBlock();
            var random = new Random(1);
            var (took, _) = await Stopper.TakeAsync(50_000, async () =>
            {
                rows.Reset(1);
                await query.RunAsync([new TypedValue.Text($"S-{random.Next(Rows):D7}")], rows, CancellationToken.None);
                return rows.Count;
            });
            Console.WriteLine($"one by key:  {took:N1} µs");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
