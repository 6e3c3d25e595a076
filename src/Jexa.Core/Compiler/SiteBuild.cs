using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles one app file into one site, step by step: records, heads of pages, pages, what is around them.</summary>
internal sealed class SiteBuild
{
    private readonly AppDefinition _definition;
    private readonly Dictionary<string, DescribedSource?> _described;
    private readonly Mount _mount;
    private readonly FindingList _findings;
    private readonly FrameCompiler _frames;
    private readonly Conventions _conventions;

    /// <summary>All record kinds by name; null for one that cannot be served.</summary>
    private readonly Dictionary<string, SiteRecord?> _records;

    /// <summary>The record kinds that can be served.</summary>
    private readonly IReadOnlyList<SiteRecord> _kinds;
    private readonly RecordGraph _graph;

    /// <summary>The record kinds whose table is not there yet, and its name.</summary>
    private readonly IReadOnlyDictionary<string, string> _awaited;

    private List<DesignedPage> _designed = [];
    private readonly PathTree<Page> _paths = new();
    private Dictionary<string, PageHead?> _heads = [];
    private List<Page> _pages = [];

    /// <param name="described">The sources by name; null for a source that is away.</param>
    /// <param name="mount">The prefix of all addresses.</param>
    public SiteBuild(AppDefinition definition, Dictionary<string, DescribedSource?> described, Mount mount, FindingList findings)
    {
        (_definition, _described, _mount, _findings) = (definition, described, mount, findings);
        _frames = new FrameCompiler(definition, findings);
        _conventions = _frames.Conventions();
        var compiler = new RecordCompiler(
            described,
            definition.Records,
            _conventions,
            definition.Folder,
            DesignedKinds(definition),
            findings
        );
        _records = definition.Records.ToDictionary(record => record.Name.Value, compiler.Compile);
        _awaited = compiler.Awaited;
        _kinds = VisibilityCompiler.Complete([.. _records.Values.OfType<SiteRecord>()]);
        foreach (var kind in _kinds)
            _records[kind.Name] = kind;
        _graph = new RecordGraph(_kinds);
    }

    public Site Compile()
    {
        FindLabels();
        SecretKeys.Check(_definition, _kinds, _graph, _findings);
        var filters = new FilterCompiler(_graph, _conventions, _findings);
        var headCompiler = new HeadCompiler(_records, _graph, filters, _mount.Text, _findings);
        CompileHeads(headCompiler);
        _designed = DesignedPages(headCompiler);
        var links = new LinkCompiler(_heads, _graph, _conventions, _mount.Text, _findings)
        {
            Designed = _designed.DistinctBy(page => page.Name).ToDictionary(page => page.Name, page => page.Head.Template),
        };
        var trails = new TrailCompiler(_graph, links);
        var changes = new ChangeCompiler(_heads, links, trails, _described, _definition.Records, HomeAddress(), _findings);
        var bodies = new BodyLinks(_definition, _heads, links, _findings);
        var rows = new RowCompiler(_graph, links, _mount.Text, _findings);
        CompilePages(filters, links, trails, changes, bodies, rows);
        var designs = Designs(bodies);
        var former = FormerPages(headCompiler);
        var waiting = WaitingPages(headCompiler);
        foreach (var link in _definition.Pages.Where(page => _heads[page.Name.Value] is null).SelectMany(page => page.Links))
            links.Check(link);
        CheckUnnotedWrites();
        var home = Home(waiting);
        var notFound = NotFound();
        var frame = Frame(home, notFound, designs);
        Review(frame, home, notFound);
        return new Site(
            _definition.File,
            frame,
            home,
            notFound,
            _pages,
            _paths,
            MediaCompiler.Compile(_kinds),
            _definition.Origins.Concat(_definition.Writers).Select(origin => origin.Value).ToHashSet(),
            []
        )
        {
            Former = former,
            Designed = _designed,
            Uploads = UploadCompiler.Lookups(_pages),
            Unwritten = links.UnwrittenPages,
            Writers = _definition.Writers.Select(origin => origin.Value).ToHashSet(),
            Waiting = [.. waiting.Select(page => page.Name.Value)],
            Kinds = _kinds,
            KindsCompiled = new(new KindCompiler(_graph, rows, links).Compile),
            Beside = bodies.Reader.Files,
            Changes = _kinds
                .Where(kind => _pages.Exists(page => page.Record == kind && page.Head.Definition.Writes))
                .ToDictionary(kind => kind.Name, kind => changes.Compile(kind, null)),
        };
    }

    /// <summary>Gives each page with HTML of its own that design.</summary>
    private BodyDesigns Designs(BodyLinks bodies)
    {
        var designs = new BodyDesigns(_definition, _heads, bodies, _mount.Text, _findings);
        foreach (var page in _pages)
            page.Body = designs.Of(page);
        foreach (var page in _designed)
            page.Body = designs.Sample(page);
        return designs;
    }

