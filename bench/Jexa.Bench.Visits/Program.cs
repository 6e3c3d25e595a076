using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service;
using Jexa.Service.Html;

// Where the time of a visit goes, without HTTP: microseconds and allocated bytes of each stage, best of several runs.
// Usage: visits APP_FILE LIST_ADDRESS DETAIL_ADDRESS
var sources = JexaService.OpenSources();
var compilation = await JexaService.CompileAsync(args[0], sources, Mount.Root, CancellationToken.None);
var site = compilation.Site ?? throw new InvalidOperationException("The app file makes no site.");
var runner = new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings());
var html = new HtmlPageWriter("bench");
var log = new VisitLog();
var (list, detail) = (args[1], args[2]);

Console.WriteLine($"{"stage",-34} {"µs",10} {"bytes",10}");
await Measure("read a target", 200_000, () => ValueTask.FromResult(RequestTarget.Read(detail).Segments.Length));
var target = RequestTarget.Read(detail);
await Measure("match it", 500_000, () => ValueTask.FromResult(site.Paths.Match(target, target.Segments.Length).Count));
await Measure("visit a detail page", 100_000, () => VisitAsync(detail, write: false, keep: false));
await Measure("visit it and keep the trace", 100_000, () => VisitAsync(detail, write: false, keep: true));
await Measure("visit it, write HTML, keep it", 100_000, () => VisitAsync(detail, write: true, keep: true));
await Measure("visit a list", 5_000, () => VisitAsync(list, write: false, keep: false));
await Measure("visit it, write HTML, keep it", 5_000, () => VisitAsync(list, write: true, keep: true));
await sources.DisposeAsync();

async ValueTask<int> VisitAsync(string raw, bool write, bool keep)
{
    var trace = new VisitTrace("GET", raw, TimeProvider.System) { Number = log.NextNumber() };
    using var answer = await runner.RunAsync(site, new VisitRequest("GET", RequestTarget.Read(raw), false, Principal.Anonymous.Value), trace, CancellationToken.None);
    using var body = new Utf8Buffer(16 * 1024);
    if (write) html.Write(answer.View!, body);
    if (keep) log.Add(trace);
    return body.Length;
}

static async Task Measure(string stage, int times, Func<ValueTask<int>> run)
{
    var (best, bytes) = (double.MaxValue, 0L);
    for (var round = 0; round < 8; round++)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        var started = Stopwatch.GetTimestamp();
        for (var i = 0; i < times; i++) await run();
        best = Math.Min(best, Stopwatch.GetElapsedTime(started).TotalMicroseconds / times);
        bytes = (GC.GetAllocatedBytesForCurrentThread() - before) / times;
    }

    Console.WriteLine($"{stage,-34} {best,10:N2} {bytes,10:N0}");
}
