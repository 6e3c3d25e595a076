using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles the part of each page that others need: its path, its parameters and their meaning. Finds pages that match the same
/// addresses.
/// </summary>
internal sealed partial class HeadCompiler(
    IReadOnlyDictionary<string, SiteRecord?> records,
    RecordGraph graph,
    FilterCompiler filters,
    string mount,
    FindingList findings
)
{
    /// <summary>The page's head; null, and reported, if it cannot be served.</summary>
    public PageHead? Compile(PageDefinition page)
    {
        SiteRecord? record = null;
        if (page.Kind.HasRecord && !records.TryGetValue(page.Record.Value, out record))
            findings.AddUnknown(FindingCodes.UnknownRecord, page.Record, "record", records.Keys);
        if (Template(page.Path) is not { } template || (record is null && page.Kind.HasRecord))
            return null;
        var parameters = page.Kind.Parameters switch
        {
            ParameterRole.Id => Parameters(page, template, record!),
            ParameterRole.FirstValues => NewParameters(page, template, record!),
            ParameterRole.Filters => ListParameters(page, template, record!),
            ParameterRole.Holes => TextParameters(page, template),
            var other => throw new UnreachableException($"Nothing reads parameters that are for {other}."),
        };
        if (parameters is null)
            return null;
        var optional = parameters.Where(parameter => !parameter.Required).Select(parameter => parameter.Name).ToHashSet();
        var own = new AddressBuilder(template, mount, optional);
        return new PageHead(page, record, template, own, parameters, null)
        {
            LinkBuilder = page.DrawnAt is { } elsewhere ? new AddressBuilder(template, elsewhere.Value, optional) : own,
        };
    }

    /// <summary>
    /// Reports pages with the same addresses, and pages that hide records of others. Notes where built addresses must be checked.
    /// </summary>
    public IReadOnlyList<PageHead> Compare(IReadOnlyList<PageHead> heads, Func<PageHead, Func<string, bool>> leadsThere)
    {
        var shadowed = new HashSet<string>();
        for (var i = 0; i < heads.Count; i++)
        {
            for (var j = 0; j < heads.Count; j++)
            {
                if (i == j || heads[i].Template.Segments.Count != heads[j].Template.Segments.Count)
                    continue;
                if (j < i && heads[i].Template.SharesPathWith(heads[j].Template))
                    CompareSharing(heads[j], heads[i]);
                if (HiddenExample(heads[i], heads[j]) is not { } example)
                    continue;
                shadowed.Add(heads[j].Name);
                ReportHidden(heads[i], heads[j], example);
            }
        }

        return [.. heads.Select(head => shadowed.Contains(head.Name) ? head with { OwnsAddress = leadsThere(head) } : head)];
    }

    /// <summary>The page for each former path that can be served.</summary>
    /// <param name="heads">All pages as they are now. A former path must not be one of theirs.</param>
    public IEnumerable<PageHead> Former(PageHead page, IReadOnlyList<PageHead> heads)
    {
        foreach (var path in page.Definition.Was)
        {
            if (Template(path) is not { } template)
                continue;
            if (!template.Parameters.ToHashSet().SetEquals(page.Template.Parameters))
            {
                findings.Add(
                    FindingCodes.FormerParameters,
                    path.At,
                    $"The former path {path} does not have the parameters of {page.Definition.Path}.",
                    "Give it the same parameters, under the same names.",
                    found: path.Value,
                    expected: page.Template.Parameters.Count == 0
                        ? "a path without parameters"
                        : "a path with " + string.Join(" and ", page.Template.Parameters)
                );
                continue;
            }

            var taken = heads.FirstOrDefault(head =>
                head.Template.SharesPathWith(template)
                && head.Template.QueryParameters.ToHashSet().SetEquals(template.QueryParameters)
            );
            if (taken is not null)
            {
                findings.Add(
                    FindingCodes.SameAddresses,
                    path.At,
                    $"The former path {path} is the path of the page “{taken.Name}” now.",
                    "Remove it.",
                    found: path.Value,
                    expected: $"a path that is not {taken.Definition.Path}"
                );
                continue;
            }

            var parameters = template
                .Parameters.Select(name => Placed(template, page.Parameters.First(p => p.Name == name)))
                .ToList();
            yield return new PageHead(
                page.Definition,
                page.Kind,
                template,
                new AddressBuilder(
                    template,
                    mount,
                    parameters.Where(parameter => !parameter.Required).Select(parameter => parameter.Name).ToHashSet()
                ),
                parameters,
                null
            );
        }
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
                new AddressBuilder(template, mount, new HashSet<string>()),
                [],
                null
            ));

    private static PageParameter Placed(PathTemplate template, PageParameter parameter)
    {
        var segment = template.Segments.ToList().FindIndex(s => s.Parameter == parameter.Name);
        return segment < 0
            ? parameter with
            {
                Segment = -1,
                Prefix = "",
                Suffix = "",
            }
            : parameter with
            {
                Segment = segment,
                Prefix = template.Segments[segment].Prefix,
                Suffix = template.Segments[segment].Suffix,
            };
    }

    private PathTemplate? Template(Written path)
    {
        var faults = new List<TemplateFault>();
        var template = PathTemplate.Parse(path.Value, faults);
        foreach (var fault in faults)
            findings.Add(
                FindingCodes.BadPath,
                path.Of(fault.Offset),
                fault.Message,
                fault.Remedy,
                found: path.Value,
                expected: "a path such as /bridges, /bridges/{id} or /lookup{?code}"
            );
        return template;
    }

    /// <summary>
    /// What the parameters of a list are compared with, by its conditions. A parameter without a condition is compared with the
    /// field of its name.
    /// </summary>
    private List<PageParameter>? ListParameters(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        var uses = filters.Uses(page.Where, record).ToList();
        foreach (var use in uses.Where(use => !template.Parameters.Contains(use.Name)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                use.At with
                {
                    Value = use.Name,
                    At = use.At.Of(1),
                },
                $"parameter in the path {page.Path} called",
                template.Parameters
            );
        foreach (var name in page.Required.Where(name => !template.Parameters.Contains(name.Value)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                name,
                $"parameter in the path {page.Path} called",
                template.Parameters
            );
        var parameters = template
            .Parameters.Select(name => ListParameter(page, template, record, name, [.. uses.Where(use => use.Name == name)]))
            .ToList();
        if (parameters.Contains(null))
            return null;

        // Only for foreign keys: a rare filter may read all rows on purpose.
        var keys = parameters
            .OfType<PageParameter>()
            .Where(parameter => parameter is { Required: true, IsEqual: true, Path: null })
            .Select(parameter => parameter.Field.Column.Name)
            .Where(column => record.References.Any(key => key.Columns.Contains(column)))
            .ToList();
        IndexCheck.Check(findings, page.Path.At, record, keys, "visit");
        return [.. parameters.OfType<PageParameter>()];
    }

    private PageParameter? ListParameter(
        PageDefinition page,
        PathTemplate template,
        SiteRecord record,
        string name,
        List<ParameterUse> uses
    )
    {
        var inPath = !template.QueryParameters.Contains(name);
        var required = inPath || page.Required.Any(word => word.Value == name);
        if (record.QueryParameters.FirstOrDefault(parameter => parameter.Name == name) is { } filled && uses.Count == 0)
        {
            var column = new ColumnSchema(name, "", filled.Type, true, null, false, false);
            var stand = new SiteField(name, null, filled.Type, column, false, TextForm.Any, ValueStyle.Plain, []);
            var key = filled.Type is FieldType.Real or FieldType.Decimal
                ? NumberKey.Instance
                : KeyType.For(column, filled.Type, TextForm.Any) ?? TextKey.Exact;
            return Placed(
                template,
                new PageParameter(name, -1, "", "", stand, key, required || filled.Default is null, IsEqual: false)
            );
        }

        if (uses.Count == 0)
        {
            if (record.Find(name) is { Secret: false } field && KeyType.For(field.Column, field.Type, field.Form) is { } implied)
                return Placed(
                    template,
                    new PageParameter(name, -1, "", "", field, implied, required, template.Repeated.Contains(name))
                );
            // A condition with this parameter that could not be compiled has its own finding.
            if (FilterCompiler.Names(page.Where).Contains(name))
                return null;
            findings.Add(
                FindingCodes.UnboundParameter,
                PlaceOf(page, name),
                $"The parameter {name} of the list “{page.Name}” stands for nothing.",
                $"Add where: {{ FIELD: \"{{{name}}}\" }} to the page, or remove it from the path.",
                found: name,
                expected: "a parameter that a condition of the page names"
            );
            return null;
        }

        var use = uses[0];
        if (uses.Find(other => other.Key.Type != use.Key.Type || other.Key.GetType() != use.Key.GetType()) is { } unlike)
            findings.Add(
                FindingCodes.FilterOfOtherType,
                unlike.At.At,
                $"The parameter {name} is {use.Key.Looks} here and {unlike.Key.Looks} there.",
                "Use two parameters.",
                found: unlike.Path.Name,
                expected: use.Key.Looks
            );
        foreach (var other in uses.Skip(1).Where(other => other.IsEqual && use.IsEqual))
        {
            new FieldMeaning(graph, findings).Check(
                other.At.At,
                $"The parameter {name} is compared with",
                use.Path.Field,
                use.Path.Owner(record),
                other.Path.Field,
                other.Path.Owner(record)
            );
        }

        var many = template.Repeated.Contains(name);
        if (many && uses.Exists(other => other.Kind != ConditionKind.OneOf))
            findings.Add(
                FindingCodes.FilterOfOtherType,
                PlaceOf(page, name),
                $"The parameter {name} may be given several times, but its condition takes one value.",
                $"Write one_of: \"{{{name}}}\", or leave the star out.",
                found: $"{name}*",
                expected: "a condition one_of"
            );
        return Placed(
            template,
            new PageParameter(
                name,
                -1,
                "",
                "",
                use.Path.Field,
                use.Key,
                required,
                many,
                use.Path.IsOwn ? null : use.Path,
                uses.TrueForAll(other => other.IsEqual)
            )
        );
    }

    /// <summary>
    /// The parameters of a page for new records. Each fills a field, usually the foreign key to the record that the new one
    /// belongs to.
    /// </summary>
    private List<PageParameter>? NewParameters(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        foreach (
            var name in page
                .Required.Concat(page.By.Select(pass => pass.Parameter))
                .Where(name => !template.Parameters.Contains(name.Value))
        )
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                name,
                $"parameter in the path {page.Path} called",
                template.Parameters
            );
        var parameters = template
            .Parameters.Select(name =>
            {
                var pass = page.By.FirstOrDefault(one => one.Parameter.Value == name);
                var field =
                    pass is not null ? FieldUse.Find(pass.Field, record.Fields, "filled by an address", findings)
                    : record.Find(name) is { Secret: false } own ? own
                    : graph.FindStep(record, name) is { Key.Columns: [var column] }
                        ? record.Fields.First(one => one.Column.Name == column)
                    : null;
                if (field is null && pass is null)
                    findings.Add(
                        FindingCodes.UnboundParameter,
                        PlaceOf(page, name),
                        $"The parameter {name} of “{page.Name}” fills no field of a new {record.One}.",
                        $"Add the line by: {{ {name}: FIELD }} to the page.",
                        found: name,
                        expected: "a field, or the record that a foreign key leads to"
                    );
                var parameter = field is null ? null : Parameter(page, template, name, FieldPath.Own(field));
                return parameter is null
                    ? null
                    : parameter with
                    {
                        Required = parameter.Segment >= 0 || page.Required.Any(word => word.Value == name),
                    };
            })
            .ToList();
        return parameters.Contains(null) ? null : [.. parameters.OfType<PageParameter>()];
    }

    /// <summary>Parameters of a text page are any texts.</summary>
    private static List<PageParameter> TextParameters(PageDefinition page, PathTemplate template) =>
        [
            .. template.Parameters.Select(name =>
            {
                var column = new ColumnSchema(name, "", FieldType.Text, true, null, false, false);
                return Placed(
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

    private List<PageParameter>? Parameters(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        foreach (var pass in page.By.Where(pass => !template.Parameters.Contains(pass.Parameter.Value)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                pass.Parameter,
                $"parameter in the path {page.Path} called",
                template.Parameters
            );
        if (template.Parameters.Count == 0)
        {
            findings.Add(
                FindingCodes.DetailWithoutId,
                page.Path.At,
                $"The page “{page.Name}” shows one {record.One}, but its path has no ID.",
                $"Write an ID into the path, such as {WithId(page.Path.Value, record)}.",
                found: page.Path.Value,
                expected: "a path with a parameter for each field of the key"
            );
            return null;
        }

        var fields = Bind(page, template, record);
        if (fields is null)
            return null;
        var parameters = template.Parameters.Select((name, i) => Parameter(page, template, name, fields[i])).ToList();
        if (parameters.Exists(parameter => parameter is null))
            return null;
        CheckUnique(page, record, fields);
        if (fields.TrueForAll(field => field.IsOwn))
            IndexCheck.Check(findings, page.Path.At, record, [.. fields.Select(field => field.Field.Column.Name)], "visit");
        return [.. parameters.OfType<PageParameter>()];
    }

    /// <summary>A path with an ID: in place of another program's notation for one, else after it.</summary>
    private static string WithId(string path, SiteRecord record)
    {
        var written = Placeholder()
            .Replace(path, match =>
                $"{{{(match.Groups.Values.Skip(1).FirstOrDefault(group => group.Success)?.Value ?? record.Key[0].Name)}}}"
            );
        return written != path ? written : $"{path.TrimEnd('/')}/{{{record.Key[0].Name}}}";
    }

    [System.Text.RegularExpressions.GeneratedRegex(
        @"(?<=/)(?:[:$@]([A-Za-z_][A-Za-z0-9_]*)|<(?:[a-z]+:)?([A-Za-z_][A-Za-z0-9_]*)>|\[([A-Za-z_][A-Za-z0-9_]*)\]|\*)(?=/|$)"
    )]
    private static partial System.Text.RegularExpressions.Regex Placeholder();

    /// <summary>The field that each parameter means, in the order of the parameters.</summary>
    private List<FieldPath>? Bind(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        var bound = new Dictionary<string, FieldPath>();
        var failed = false;
        foreach (var pass in page.By.Where(pass => template.Parameters.Contains(pass.Parameter.Value)))
        {
            if (graph.Find(pass.Field, record, "an ID", findings) is { } field)
                bound[pass.Parameter.Value] = field;
            else
                failed = true;
        }

        foreach (
            var name in template.Parameters.Where(name =>
                !bound.ContainsKey(name) && page.By.All(pass => pass.Parameter.Value != name)
            )
        )
            if (record.Find(name) is { Secret: false } field)
                bound[name] = FieldPath.Own(field);

        // A parameter with a field's name means that field, key or not. The rest is implied only if there is one parameter
        // without a field and one key field without a parameter.
        var open = template
            .Parameters.Where(name => !bound.ContainsKey(name) && page.By.All(pass => pass.Parameter.Value != name))
            .ToList();
        var unread = record.Key.Where(field => bound.Values.All(path => !path.IsOwn || path.Field != field)).ToList();
        if (open.Count == 1 && unread.Count == 1 && !FillsQuery(open[0]))
            bound[open[0]] = FieldPath.Own(unread[0]);
        else
            failed |= open.Count > 0;
        foreach (var name in open.Where(name => !bound.ContainsKey(name)))
        {
            if (FillsQuery(name))
            {
                findings.Add(
                    FindingCodes.UnboundParameter,
                    PlaceOf(page, name),
                    $"The parameter {name} fills :{name} of the query, but no column says with which {name} a row "
                        + "was found: its address cannot be written.",
                    $"If :{name} is the ID, remove its condition from the query: Jexa adds it. Otherwise add :{name} "
                        + $"AS {name} to the columns of the query.",
                    found: name,
                    expected: $"a column {name}"
                );
                continue;
            }

            findings.Add(
                FindingCodes.UnboundParameter,
                PlaceOf(page, name),
                $"The page does not say which field of {record.Name} the parameter {name} stands for.",
                $"Add the line by: {{ {name}: FIELD }} to the page.",
                found: name,
                expected: "one of " + string.Join(", ", record.Fields.Where(field => !field.Secret).Select(field => field.Name))
            );
        }

        return failed ? null : [.. template.Parameters.Select(name => bound[name])];

        bool FillsQuery(string name) => record.QueryParameters.Any(parameter => parameter.Name == name);
    }

    private PageParameter? Parameter(PageDefinition page, PathTemplate template, string name, FieldPath path)
    {
        var field = path.Field;
        if (KeyType.For(field.Column, field.Type, field.Form) is not { } key)
        {
            var (message, remedy) = field.Type switch
            {
                FieldType.Any => (
                    $"The source does not say of what type {field.Name} is, so an ID cannot be read.",
                    $"Say it in the record: fields: {{ {field.Name}: {{ type: text }} }}"
                ),
                FieldType.Timestamp => (
                    $"{field.Name} is a timestamp: the same moment has many spellings and fractions, so it makes no ID.",
                    "Use another key: a number, a text, a UUID or a date."
                ),
                FieldType.Decimal => (
                    $"{field.Name} is a decimal, which its source keeps as an inexact number: an ID could miss its record.",
                    "Use another key, or keep the number as text in the source."
                ),
                _ => (
                    $"{field.Name} is {field.Type.Word()}, which makes no ID.",
                    "Use another key: a number, a text, a UUID or a date."
                ),
            };
            findings.Add(
                FindingCodes.KeyTypeNotServed,
                PlaceOf(page, name),
                message,
                remedy,
                found: field.Type == FieldType.Any ? field.Column.DeclaredType : field.Type.Word(),
                expected: "integer, text, uuid, date, boolean or bytes"
            );
            return null;
        }

        return Placed(template, new PageParameter(name, -1, "", "", field, key, Path: path.IsOwn ? null : path));
    }

    private void CheckUnique(PageDefinition page, SiteRecord record, List<FieldPath> paths)
    {
        var fields = paths.Where(path => path.IsOwn).Select(path => path.Field).ToList();
        // The record's own key was checked before.
        if (
            record.Key.All(fields.Contains)
            || record.UniqueAssumed
            || record.Table.IsUnique([.. fields.Select(field => field.Name)])
        )
            return;
        var names = string.Join(" with ", fields.Select(field => field.Name));
        findings.Add(
            FindingCodes.IdNotUnique,
            page.By.Count > 0 ? page.By[0].Field.At : page.Path.At,
            $"The page finds a {record.One} by {names}, and nothing in {record.Table.Name} keeps that unique.",
            "Add a unique index in the source, or use the record's key.",
            found: names,
            expected: string.Join("; or ", record.Table.UniqueKeys.Select(columns => string.Join(" with ", columns)))
        );
    }

    private void CompareSharing(PageHead first, PageHead second)
    {
        // Pages that need different parameters exclude each other: an address with those of both is malformed.
        if (!Required(first).SetEquals(Required(second)))
            return;
        findings.Add(
            FindingCodes.SameAddresses,
            second.Definition.Path.At,
            $"The pages “{first.Name}” and “{second.Name}” are for the same addresses.",
            $"Give one of them another path; “{first.Name}” has its on line {first.Definition.Path.At.Line}.",
            found: second.Definition.Path.Value,
            expected: $"a path that is not {first.Definition.Path}"
        );
    }

    private static HashSet<string> Required(PageHead head) =>
        [
            .. head
                .Parameters.Where(parameter => parameter is { Required: true, Segment: < 0 })
                .Select(parameter => parameter.Name),
        ];

    private void ReportHidden(PageHead hiding, PageHead hidden, string example)
    {
        var what =
            hidden.Kind is { } record && hidden.Definition.HasId ? $"a {record.One} with the ID “{example}”" : $"“{example}”";
        findings.Add(
            FindingCodes.HiddenAddresses,
            hiding.Definition.Path.At,
            $"The page “{hiding.Name}” takes the address that {what} has on the page “{hidden.Name}”.",
            $"Move one of the two to a path of its own; “{hidden.Name}” has its on line {hidden.Definition.Path.At.Line}.",
            found: hiding.Definition.Path.Value,
            expected: $"a path that {hidden.Definition.Path} does not match"
        );
    }

    /// <summary>An ID whose address on the second page matches the first page; null for none.</summary>
    private static string? HiddenExample(PageHead first, PageHead second)
    {
        string? example = null;
        var decided = false;
        for (var i = 0; i < first.Template.Segments.Count; i++)
        {
            var mine = first.Template.Segments[i];
            var theirs = second.Template.Segments[i];
            if (mine.MatchesSameAs(theirs) && mine.Literal is not null)
                continue;
            if (mine.Literal is null && theirs.Literal is not null)
            {
                // If the other path has a literal here, it is tried first: it hides this page, not the reverse.
                if (!decided || Taken(first, i, theirs.Literal) is null)
                    return null;
                continue;
            }

            if (mine.Literal is not null)
            {
                if (theirs.Literal is not null || Taken(second, i, mine.Literal) is not { } taken)
                    return null;
                example ??= taken;
                decided = true;
                continue;
            }

            if (mine.MatchesSameAs(theirs))
                continue;
            var rank = (mine.Prefix.Length, mine.Suffix.Length).CompareTo((theirs.Prefix.Length, theirs.Suffix.Length));
            if (!decided && rank < 0)
                return null;
            if (Taken(second, i, Sample(first, i, mine)) is { } overlap)
                example ??= overlap;
            else
                return null;
            decided |= rank > 0;
        }

        return decided ? example : null;
    }

    /// <summary>A segment that a page's parameter would have for some ID.</summary>
    private static string Sample(PageHead page, int segment, SegmentPattern pattern) =>
        pattern.Prefix
        + (page.Parameters.FirstOrDefault(p => p.Segment == segment)?.Key is IntegerKey ? "7" : "x")
        + pattern.Suffix;

    /// <summary>The ID that a page would read from a segment; null if the address would not be the page's own.</summary>
    private static string? Taken(PageHead page, int segment, string text)
    {
        var pattern = page.Template.Segments[segment];
        if (page.Parameters.FirstOrDefault(p => p.Segment == segment) is not { } parameter)
            return null;
        if (
            text.Length <= pattern.Prefix.Length + pattern.Suffix.Length
            || !text.StartsWith(pattern.Prefix, StringComparison.Ordinal)
            || !text.EndsWith(pattern.Suffix, StringComparison.Ordinal)
        )
            return null;
        var id = text[pattern.Prefix.Length..^pattern.Suffix.Length];
        return parameter.Key.Read(id) is { Fault: KeyFault.None, IsCanonical: true } ? id : null;
    }

    private static Place PlaceOf(PageDefinition page, string parameter) =>
        page.Path.Of(Math.Max(0, page.Path.Value.IndexOf(parameter, StringComparison.Ordinal)));
}