    /// <summary>Looks up the fields of other records in labels.</summary>
    private void FindLabels()
    {
        foreach (var kind in _kinds)
        foreach (var hole in kind.Label.Select(hole => hole.Field).OfType<Written>().Where(hole => kind.Find(hole.Value) is null))
            if (_graph.Find(hole, kind, "a label", _findings) is { } far)
                kind.LabelPaths[hole.Value] = far;
    }

    private void CompileHeads(HeadCompiler compiler)
    {
        _heads = _definition.Pages.ToDictionary(page => page.Name.Value, compiler.Compile);
        var compared = new AddressOverlaps(_findings).Compare([.. _heads.Values.OfType<PageHead>()], head =>
            address => LeadsTo(head, address)
        );
        foreach (var head in compared)
            _heads[head.Name] = head;
    }

    /// <summary>Compiles all pages and puts them into the tree of paths. A new kind of page has its line here.</summary>
    private void CompilePages(
        FilterCompiler filters,
        LinkCompiler links,
        TrailCompiler trails,
        ChangeCompiler changes,
        BodyLinks bodies,
        RowCompiler rows
    )
    {
        var (parents, orders) = (new ParentCompiler(_graph, trails), new OrderCompiler(_graph, _findings));
        var lists = new ListCompiler(_heads, _graph, filters, links, rows, trails, parents, bodies, _findings);
        var blocks = new BlockCompiler(_heads, _records, _graph, filters, links, rows, orders, _findings);
        var details = new DetailCompiler(_heads, _graph, filters, rows, trails, blocks, bodies, _findings);
        var forms = new FormCompiler(_graph, rows, changes, _definition.Records, _conventions, _findings);
        var edits = new EditCompiler(
            _heads,
            _kinds,
            _described,
            filters,
            links,
            rows,
            trails,
            parents,
            details,
            forms,
            changes,
            bodies,
            _findings
        );
        var compilers = new Dictionary<PageKind, Func<PageHead, Page>>
        {
            [PageKind.List] = lists.Compile,
            [PageKind.Detail] = details.Compile,
            [PageKind.Edit] = edits.Edit,
            [PageKind.New] = edits.New,
            [PageKind.Delete] = edits.Delete,
            [PageKind.Text] = new TextCompiler(_frames, _findings).Compile,
        };
        _pages =
        [
            .. _heads
                .Values.OfType<PageHead>()
                .Select(head =>
                    compilers.TryGetValue(head.Definition.Kind, out var compile)
                        ? compile(head)
                        : throw new UnreachableException($"Nothing compiles a page of kind {head.Definition.Kind}.")
                ),
        ];
        foreach (var page in _pages.OfType<TextPage>().Where(page => page.Head.Definition.ShowsLists))
            page.Lists = ListIndex.Of(_pages);
        foreach (var page in _pages.OfType<TextPage>())
            page.Searched = new SearchedLists(_pages, _findings).Of(page.Head.Definition);
        foreach (var page in _pages)
            _paths.Add(page.Head.Template, page);
    }

    private List<FormerPage> FormerPages(HeadCompiler compiler)
    {
        var heads = _pages.Select(page => page.Head).ToList();
        var former = _pages
            .SelectMany(page => compiler.Former(page.Head, heads).Select(head => new FormerPage(head, page)))
            .ToList();
        foreach (var page in former)
            _paths.Add(page.Head.Template, page);
        return former;
    }

    /// <summary>The pages whose source is away. Their paths are known, so that they are unavailable instead of unknown.</summary>
    private List<PageDefinition> WaitingPages(HeadCompiler compiler)
    {
        var away = _definition
            .Records.Where(record => _described.TryGetValue(record.Source.Value, out var source) && source is null)
            .ToDictionary(record => record.Name.Value, record => record.Source.Value);
        var waiting = _definition
            .Pages.Where(page => _heads[page.Name.Value] is null && away.ContainsKey(page.Record.Value))
            .ToList();
        foreach (var page in waiting)
        foreach (var head in compiler.Waiting(page))
            _paths.Add(head.Template, new WaitingPage(head, away[page.Record.Value]));
        return waiting;
    }

    /// <summary>The record kinds that pages show, and each such page has HTML of its own.</summary>
    private static HashSet<string> DesignedKinds(AppDefinition definition) =>
        [
            .. definition
                .Pages.Where(page => page.Kind.HasRecord)
                .GroupBy(page => page.Record.Value)
                .Where(pages => pages.All(page => page.Body is not null))
                .Select(pages => pages.Key),
        ];

    /// <summary>The pages whose table is not there yet, under each of their paths.</summary>
    private List<DesignedPage> DesignedPages(HeadCompiler compiler)
    {
        var designed = new List<DesignedPage>();
        foreach (var page in _definition.Pages)
            if (_awaited.TryGetValue(page.Record.Value, out var table))
                designed.AddRange(compiler.Waiting(page).Select(head => new DesignedPage(head, table)));
        foreach (var page in designed)
            _paths.Add(page.Head.Template, page);
        return designed;
    }

