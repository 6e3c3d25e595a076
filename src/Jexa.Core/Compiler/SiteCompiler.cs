using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Views;

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

    /// <summary>Reads and compiles an app file.</summary>
    /// <param name="file">Its name for findings. Relative connections start from its folder.</param>
    public async Task<Compilation> CompileAsync(string file, ReadOnlyMemory<byte> bytes, CancellationToken cancellation)
    {
        var findings = new FindingList();
        var definition = AppFileReader.Read(file, bytes.Span, findings);
        if (definition is null)
            return new Compilation(null, null, findings.All, bytes);
        definition = Placed(definition);
        var found = await new SourceCompiler(sources, environment, definition).CompileAsync(findings, cancellation);
        var site = Compile(definition, found.ToDictionary(source => source.Name, DescribedSource.Of), findings);
        var serves =
            site.Waiting.Count > 0
                ? findings.All.All(finding => finding.Code.Severity != Severity.Error || finding.Code == FindingCodes.SourceAway)
                    && (
                        site.Pages.Any(page => page.Record is not null)
                        || found.Any(source => source is { Absence.IsSettled: false })
                    )
                : !findings.HasErrors;
        return new Compilation(
            serves ? site with { Findings = findings.All, Sources = found } : null,
            definition,
            findings.All,
            bytes
        )
        {
            Sources = found,
        };
    }

    private AppDefinition Placed(AppDefinition definition)
    {
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

    private Site Compile(AppDefinition definition, Dictionary<string, DescribedSource?> described, FindingList findings)
    {
        var frameCompiler = new FrameCompiler(definition, findings);
        var conventions = frameCompiler.Conventions();
        var recordCompiler = new RecordCompiler(described, definition.Records, conventions, definition.Folder, findings);
        var records = definition.Records.ToDictionary(record => record.Name.Value, recordCompiler.Compile);
        var kinds = VisibilityCompiler.Complete([.. records.Values.OfType<SiteRecord>()]);
        foreach (var kind in kinds)
            records[kind.Name] = kind;
        var graph = new RecordGraph(kinds);
        foreach (var kind in kinds)
        {
            foreach (
                var hole in kind.Label.Select(hole => hole.Field).OfType<Written>().Where(hole => kind.Find(hole.Value) is null)
            )
                if (graph.Find(hole, kind, "a label", findings) is { } far)
                    kind.LabelPaths[hole.Value] = far;
        }

        CheckSecretKeys(definition, kinds, graph, findings);
        var filters = new FilterCompiler(graph, conventions, findings);

        var headCompiler = new HeadCompiler(records, graph, filters, mount.Text, findings);
        var heads = definition.Pages.ToDictionary(page => page.Name.Value, headCompiler.Compile);
        var paths = new PathTree<Page>();
        foreach (
            var head in headCompiler.Compare([.. heads.Values.OfType<PageHead>()], head =>
                address => LeadsTo(paths, head, address)
            )
        )
            heads[head.Name] = head;

        var links = new LinkCompiler(heads, graph, conventions, mount.Text, findings);
        var rows = new RowCompiler(graph, links, mount.Text, findings);
        var trails = new TrailCompiler(heads, graph, links);
        var parents = new ParentCompiler(graph, trails);
        var lists = new ListCompiler(heads, graph, filters, links, rows, trails, parents, findings);
        var details = new DetailCompiler(
            heads,
            graph,
            filters,
            rows,
            trails,
            new BlockCompiler(heads, records, graph, filters, links, rows, lists, findings),
            findings
        );
        var changes = new ChangeCompiler(
            heads,
            links,
            trails,
            described,
            definition.Records,
            HomeOf(definition, heads),
            findings
        );
        var edits = new EditCompiler(
            heads,
            kinds,
            described,
            filters,
            links,
            rows,
            trails,
            parents,
            details,
            new FormCompiler(graph, rows, changes, definition.Records, conventions, findings),
            changes,
            findings
        );
        var pages = heads
            .Values.OfType<PageHead>()
            .Select(head =>
                head.Definition.Kind switch
                {
                    PageKind.List => lists.Compile(head),
                    PageKind.Detail => (Page)details.Compile(head),
                    PageKind.Edit => edits.Edit(head),
                    PageKind.New => edits.New(head),
                    PageKind.Delete => edits.Delete(head),
                    PageKind.Text => Text(head, frameCompiler, findings),
                    var other => throw new UnreachableException($"Nothing compiles a page of kind {other}."),
                }
            )
            .ToList();
        foreach (var page in pages.OfType<TextPage>().Where(page => page.Head.Definition.ShowsLists))
            page.Lists = ListIndex.Of(pages);
        foreach (var page in pages)
            paths.Add(page.Head.Template, page);
        var former = pages
            .SelectMany(page =>
                headCompiler.Former(page.Head, [.. pages.Select(p => p.Head)]).Select(head => new FormerPage(head, page))
            )
            .ToList();
        foreach (var page in former)
            paths.Add(page.Head.Template, page);
        var away = definition
            .Records.Where(record => described.TryGetValue(record.Source.Value, out var source) && source is null)
            .ToDictionary(record => record.Name.Value, record => record.Source.Value);
        var waiting = definition
            .Pages.Where(page => heads[page.Name.Value] is null && away.ContainsKey(page.Record.Value))
            .ToList();
        foreach (var page in waiting)
        foreach (var head in headCompiler.Waiting(page))
            paths.Add(head.Template, new WaitingPage(head, away[page.Record.Value]));
        foreach (var link in definition.Pages.Where(page => heads[page.Name.Value] is null).SelectMany(page => page.Links))
            links.Check(link);

        foreach (
            var source in definition.Sources.Where(source =>
                source.Writing?.Value == "bare"
                && pages.Exists(page => page.Head.Definition.Writes && page.Record?.SourceName == source.Name.Value)
            )
        )
            findings.Add(
                FindingCodes.WritesUnnoted,
                source.Writing!.At,
                $"Nothing in “{source.Name}” tells whether a change was made that Jexa did not live to see: such "
                    + "changes stay undetermined.",
                "Let Jexa keep its table jexa_commit there: remove writing: bare.",
                found: "bare",
                expected: "noted"
            );
        var home = Standalone(definition.Home, "the home page", heads, pages, findings)
            ?? (
                definition.Home is null && !waiting.Exists(page => page.Kind == PageKind.List)
                    ? pages.Find(page => page is ListPage && page.Head.AddressWithoutParameters is not null)
                    : null
            );
        var notFound = Standalone(definition.NotFound, "the page for what is not found", heads, pages, findings) as TextPage;
        if (definition.NotFound is { } named && notFound is null && heads.ContainsKey(named.Value))
            findings.Add(
                FindingCodes.KeyOfOtherPageKind,
                named.At,
                $"“{named}” is no text page.",
                "Name a text page.",
                found: named.Value,
                expected: "a text page"
            );
        var menu = Menu(pages, notFound);
        var texts = frameCompiler.Texts(kinds);
        var frame = new PageFrame(
            definition.Title.Value,
            home?.Head.OpenAddress ?? $"{mount}/",
            mount,
            menu,
            conventions,
            texts,
            pages
                .Where(page => page.Head.AddressWithoutParameters is not null)
                .ToDictionary(page => page.Name, page => page.Head.OpenAddress!)
        );
        var around = new List<(Written At, string Text)>();
        if (definition.Frame.Header is { } header)
            around.Add((header, texts.Header));
        if (definition.Frame.Footer is { } footer)
            around.Add((footer, texts.Footer));
        new SiteReview(definition, heads, pages, paths, mount, findings).Check(
            around,
            menu.Select(link => link.Page).Concat(new[] { home?.Name, notFound?.Name }.OfType<string>())
        );
        return new Site(
            definition.File,
            frame,
            home,
            notFound,
            pages,
            paths,
            MediaCompiler.Compile(kinds),
            definition.Origins.Concat(definition.Writers).Select(origin => origin.Value).ToHashSet(),
            []
        )
        {
            Former = former,
            Unwritten = links.UnwrittenPages,
            Writers = definition.Writers.Select(origin => origin.Value).ToHashSet(),
            Waiting = [.. waiting.Select(page => page.Name.Value)],
            Changes = kinds
                .Where(kind => pages.Exists(page => page.Record == kind && page.Head.Definition.Writes))
                .ToDictionary(kind => kind.Name, kind => changes.Compile(kind, null)),
        };
    }

    /// <summary>
    /// The address of the home page itself, where a message after a change is shown, not the root that redirects to it.
    /// </summary>
    private string HomeOf(AppDefinition definition, Dictionary<string, PageHead?> heads)
    {
        var named = definition.Home is { } name ? heads.GetValueOrDefault(name.Value) : null;
        return (
            named
            ?? heads.Values.FirstOrDefault(head => head is { Definition.Kind: PageKind.List, AddressWithoutParameters: not null })
        )?.OpenAddress
            ?? $"{mount}/";
    }

    /// <summary>
    /// A foreign key holds the value of the column that it refers to. If that column is secret, the foreign key must be too.
    /// </summary>
    private static void CheckSecretKeys(
        AppDefinition definition,
        IReadOnlyList<SiteRecord> kinds,
        RecordGraph graph,
        FindingList findings
    )
    {
        foreach (var kind in kinds)
        {
            foreach (var step in graph.Steps(kind))
            {
                foreach (var (own, theirs) in step.Key.Columns.Zip(step.Key.References))
                {
                    var (field, secret) = (
                        kind.Fields.First(one => one.Column.Name == own),
                        step.Other.Fields.First(one => one.Column.Name == theirs)
                    );
                    if (!secret.Secret || field.Secret)
                        continue;
                    var said = definition.Records.First(record => record.Name.Value == kind.Name);
                    var at = said.Fields.FirstOrDefault(one => one.Name.Value == field.Name)?.Name.At ?? said.Name.At;
                    findings.Add(
                        FindingCodes.SecretShown,
                        at,
                        $"{field.Name} of {kind.Name} holds what {secret.Name} of {step.Other.Name} holds, which is secret.",
                        $"Make it secret as well: fields: {{ {field.Name}: {{ secret: true }} }}",
                        found: field.Name,
                        expected: "a field that is secret"
                    );
                }
            }
        }
    }

    private static TextPage Text(PageHead head, FrameCompiler frame, FindingList findings)
    {
        var source = frame.TextOf(head.Definition.Text) ?? "";
        foreach (
            var text in new[]
            {
                head.Definition.Title,
                new Written(source, head.Definition.Text!.At) { IsOneRun = false },
            }.OfType<Written>()
        )
        foreach (var name in TextPage.Holes(text.Value).Where(name => !head.Template.Parameters.Contains(name)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                text with
                {
                    Value = name,
                },
                $"parameter in the path {head.Definition.Path} called",
                head.Template.Parameters
            );
        return new TextPage(head, head.Definition.Title?.Value ?? Formats.Labels.OfPage(head.Name), source);
    }

    /// <summary>
    /// Lists and texts without required parameters: first those with a place in the menu, then the others in the order of the
    /// file.
    /// </summary>
    private static List<PlainLink> Menu(List<Page> pages, Page? notFound) =>
        [
            .. pages
                .Where(page =>
                    page is ListPage or TextPage
                    && page != notFound
                    && page.Head.AddressWithoutParameters is not null
                    && !page.Head.Definition.Menu.IsHidden
                )
                .OrderBy(page => page.Head.Definition.Menu.Place ?? int.MaxValue)
                .Select(page => new PlainLink(page.Name, page.Head.Heading, page.Head.OpenAddress!)),
        ];

    /// <summary>A page that must not require parameters.</summary>
    private static Page? Standalone(
        Written? name,
        string what,
        Dictionary<string, PageHead?> heads,
        List<Page> pages,
        FindingList findings
    )
    {
        if (name is null)
            return null;
        if (!heads.ContainsKey(name.Value))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, name, "page", heads.Keys);
            return null;
        }

        var page = pages.Find(page => page.Name == name.Value);
        if (page is null || page.Head.AddressWithoutParameters is not null)
            return page;
        findings.Add(
            FindingCodes.PageNeedsParameters,
            name.At,
            $"The page “{name}” cannot be {what}: it needs an ID.",
            "Name a list.",
            found: name.Value,
            expected: "a page without parameters"
        );
        return null;
    }

    /// <summary>Whether an address built for a page matches that page and no other.</summary>
    private bool LeadsTo(PathTree<Page> paths, PageHead head, string address)
    {
        var target = RequestTarget.Read(address, mount);
        return target.Fault == TargetFault.None
            && paths.Match(target, target.Segments.Length).Any(page => page.Name == head.Name);
    }
}
