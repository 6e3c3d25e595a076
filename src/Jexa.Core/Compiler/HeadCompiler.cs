using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the part of each page that others need: its path, its parameters and their meaning.</summary>
internal sealed class HeadCompiler
{
    private readonly IReadOnlyDictionary<string, SiteRecord?> _records;
    private readonly string _mount;
    private readonly FindingList _findings;
    private readonly IdParameterCompiler _ids;
    private readonly NewParameterCompiler _news;
    private readonly ListParameterCompiler _lists;

    public HeadCompiler(
        IReadOnlyDictionary<string, SiteRecord?> records,
        RecordGraph graph,
        FilterCompiler filters,
        string mount,
        FindingList findings
    )
    {
        (_records, _mount, _findings) = (records, mount, findings);
        var maker = new ParameterMaker(findings);
        _ids = new IdParameterCompiler(graph, maker, findings);
        _news = new NewParameterCompiler(graph, maker, findings);
        _lists = new ListParameterCompiler(graph, filters, findings);
    }

    /// <summary>The page's head; null, and reported, if it cannot be served.</summary>
    public PageHead? Compile(PageDefinition page)
    {
        SiteRecord? record = null;
        if (page.Kind.HasRecord && !_records.TryGetValue(page.Record.Value, out record))
            _findings.AddUnknown(FindingCodes.UnknownRecord, page.Record, "record", _records.Keys);
        if (Template(page.Path) is not { } template || (record is null && page.Kind.HasRecord))
            return null;
        var parameters = page.Kind.Parameters switch
        {
            ParameterRole.Id => _ids.Compile(page, template, record!),
            ParameterRole.FirstValues => _news.Compile(page, template, record!),
            ParameterRole.Filters => _lists.Compile(page, template, record!),
            ParameterRole.Holes => TextParameters(page, template),
            var other => throw new UnreachableException($"Nothing reads parameters that are for {other}."),
        };
        if (parameters is null)
            return null;
        var optional = parameters.Where(parameter => !parameter.Required).Select(parameter => parameter.Name).ToHashSet();
        var own = new AddressBuilder(template, _mount, optional);
        return new PageHead(page, record, template, own, parameters, null)
        {
            LinkBuilder = page.DrawnAt is { } elsewhere ? new AddressBuilder(template, elsewhere.Value, optional) : own,
        };
    }

    /// <summary>The page for each former path that can be served.</summary>
    /// <param name="heads">All pages as they are now. A former path must not be one of theirs.</param>
    public IEnumerable<PageHead> Former(PageHead page, IReadOnlyList<PageHead> heads)
    {
        foreach (var path in page.Definition.Was)
            if (Template(path) is { } template && HasParameters(path, template, page))
            {
                var former = Former(template, page);
                if (IsFree(path, former, heads))
                    yield return former;
            }
    }

    private PageHead Former(PathTemplate template, PageHead page)
    {
        var parameters = template
            .Parameters.Select(name => ParameterMaker.Placed(template, page.Parameters.First(p => p.Name == name)))
            .ToList();
        return new PageHead(
            page.Definition,
            page.Kind,
            template,
            new AddressBuilder(
                template,
                _mount,
                parameters.Where(parameter => !parameter.Required).Select(parameter => parameter.Name).ToHashSet()
            ),
            parameters,
            null
        );
    }

    /// <summary>Whether a former path has the parameters of its page; reported if not.</summary>
    private bool HasParameters(Written path, PathTemplate template, PageHead page)
    {
        if (template.Parameters.ToHashSet().SetEquals(page.Template.Parameters))
            return true;
        _findings.Add(
            FindingCodes.FormerParameters,
            path.At,
            $"The former path {path} does not have the parameters of {page.Definition.Path}.",
            "Give it the same parameters, under the same names.",
            found: path.Value,
            expected: page.Template.Parameters.Count == 0
                ? "a path without parameters"
                : "a path with " + string.Join(" and ", page.Template.Parameters)
        );
        return false;
    }

    /// <summary>Whether no page of today answers to a former path, and it takes no record's address; reported if not.</summary>
    private bool IsFree(Written path, PageHead former, IReadOnlyList<PageHead> heads)
    {
        var taken = heads.FirstOrDefault(head =>
            head.Template.SharesPathWith(former.Template)
            && AddressOverlaps.Required(head).SetEquals(AddressOverlaps.Required(former))
        );
        if (taken is null)
            return HidesNothing(path, former, heads);
        _findings.Add(
            FindingCodes.SameAddresses,
            path.At,
            $"The former path {path} is the path of the page “{taken.Name}” now.",
            "Remove it.",
            found: path.Value,
            expected: $"a path that is not {taken.Definition.Path}"
        );
        return false;
    }

    private bool HidesNothing(Written path, PageHead former, IReadOnlyList<PageHead> heads)
    {
        if (AddressOverlaps.HiddenBy(former, heads) is not { Page: { } hidden, Example: { } example })
            return true;
        _findings.Add(
            FindingCodes.HiddenAddresses,
            path.At,
            $"The former path {path} is the address that “{example}” has on the page “{hidden.Name}”. It does not lead on.",
            "Remove it.",
            found: path.Value,
            expected: $"a path that {hidden.Definition.Path} does not match"
        );
        return false;
    }

    /// <summary>All paths of a page whose source is away.</summary>
    public IEnumerable<PageHead> Waiting(PageDefinition page) =>
        page
            .Was.Prepend(page.Path)
            .Select(Template)
            .OfType<PathTemplate>()
            .Select(template => new PageHead(
                page,
                null,
                template,
                new AddressBuilder(template, _mount, new HashSet<string>()),
                [],
                null
            ));

    private PathTemplate? Template(Written path)
    {
        var faults = new List<TemplateFault>();
        var template = PathTemplate.Parse(path.Value, faults);
        foreach (var fault in faults)
            _findings.Add(
                FindingCodes.BadPath,
                path.Of(fault.Offset),
                fault.Message,
                fault.Remedy,
                found: path.Value,
                expected: "a path such as /bridges, /bridges/{id} or /lookup{?code}"
            );
        return template;
    }

    /// <summary>Parameters of a text page are any texts.</summary>
    private static List<PageParameter> TextParameters(PageDefinition page, PathTemplate template) =>
        [
            .. template.Parameters.Select(name =>
            {
                var column = new ColumnSchema(name, "", FieldType.Text, true, null, false, false);
                return ParameterMaker.Placed(
                    template,
                    new PageParameter(
                        name,
                        -1,
                        "",
                        "",
                        new SiteField(name, null, FieldType.Text, column, false, TextForm.Any, ValueStyle.Plain, []),
                        TextKey.Of(false, new TextForm(null, 200, null)),
                        !template.QueryParameters.Contains(name),
                        IsEqual: false
                    )
                );
            }),
        ];
}