    /// <summary>Warns about pages that change a source without notes: after a crash, nothing tells what was changed.</summary>
    private void CheckUnnotedWrites()
    {
        foreach (var source in _definition.Sources.Where(source => source.Writing?.Value == "bare"))
            if (_pages.Exists(page => page.Head.Definition.Writes && page.Record?.SourceName == source.Name.Value))
                _findings.Add(
                    FindingCodes.WritesUnnoted,
                    source.Writing!.At,
                    $"Nothing in “{source.Name}” tells whether a change was made that Jexa did not live to see: such "
                        + "changes stay undetermined.",
                    "Let Jexa keep its table jexa_commit there: remove writing: bare.",
                    found: "bare",
                    expected: "noted"
                );
    }

    private Page? Home(List<PageDefinition> waiting) =>
        Standalone(_definition.Home, "the home page")
        ?? (
            _definition.Home is null && !waiting.Exists(page => page.Kind == PageKind.List)
                ? _pages.Find(page => page is ListPage && page.Head.AddressWithoutParameters is not null)
                : null
        );

    private TextPage? NotFound()
    {
        var notFound = Standalone(_definition.NotFound, "the page for what is not found") as TextPage;
        if (_definition.NotFound is { } named && notFound is null && _heads.ContainsKey(named.Value))
            _findings.Add(
                FindingCodes.KeyOfOtherPageKind,
                named.At,
                $"“{named}” is no text page.",
                "Name a text page.",
                found: named.Value,
                expected: "a text page"
            );
        return notFound;
    }

    private PageFrame Frame(Page? home, Page? notFound, BodyDesigns designs)
    {
        var (first, menu) = (home?.Head.OpenAddress ?? $"{_mount}/", Menu(notFound));
        return new(
            _definition.Title.Value,
            first,
            _mount,
            menu,
            _conventions,
            _frames.Texts(_kinds) with
            {
                Design = designs.Frame(_definition.Frame.Page, first, menu),
            },
            _pages
                .Where(page => page.Head.AddressWithoutParameters is not null)
                .ToDictionary(page => page.Name, page => page.Head.OpenAddress!)
        );
    }

    private void Review(PageFrame frame, Page? home, Page? notFound)
    {
        var around = new List<(Written At, string Text)>();
        if (_definition.Frame.Header is { } header)
            around.Add((header, frame.Texts.Header));
        if (_definition.Frame.Footer is { } footer)
            around.Add((footer, frame.Texts.Footer));
        new SiteReview(_definition, _heads, _pages, _paths, _mount, _findings).Check(
            around,
            frame.Menu.Select(link => link.Page).Concat(new[] { home?.Name, notFound?.Name }.OfType<string>())
        );
    }

    /// <summary>
    /// The address of the home page itself, where a message after a change is shown, not the root that redirects to it.
    /// </summary>
    private string HomeAddress()
    {
        var named = _definition.Home is { } name ? _heads.GetValueOrDefault(name.Value) : null;
        return (
            named
            ?? _heads.Values.FirstOrDefault(head =>
                head is { Definition.Kind.Calls: PageCalls.List, AddressWithoutParameters: not null }
            )
        )?.OpenAddress
            ?? $"{_mount}/";
    }

    /// <summary>
    /// Lists and texts without required parameters: first those with a place in the menu, then the others in the order of the
    /// file.
    /// </summary>
    private List<PlainLink> Menu(Page? notFound) =>
        [
            .. _pages
                .Where(page =>
                    page is ListPage or TextPage
                    && page != notFound
                    && page.Head.AddressWithoutParameters is not null
                    && !page.Head.Definition.Menu.IsHidden
                )
                .OrderBy(page => page.Head.Definition.Menu.Place ?? int.MaxValue)
                .Concat<Page>(
                    _designed.Where(page =>
                        page.Head.Definition.Kind == PageKind.List
                        && page.Head.Template.Parameters.Count == 0
                        && !page.Head.Definition.Menu.IsHidden
                    )
                )
                .Select(page => new PlainLink(page.Name, page.Head.Heading, page.Head.OpenAddress!)),
        ];

    /// <summary>A page that must not require parameters.</summary>
    private Page? Standalone(Written? name, string what)
    {
        if (name is null)
            return null;
        if (!_heads.ContainsKey(name.Value))
        {
            _findings.AddUnknown(FindingCodes.UnknownPage, name, "page", _heads.Keys);
            return null;
        }

        var page = _pages.Find(page => page.Name == name.Value);
        if (page is null || page.Head.AddressWithoutParameters is not null)
            return page;
        _findings.Add(
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
    private bool LeadsTo(PageHead head, string address)
    {
        var target = RequestTarget.Read(address, _mount);
        return target.Fault == TargetFault.None
            && _paths.Match(target, target.Segments.Length).Any(page => page.Name == head.Name);
    }
}
