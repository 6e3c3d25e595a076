using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles links to pages that are not written yet. They lead to stubs, which show what the links pass.</summary>
/// <param name="pages">The names of the written pages.</param>
internal sealed class StubCompiler(IEnumerable<string> pages, RecordGraph graph, string mount, FindingList findings)
{
    private readonly Dictionary<string, UnwrittenPage> _unwritten = [];

    /// <summary>Pages that links lead to and that are not written yet, by name.</summary>
    public IReadOnlyDictionary<string, UnwrittenPage> Unwritten => _unwritten;

    /// <summary>A link to a stub. It passes what the app file says, else the key of its record.</summary>
    /// <param name="when">Whether a row has the link; null for always.</param>
    public LinkPlan Compile(LinkDefinition link, Projections load, Func<Row, bool>? when)
    {
        var passed =
            link.With.Count > 0
                ? link.With.Select(pass => (Name: pass.Parameter.Value, Path: Find(pass, load.Record))).ToList()
                : [.. load.Record.Key.Select(field => (field.Name, Path: (FieldPath?)FieldPath.Own(field)))];
        var fillers = new List<LinkFiller?>();
        var parameters = new List<(string Name, KeyType Key)>();
        foreach (var (name, path) in passed)
        {
            if (path is not { Field.Secret: false } || KeyOf(path.Field) is not { } key)
                continue;
            fillers.Add(new LinkFiller(key, load.Add(path), path.Name));
            parameters.Add((name, key));
        }

        var text = link.Text?.Value ?? Labels.OfPage(link.To.Value);
        var place = $"{mount}/{RequestTarget.ReservedSegment}/{UnwrittenPage.Segment}";
        if (Template(link.To.Value, parameters) is not { } template)
        {
            Report(link, []);
            return new LinkPlan(link.To.Value, text, $"{place}/{Uri.EscapeDataString(link.To.Value)}");
        }

        Report(link, parameters);
        var builder = new AddressBuilder(template, place, template.Parameters.ToHashSet());
        return new LinkPlan(link.To.Value, text, builder, fillers, null) { When = when };
    }

    /// <summary>
    /// A link to a page whose table is not there yet. Each parameter is filled by what the app file says, a field of its name, or
    /// the key of the record. Null if one of the path stays open.
    /// </summary>
    public LinkPlan? Compile(LinkDefinition link, Projections load, PathTemplate template, Func<Row, bool>? when)
    {
        var record = load.Record;
        var fillers = new List<LinkFiller?>();
        foreach (var name in template.Parameters)
        {
            var path =
                link.With.FirstOrDefault(pass => pass.Parameter.Value == name) is { } pass ? Find(pass, record)
                : record.Find(name) is { } same ? FieldPath.Own(same)
                : record.Key.Count == 1 ? FieldPath.Own(record.Key[0])
                : null;
            var key = path is { Field.Secret: false } ? KeyOf(path.Field) : null;
            if (key is null && !template.QueryParameters.Contains(name))
                return null;
            fillers.Add(key is null ? null : new LinkFiller(key, load.Add(path!), path!.Name));
        }

        var builder = new AddressBuilder(template, mount, template.QueryParameters.ToHashSet());
        return new LinkPlan(link.To.Value, link.Text?.Value ?? Labels.OfPage(link.To.Value), builder, fillers, null)
        {
            When = when,
        };
    }

    /// <param name="parameters">What the link passes.</param>
    public void Report(LinkDefinition link, IReadOnlyList<(string Name, KeyType Key)> parameters)
    {
        var page = UnwrittenPage.Of(link.To.Value, graph.Kinds, parameters);
        var known = _unwritten.GetValueOrDefault(page.Name)?.Parameters ?? [];
        _unwritten[page.Name] = page with { Parameters = [.. known.UnionBy(parameters, parameter => parameter.Name)] };
        findings.Add(
            FindingCodes.LinkToUnwrittenPage,
            link.To.At,
            $"The page “{link.To}” is not written yet; a stub stands in its place.",
            $"Write it, such as {page.Line}, or remove the link.",
            found: link.To.Value,
            expected: "one of " + string.Join(", ", pages)
        );
    }

    private FieldPath? Find(PassDefinition pass, SiteRecord from) => graph.Find(pass.Field, from, "part of an address", findings);

    private static KeyType? KeyOf(SiteField field) => KeyType.For(field.Column, field.Type, field.Form);

    /// <summary>The template of a stub's addresses below their prefix; null for a name that none can contain.</summary>
    private static PathTemplate? Template(string page, IReadOnlyList<(string Name, KeyType Key)> parameters)
    {
        if (!page.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_'))
            return null;
        var query = parameters.Count == 0 ? "" : $"{{?{string.Join(",", parameters.Select(parameter => parameter.Name))}}}";
        return PathTemplate.Parse($"/{page}{query}", []);
    }
}
