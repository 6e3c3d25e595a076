using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Sources;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles an app file and the schemas of its sources into a site, and reports mistakes. Everything is checked here, once;
/// visits check nothing again.
/// </summary>
/// <param name="sources">Opens the sources.</param>
/// <param name="environment">Reads environment variables.</param>
/// <param name="mount">The prefix of all addresses.</param>
public sealed class SiteCompiler(SourceRegistry sources, Func<string, string?> environment, Mount mount)
{
    /// <summary>
    /// Base addresses of other programs in the app file, and their replacements in this run: a second demo on one machine has
    /// programs of its own. An empty text means that the program does not run; Jexa then draws its pages.
    /// </summary>
    public IReadOnlyDictionary<string, string> Instead { get; init; } = new Dictionary<string, string>();

    /// <summary>Whether an address is the app's own, as far as that is known before it is served.</summary>
    public Func<Uri, bool> IsOwn { get; init; } = _ => false;

    /// <summary>Connections by the names of sources, instead of those in the app file: to a replica, for example.</summary>
    public IReadOnlyDictionary<string, string> Connections { get; init; } = new Dictionary<string, string>();

    /// <summary>Reads and compiles an app file.</summary>
    /// <param name="file">Its name for findings. Relative connections start from its folder.</param>
    public Task<Compilation> CompileAsync(string file, ReadOnlyMemory<byte> bytes, CancellationToken cancellation) =>
        CompileAsync(file, bytes, new Dictionary<string, string>(), cancellation);

    /// <summary>Reads and compiles an app file of which a change is on trial.</summary>
    /// <param name="texts">What stands for the Markdown files of these names.</param>
    public async Task<Compilation> CompileAsync(
        string file,
        ReadOnlyMemory<byte> bytes,
        IReadOnlyDictionary<string, string> texts,
        CancellationToken cancellation
    )
    {
        var findings = new FindingList();
        var definition = AppFileReader.Read(file, bytes.Span, findings);
        if (definition is null)
            return new Compilation(null, null, findings.All, bytes);
        definition = Placed(definition) with { Texts = texts };
        CheckDrawn(definition, findings);
        var found = await new SourceCompiler(sources, environment, definition).CompileAsync(findings, cancellation);
        var described = found.ToDictionary(source => source.Name, DescribedSource.Of);
        var site = new SiteBuild(definition, described, mount, findings).Compile();
        if (!findings.HasErrors)
            await LabelReview.CheckAsync(
                definition,
                site.Kinds.Where(kind => IsThere(kind.SourceName, found)),
                findings,
                cancellation
            );
        var told = Told(definition, findings);
        site = site with { Findings = told, Sources = found };
        return new Compilation(CanServe(site, found, findings) ? site : null, definition, told, bytes)
        {
            Partial = site,
            Sources = found,
        };
    }

    /// <summary>The findings with the severities of the app file. Those of a file with errors are not all there yet.</summary>
    private static IReadOnlyList<Finding> Told(AppDefinition definition, FindingList findings)
    {
        var settings = new FindingSettings(definition.Settings);
        var told = settings.Apply(findings.All, definition);
        return findings.HasErrors || findings.Has(FindingCodes.SourceAway) || findings.Has(FindingCodes.SourceRemembered)
            ? told
            : [.. told.Concat(settings.Unused(code => !FindingCodes.IsMetLater(code))).OrderBy(one => one.At.Line)];
    }

    private static bool IsThere(string source, IReadOnlyList<SiteSource> found) =>
        found.Any(one => one.Name == source && one.Absence is null);

    /// <summary>Whether the site can be served: without errors, or with a part of it whose source may still answer.</summary>
    private static bool CanServe(Site site, IReadOnlyList<SiteSource> found, FindingList findings) =>
        site.Waiting.Count == 0
            ? !findings.HasErrors
            : findings.All.All(finding => finding.Code.Severity != Severity.Error || finding.Code == FindingCodes.SourceAway)
                && (
                    site.Pages.Any(page => page.Record is not null) || found.Any(source => source is { Absence.IsSettled: false })
                );

    /// <summary>Reports pages that would lead their visitors back to themselves, without end.</summary>
    private void CheckDrawn(AppDefinition definition, FindingList findings)
    {
        foreach (var page in definition.Pages)
            if (page.DrawnAt is { } at && IsOwn(new Uri(at.Value)))
                findings.Add(
                    FindingCodes.DrawnByItself,
                    at.At,
                    $"“{at}” is where this app itself is served: whoever opens the page “{page.Name}” is sent back to it.",
                    "Write the address of the program that draws the page, or remove drawn_at.",
                    found: at.Value,
                    expected: "the address of another program"
                );
    }

    private AppDefinition Placed(AppDefinition definition)
    {
        if (Connections.Count > 0)
            definition = definition with { Sources = [.. definition.Sources.Select(Connected)] };
        if (Instead.Count == 0)
            return definition;
        Written Place(Written text) => text with { Value = Instead.GetValueOrDefault(text.Value, text.Value) };
        return definition with
        {
            Origins = [.. definition.Origins.Select(Place).Where(origin => origin.Value.Length > 0)],
            Writers = [.. definition.Writers.Select(Place).Where(origin => origin.Value.Length > 0)],
            Sources = [.. definition.Sources.Select(source => source with { Connection = Place(source.Connection) })],
            Pages =
            [
                .. definition.Pages.Select(page =>
                    page with
                    {
                        DrawnAt = page.DrawnAt is { } at && Place(at) is { Value.Length: > 0 } placed ? placed : null,
                    }
                ),
            ],
        };
    }

    private SourceDefinition Connected(SourceDefinition source) =>
        Connections.TryGetValue(source.Name.Value, out var connection)
            ? source with
            {
                Connection = source.Connection with { Value = connection },
            }
            : source;
}
