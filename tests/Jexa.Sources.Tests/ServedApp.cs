using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Sources.Tests;

/// <summary>Compiles apps over any engine and visits them; what a page shows is one line of text.</summary>
/// <param name="file">The app file's name: relative connections start from its folder.</param>
internal sealed class ServedApp(string file, Func<string, string?> environment, params ISourceEngine[] engines) : IAsyncDisposable
{
    private readonly SourceRegistry _sources = new(engines);
    private VisitRunner? _runner;

    public RuntimeFindings Findings { get; } = new();

    public Task<Compilation> CompileAsync(string app) =>
        new SiteCompiler(_sources, environment, Mount.Root).CompileAsync(
            file,
            Encoding.UTF8.GetBytes(app),
            CancellationToken.None
        );

    public async Task<Site> SiteAsync(string app)
    {
        var compilation = await CompileAsync(app);
        Assert.True(compilation.Site is not null, string.Join("\n", compilation.Findings));
        return compilation.Site;
    }

    /// <summary>The first column of a list's rows, the fields of a record, or how else the visit ended; and its trace.</summary>
    public async Task<(string Shown, VisitTrace Trace)> TraceAsync(Site site, string target)
    {
        _runner ??= new VisitRunner(TimeProvider.System, new ListCursor(new byte[32]), Findings);
        var trace = new VisitTrace("GET", target, TimeProvider.System);
        using var answer = await _runner.RunAsync(
            site,
            new VisitRequest("GET", RequestTarget.Read(target), Reader.Person, Principal.Anonymous.Value),
            trace,
            CancellationToken.None
        );
        return (Shown(answer), trace);
    }

    public async Task<string> VisitAsync(Site site, string target) => (await TraceAsync(site, target)).Shown;

    public ValueTask DisposeAsync() => _sources.DisposeAsync();

    private static string Shown(Answer answer)
    {
        if (answer.View is ListView list)
            return Valley.Names(list.Shape, list.Rows);
        if (answer.View is not DetailView detail)
            return answer.Location is null
                ? $"{answer.Outcome} {answer.Status}"
                : $"{answer.Outcome} {answer.Status} {answer.Location}";
        using var text = new Utf8Buffer();
        return string.Join(
            " | ",
            detail.Shape.Fields.Select(column =>
            {
                text.Truncate(0);
                column.WriteText(detail.Record, text);
                return text.ToString();
            })
        );
    }
}
