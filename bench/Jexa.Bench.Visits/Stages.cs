using Jexa.Core.Addresses;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Traces;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Html;

namespace Jexa.Bench.Visits;

/// <summary>Where the time of a visit goes, without HTTP: microseconds and allocated bytes of each stage.</summary>
internal static class Stages
{
    public static async Task RunAsync(string appFile, string list, string detail)
    {
        await using var sources = SourceEngines.Open();
        var compilation = await AppFileCompiler.CompileAsync(appFile, sources, Mount.Root, CancellationToken.None);
        var site = compilation.Site ?? throw new InvalidOperationException("The app file makes no site.");
        var runner = new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings());
        var html = new HtmlPageWriter("bench");
        var log = new VisitLog();

        Console.WriteLine($"{"stage", -34} {"µs", 10} {"bytes", 10}");
        await SayAsync("read a target", 200_000, () => ValueTask.FromResult(RequestTarget.Read(detail).Segments.Length));
        var target = RequestTarget.Read(detail);
        await SayAsync("match it", 500_000, () => ValueTask.FromResult(site.Paths.Match(target, target.Segments.Length).Count));
        await SayAsync("visit a detail page", 100_000, () => VisitAsync(detail, write: false, keep: false));
        await SayAsync("visit it and keep the trace", 100_000, () => VisitAsync(detail, write: false, keep: true));
        await SayAsync("visit it, write HTML, keep it", 100_000, () => VisitAsync(detail, write: true, keep: true));
        await SayAsync("visit a list", 5_000, () => VisitAsync(list, write: false, keep: false));
        await SayAsync("visit it, write HTML, keep it", 5_000, () => VisitAsync(list, write: true, keep: true));

        async ValueTask<int> VisitAsync(string raw, bool write, bool keep)
        {
            var trace = log.Begin("GET", raw, TimeProvider.System);
            var visit = new VisitRequest("GET", RequestTarget.Read(raw), Reader.Person, Principal.Anonymous.Value);
            using var answer = await runner.RunAsync(site, visit, trace, CancellationToken.None);
            using var body = new Utf8Buffer(16 * 1024);
            if (write)
                html.Write(answer.View!, trace.Page, "", body);
            if (keep)
                log.Add(trace);
            return body.Length;
        }
    }

    private static async Task SayAsync(string stage, int times, Func<ValueTask<int>> run)
    {
        var (microseconds, bytes) = await Stopper.TakeAsync(times, run);
        Console.WriteLine($"{stage, -34} {microseconds, 10:N2} {bytes, 10:N0}");
    }
}
