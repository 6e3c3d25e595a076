using System.Text.RegularExpressions;
using Jexa.Core.Addresses;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Jexa.Service.Html;

namespace Jexa.Bench.Visits;

/// <summary>
/// Pages of the demo as Jexa draws them, and by bodies that were written from them: time and allocated bytes of a visit with its
/// HTML, in turn in one run.
/// </summary>
internal static class Bodies
{
    private const int Rounds = 5;

    private static readonly (string Page, string Address, int Times)[] Pages =
    [
        ("bridges", "/bridges", 40),
        ("bridge", "/bridges/7", 200),
        ("district", "/districts/n%2Fw-moor", 200),
    ];

    public static async Task RunAsync(string demo)
    {
        var folder = Directory.CreateTempSubdirectory("jexa-bodies-").FullName;
        Directory.CreateSymbolicLink(Path.Combine(folder, "data"), Path.Combine(Path.GetFullPath(demo), "data"));
        foreach (var file in Directory.GetFiles(demo, "*.md"))
            File.Copy(file, Path.Combine(folder, Path.GetFileName(file)));
        var text = Regex.Replace(await File.ReadAllTextAsync(Path.Combine(demo, "bridges.yaml")), @"(?m)^    body: .*\n", "");
        var at = text.IndexOf("\npages:", StringComparison.Ordinal);
        await using var sources = SourceEngines.Open();
        var plain = await CompileAsync("plain.yaml", text);
        foreach (var (page, _, _) in Pages)
        {
            var html = HtmlBodyDraft.Of(plain.Find(page)!, plain.Frame)!;
            await File.WriteAllTextAsync(Path.Combine(folder, $"{page}.html"), html);
            text = text[..at] + Regex.Replace(text[at..], $@"(?m)^  {page}:\n", $"  {page}:\n    body: {page}.html\n");
        }

        var designed = await CompileAsync("designed.yaml", text);
        Console.WriteLine($"{"page", -14} {"built-in µs", 12} {"body µs", 10} {"ratio", 7} {"bytes", 9} {"bytes", 9}");
        foreach (var (page, address, times) in Pages)
        {
            var (built, own) = (new List<(double Time, long Bytes)>(), new List<(double Time, long Bytes)>());
            for (var round = 0; round < Rounds; round++)
            {
                built.Add(await Stopper.TakeAsync(times, () => VisitAsync(plain, address)));
                own.Add(await Stopper.TakeAsync(times, () => VisitAsync(designed, address)));
            }

            var (first, second) = (Median(built), Median(own));
            Console.WriteLine(
                $"{page, -14} {first.Time, 12:N1} {second.Time, 10:N1} {first.Time / second.Time, 7:N2} {first.Bytes, 9:N0} "
                    + $"{second.Bytes, 9:N0}"
            );
        }

        async Task<Site> CompileAsync(string name, string yaml)
        {
            var file = Path.Combine(folder, name);
            await File.WriteAllTextAsync(file, yaml);
            var compilation = await AppFileCompiler.CompileAsync(file, sources, Mount.Root, CancellationToken.None);
            return compilation.Partial ?? throw new InvalidOperationException("The demo makes no site.");
        }
    }

    private static readonly VisitRunner Runner = new(TimeProvider.System, new ListCursor(new byte[32]), new RuntimeFindings());
    private static readonly HtmlPageWriter Writer = new("bench");

    private static async ValueTask<int> VisitAsync(Site site, string address)
    {
        var trace = new VisitTrace("GET", address, TimeProvider.System);
        var visit = new VisitRequest("GET", RequestTarget.Read(address), Reader.Person, Principal.Anonymous.Value);
        using var answer = await Runner.RunAsync(site, visit, trace, CancellationToken.None);
        using var body = new Utf8Buffer(16 * 1024);
        Writer.Write(answer.View!, trace.Page, "", body);
        return body.Length;
    }

    private static (double Time, long Bytes) Median(List<(double Time, long Bytes)> taken) =>
        taken.OrderBy(one => one.Time).ElementAt(taken.Count / 2);
}
