using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// Compiles the part of each page that the others need: its path, its parameters and what they stand for; and finds the
/// pages that stand in each other's way.
/// </summary>
internal sealed class HeadCompiler(IReadOnlyDictionary<string, SiteRecord?> records, string mount, FindingList findings)
{
    /// <summary>The page's head; null, reported, where it cannot be served.</summary>
    public PageHead? Compile(PageDefinition page)
    {
        if (!records.TryGetValue(page.Record.Value, out var record))
            findings.AddUnknown(FindingCodes.UnknownRecord, page.Record, "record", records.Keys);
        if (Template(page.Path) is not { } template || record is null) return null;
        var parameters = page.Kind == PageKind.Detail ? Parameters(page, template, record) : NoParameters(page, template);
        return parameters is null ? null : new PageHead(page, record, template, new AddressBuilder(template, mount), parameters, null);
    }

    /// <summary>Reports pages for the same addresses and pages that hide others' records; notes where a built address must be checked.</summary>
    public IReadOnlyList<PageHead> Compare(IReadOnlyList<PageHead> heads, Func<PageHead, Func<string, bool>> leadsThere)
    {
        var shadowed = new HashSet<string>();
        for (var i = 0; i < heads.Count; i++)
        {
            for (var j = 0; j < heads.Count; j++)
            {
                if (i == j || heads[i].Template.Segments.Count != heads[j].Template.Segments.Count) continue;
                if (j < i && heads[i].Template.SharesPathWith(heads[j].Template)) CompareSharing(heads[j], heads[i], heads);
                if (HiddenExample(heads[i], heads[j]) is not { } example) continue;
                shadowed.Add(heads[j].Name);
                ReportHidden(heads[i], heads[j], example);
            }
        }

        return [.. heads.Select(head => shadowed.Contains(head.Name) ? head with { LeadsThere = leadsThere(head) } : head)];
    }

    /// <summary>The page under each path it had before, as far as those can be served.</summary>
    /// <param name="heads">All pages as they are now: a former path cannot be one of theirs.</param>
    public IEnumerable<PageHead> Former(PageHead page, IReadOnlyList<PageHead> heads)
    {
        foreach (var path in page.Definition.Was)
        {
            if (Template(path) is not { } template) continue;
            if (!template.Parameters.ToHashSet().SetEquals(page.Template.Parameters))
            {
                findings.Add(FindingCodes.FormerParameters, path.At, $"The former path {path} does not have the parameters of {page.Definition.Path}.",
                    "Give it the same parameters, under the same names.", found: path.Value,
                    expected: page.Template.Parameters.Count == 0 ? "a path without parameters" : "a path with " + string.Join(" and ", page.Template.Parameters));
                continue;
            }

            var taken = heads.FirstOrDefault(head => head.Template.SharesPathWith(template) && head.Template.QueryParameters.Order().SequenceEqual(template.QueryParameters.Order()));
            if (taken is not null)
            {
                findings.Add(FindingCodes.SameAddresses, path.At, $"The former path {path} is the path of the page “{taken.Name}” now.", "Remove it.",
                    found: path.Value, expected: $"a path that is not {taken.Definition.Path}");
                continue;
            }

            var parameters = template.Parameters.Select(name => Placed(template, page.Parameters.First(p => p.Name == name))).ToList();
            yield return new PageHead(page.Definition, page.Record, template, new AddressBuilder(template, mount), parameters, null);
        }
    }

    private static PageParameter Placed(PathTemplate template, PageParameter parameter)
    {
        var segment = template.Segments.ToList().FindIndex(s => s.Parameter == parameter.Name);
        return segment < 0
            ? parameter with { Segment = -1, Prefix = "", Suffix = "" }
            : parameter with { Segment = segment, Prefix = template.Segments[segment].Prefix, Suffix = template.Segments[segment].Suffix };
    }

    private PathTemplate? Template(Written path)
    {
        var faults = new List<TemplateFault>();
        var template = PathTemplate.Parse(path.Value, faults);
        foreach (var fault in faults)
            findings.Add(FindingCodes.BadPath, path.Of(fault.Offset), fault.Message, fault.Remedy, found: path.Value,
                expected: "a path such as /bridges, /bridges/{id} or /lookup{?code}");
        return template;
    }

    private List<PageParameter>? NoParameters(PageDefinition page, PathTemplate template)
    {
        foreach (var name in template.Parameters)
            findings.Add(FindingCodes.UnboundParameter, PlaceOf(page, name), $"The parameter {name} of the list “{page.Name}” stands for nothing.",
                "Remove it from the path: lists take no parameters of their own yet.", found: name, expected: "a path without parameters");
        return template.Parameters.Count == 0 ? [] : null;
    }

