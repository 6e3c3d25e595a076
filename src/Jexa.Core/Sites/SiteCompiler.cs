using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>What compiling gave: the site where there are no errors, and every finding in the order of the file.</summary>
/// <param name="Bytes">The file as it was read.</param>
public sealed record Compilation(Site? Site, AppDefinition? Definition, IReadOnlyList<Finding> Findings, ReadOnlyMemory<byte> Bytes)
{
    /// <summary>Whether a source could not be reached, so that its part of the file was not checked.</summary>
    public bool SourceIsAway => Findings.Any(finding => finding.Code == FindingCodes.SourceAway);
}

/// <summary>
/// Turns an app file and the schemas of its sources into a site, and says what is wrong with them. All the thinking is
/// done here, once; a visit never checks again what was checked here.
/// </summary>
public sealed class SiteCompiler(SourceRegistry sources, Func<string, string?> environment, Mount mount)
{
    /// <summary>Reads and compiles an app file.</summary>
    /// <param name="file">Its name as findings show it; relative connections start from its folder.</param>
    public async Task<Compilation> CompileAsync(string file, ReadOnlyMemory<byte> bytes, CancellationToken cancellation)
    {
        var findings = new FindingList();
        var definition = AppFileReader.Read(file, bytes.Span, findings);
        if (definition is null) return new Compilation(null, null, findings.All, bytes);
        var described = new Dictionary<string, DescribedSource?>();
        foreach (var source in definition.Sources) described[source.Name.Value] = await DescribeAsync(definition, source, findings, cancellation);
        var site = Compile(definition, described, findings);
        return new Compilation(findings.HasErrors ? null : site with { Findings = findings.All }, definition, findings.All, bytes);
    }

    private Site Compile(AppDefinition definition, Dictionary<string, DescribedSource?> described, FindingList findings)
    {
        var recordCompiler = new RecordCompiler(described, findings);
        var records = definition.Records.ToDictionary(record => record.Name.Value, recordCompiler.Compile);

        var headCompiler = new HeadCompiler(records, mount.Text, findings);
        var heads = definition.Pages.ToDictionary(page => page.Name.Value, headCompiler.Compile);
        var paths = new PathTree<Page>();
        foreach (var head in headCompiler.Compare([.. heads.Values.OfType<PageHead>()], head => address => LeadsTo(paths, head, address)))
            heads[head.Name] = head;

        var linkCompiler = new LinkCompiler(heads, [.. records.Values.OfType<SiteRecord>()], mount.Text, findings);
        var pageCompiler = new PageCompiler(heads, linkCompiler, findings);
        var pages = heads.Values.OfType<PageHead>().Select(pageCompiler.Compile).ToList();
        foreach (var page in pages) paths.Add(page.Head.Template, page);
        foreach (var page in pages)
            foreach (var former in headCompiler.Former(page.Head, [.. pages.Select(p => p.Head)])) paths.Add(former.Template, new FormerPage(former, page));
        foreach (var link in definition.Pages.Where(page => heads[page.Name.Value] is null).SelectMany(page => page.Links)) linkCompiler.Check(link);

        var home = Home(definition, heads, pages, findings);
        var menu = pages.OfType<ListPage>().Select(page => new PlainLink(page.Name, page.Shape.Heading, page.Shape.Address)).ToList();
        var frame = new PageFrame(definition.Title.Value, home?.Head.Builder.Fixed ?? $"{mount}/", mount, menu);
        return new Site(definition.File, frame, home, pages, paths, definition.Origins.Select(origin => origin.Value).ToHashSet(), []);
    }

    private static Page? Home(AppDefinition definition, Dictionary<string, PageHead?> heads, List<Page> pages, FindingList findings)
    {
        if (definition.Home is not { } name) return pages.Find(page => page is ListPage);
        if (!heads.ContainsKey(name.Value))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, name, "page", heads.Keys);
            return null;
        }

        var home = pages.Find(page => page.Name == name.Value);
        if (home is null || home.Parameters.Count == 0) return home;
        findings.Add(FindingCodes.PageNeedsParameters, name.At, $"The page “{name}” cannot be the home page: it needs an ID.", "Name a list.",
            found: name.Value, expected: "a page without parameters");
        return null;
    }

    private async Task<DescribedSource?> DescribeAsync(
        AppDefinition definition, SourceDefinition source, FindingList findings, CancellationToken cancellation)
    {
        if (!sources.Knows(source.Engine.Value))
        {
            findings.AddUnknown(FindingCodes.UnknownEngine, source.Engine, "engine", sources.EngineNames);
            return null;
        }

        if (FillIn(source.Connection, findings) is not { } connection) return null;
        var opened = sources.Open(new SourceSettings(source.Engine.Value, connection, source.Connection.Value, definition.Folder, SourceSettings.DefaultTimeLimit));
        try
        {
            return new DescribedSource(source.Name.Value, opened, await opened.DescribeAsync(cancellation));
        }
        catch (SourceException away)
        {
            findings.Add(FindingCodes.SourceAway, source.Connection.At, $"The source “{source.Name}” cannot be reached: {away.Message}",
                "Check the connection; a relative path starts from the app file's folder.", found: source.Connection.Value);
            return null;
        }
    }

    /// <summary>Fills <c>${NAME}</c> from the environment. The value is never part of a finding.</summary>
    private string? FillIn(Written connection, FindingList findings)
    {
        var filled = new StringBuilder();
        var text = connection.Value;
        var complete = true;
        for (var i = 0; i < text.Length; i++)
        {
            var close = text.AsSpan(i).StartsWith("${") ? text.IndexOf('}', i) : -1;
            if (close < 0)
            {
                filled.Append(text[i]);
                continue;
            }

            var name = text[(i + 2)..close];
            if (environment(name) is { } value)
            {
                filled.Append(value);
            }
            else
            {
                complete = false;
                findings.Add(FindingCodes.VariableNotSet, connection.Of(i), $"The environment variable {name} is not set.", $"Set {name} before starting Jexa.",
                    found: $"${{{name}}}", expected: "a variable that is set");
            }

            i = close;
        }

        return complete ? filled.ToString() : null;
    }

    /// <summary>Whether an address built for a page is matched by that page and no other.</summary>
    private bool LeadsTo(PathTree<Page> paths, PageHead head, string address)
    {
        var target = RequestTarget.Read(address, mount);
        return target.Fault == TargetFault.None && paths.Match(target, target.Segments.Length).Any(page => page.Name == head.Name);
    }
}