    private List<PageParameter>? Parameters(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        foreach (var pass in page.By.Where(pass => !template.Parameters.Contains(pass.Parameter.Value)))
            findings.AddUnknown(FindingCodes.UnknownParameter, pass.Parameter, $"parameter in the path {page.Path} called", template.Parameters);
        if (template.Parameters.Count == 0)
        {
            findings.Add(FindingCodes.DetailWithoutId, page.Path.At, $"The page “{page.Name}” shows one {record.One}, but its path has no ID.",
                $"Write an ID into the path, such as {page.Path.Value.TrimEnd('/')}/{{{record.Key[0].Name}}}.", found: page.Path.Value,
                expected: "a path with a parameter for each field of the key");
            return null;
        }

        var fields = Bind(page, template, record);
        if (fields is null) return null;
        var parameters = template.Parameters.Select((name, i) => Parameter(page, template, name, fields[i])).ToList();
        if (parameters.Exists(parameter => parameter is null)) return null;
        CheckUnique(page, record, fields);
        return [.. parameters.OfType<PageParameter>()];
    }

    /// <summary>The field each parameter stands for, in the order of the parameters.</summary>
    private List<SiteField>? Bind(PageDefinition page, PathTemplate template, SiteRecord record)
    {
        var bound = new Dictionary<string, SiteField>();
        var failed = false;
        foreach (var pass in page.By.Where(pass => template.Parameters.Contains(pass.Parameter.Value)))
        {
            if (FieldUse.Find(pass.Field, record.Fields, "an ID", findings) is { } field) bound[pass.Parameter.Value] = field;
            else failed = true;
        }

        foreach (var name in template.Parameters.Where(name => !bound.ContainsKey(name) && page.By.All(pass => pass.Parameter.Value != name)))
            if (record.Key.FirstOrDefault(field => field.Name == name) is { } key) bound[name] = key;

        // What is left is implied only where one reading is possible: one parameter without a field, one key field without a parameter.
        var open = template.Parameters.Where(name => !bound.ContainsKey(name) && page.By.All(pass => pass.Parameter.Value != name)).ToList();
        var unread = record.Key.Where(field => !bound.ContainsValue(field)).ToList();
        if (open.Count == 1 && unread.Count == 1) bound[open[0]] = unread[0];
        else failed |= open.Count > 0;
        foreach (var name in open.Where(name => !bound.ContainsKey(name)))
            findings.Add(FindingCodes.UnboundParameter, PlaceOf(page, name), $"The page does not say which field of {record.Name} the parameter {name} stands for.",
                $"Add the line by: {{ {name}: FIELD }} to the page.", found: name,
                expected: "one of " + string.Join(", ", record.Fields.Where(field => !field.Secret).Select(field => field.Name)));
        return failed ? null : [.. template.Parameters.Select(name => bound[name])];
    }

    private PageParameter? Parameter(PageDefinition page, PathTemplate template, string name, SiteField field)
    {
        if (KeyType.For(field.Column, field.Type, field.Form) is not { } key)
        {
            var (message, remedy) = field.Type switch
            {
                FieldType.Any => ($"The source does not say of what type {field.Name} is, so an ID cannot be read.",
                    $"Say it in the record: fields: {{ {field.Name}: {{ type: text }} }}"),
                FieldType.Timestamp => ($"{field.Name} is a timestamp: the same moment has many spellings and fractions, so it makes no ID.",
                    "Use another key: a number, a text, a UUID or a date."),
                FieldType.Decimal => ($"{field.Name} is a decimal, which its source keeps as an inexact number: an ID could miss its record.",
                    "Use another key, or keep the number as text in the source."),
                _ => ($"{field.Name} is {field.Type.Word()}, which makes no ID.", "Use another key: a number, a text, a UUID or a date."),
            };
            findings.Add(FindingCodes.KeyTypeNotServed, PlaceOf(page, name), message, remedy,
                found: field.Type == FieldType.Any ? field.Column.DeclaredType : field.Type.Word(), expected: "integer, text, uuid, date or boolean");
            return null;
        }

        return Placed(template, new PageParameter(name, -1, "", "", field, key));
    }

    private void CheckUnique(PageDefinition page, SiteRecord record, List<SiteField> fields)
    {
        // The record's own key has been looked at already.
        if (record.Key.All(fields.Contains) || record.UniqueAssumed || record.Table.IsUnique([.. fields.Select(field => field.Name)])) return;
        var names = string.Join(" with ", fields.Select(field => field.Name));
        findings.Add(FindingCodes.IdNotUnique, page.By.Count > 0 ? page.By[0].Field.At : page.Path.At,
            $"The page finds a {record.One} by {names}, and nothing in {record.Table.Name} keeps that unique.",
            "Add a unique index in the source, or use the record's key.", found: names,
            expected: string.Join("; or ", record.Table.UniqueKeys.Select(columns => string.Join(" with ", columns))));
    }

    private void CompareSharing(PageHead first, PageHead second, IReadOnlyList<PageHead> heads)
    {
        var a = first.Template.QueryParameters.ToHashSet();
        var b = second.Template.QueryParameters.ToHashSet();
        if (a.Count != b.Count) return;
        var union = a.Union(b).ToHashSet();
        if (!a.SetEquals(b) && heads.Any(head => head.Template.SharesPathWith(first.Template) && union.SetEquals(head.Template.QueryParameters))) return;
        findings.Add(FindingCodes.SameAddresses, second.Definition.Path.At,
            $"The pages “{first.Name}” and “{second.Name}” are for the same addresses.",
            $"Give one of them another path; “{first.Name}” has its on line {first.Definition.Path.At.Line}.",
            found: second.Definition.Path.Value, expected: $"a path that is not {first.Definition.Path}");
    }

    private void ReportHidden(PageHead hiding, PageHead hidden, string example) =>
        findings.Add(FindingCodes.HiddenAddresses, hiding.Definition.Path.At,
            $"The page “{hiding.Name}” takes the address that a {hidden.Record.One} with the ID “{example}” has on the page “{hidden.Name}”.",
            $"Move one of the two to a path of its own; “{hidden.Name}” has its on line {hidden.Definition.Path.At.Line}.",
            found: hiding.Definition.Path.Value, expected: $"a path that {hidden.Definition.Path} does not match");

    /// <summary>An ID whose address on the second page is taken by the first; null where there is none.</summary>
    private static string? HiddenExample(PageHead first, PageHead second)
    {
        string? example = null;
        var decided = false;
        for (var i = 0; i < first.Template.Segments.Count; i++)
        {
            var mine = first.Template.Segments[i];
            var theirs = second.Template.Segments[i];
            if (mine.MatchesSameAs(theirs) && mine.Literal is not null) continue;
            if (mine.Literal is null && theirs.Literal is not null)
            {
                // Where theirs is the literal, theirs is tried first: they hide us, not we them.
                if (!decided || Taken(first, i, theirs.Literal) is null) return null;
                continue;
            }

            if (mine.Literal is not null)
            {
                if (theirs.Literal is not null || Taken(second, i, mine.Literal) is not { } taken) return null;
                example ??= taken;
                decided = true;
                continue;
            }

            if (mine.MatchesSameAs(theirs)) continue;
            var rank = (mine.Prefix.Length, mine.Suffix.Length).CompareTo((theirs.Prefix.Length, theirs.Suffix.Length));
            if (!decided && rank < 0) return null;
            if (Taken(second, i, Sample(first, i, mine)) is { } overlap) example ??= overlap;
            else return null;
            decided |= rank > 0;
        }

        return decided ? example : null;
    }

    /// <summary>A segment that a page's parameter segment would have for some ID.</summary>
    private static string Sample(PageHead page, int segment, SegmentPattern pattern) =>
        pattern.Prefix + (page.Parameters.FirstOrDefault(p => p.Segment == segment)?.Key is IntegerKey ? "7" : "x") + pattern.Suffix;

    /// <summary>The ID that a page would read from a segment; null where it would not be one of its own addresses.</summary>
    private static string? Taken(PageHead page, int segment, string text)
    {
        var pattern = page.Template.Segments[segment];
        if (page.Parameters.FirstOrDefault(p => p.Segment == segment) is not { } parameter) return null;
        if (text.Length <= pattern.Prefix.Length + pattern.Suffix.Length || !text.StartsWith(pattern.Prefix, StringComparison.Ordinal)
            || !text.EndsWith(pattern.Suffix, StringComparison.Ordinal)) return null;
        var id = text[pattern.Prefix.Length..^pattern.Suffix.Length];
        return parameter.Key.Read(id) is { Fault: KeyFault.None, IsCanonical: true } ? id : null;
    }

    private static Place PlaceOf(PageDefinition page, string parameter) =>
        page.Path.Of(Math.Max(0, page.Path.Value.IndexOf(parameter, StringComparison.Ordinal)));
}
