using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the parameters of pages about one record: the fields that make its ID.</summary>
internal sealed partial class IdParameterCompiler(RecordGraph graph, ParameterMaker parameterMaker, FindingList findings)
{
    /// <summary>The parameters. Null, and reported, if they do not find a record.</summary>
    public List<PageParameter>? Compile(PageDefinition page, PathTemplate template, SiteRecord record)
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
        var parameters = template.Parameters.Select((name, i) => parameterMaker.Of(page, template, name, fields[i])).ToList();
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
        if (open.Count == 1 && unread.Count == 1 && !FillsQuery(record, open[0]))
            bound[open[0]] = FieldPath.Own(unread[0]);
        else
            failed |= open.Count > 0;
        foreach (var name in open.Where(name => !bound.ContainsKey(name)))
            ReportUnbound(page, record, name);
        return failed ? null : [.. template.Parameters.Select(name => bound[name])];
    }

    private static bool FillsQuery(SiteRecord record, string name) =>
        record.QueryParameters.Any(parameter => parameter.Name == name);

    private void ReportUnbound(PageDefinition page, SiteRecord record, string name)
    {
        if (FillsQuery(record, name))
            findings.Add(
                FindingCodes.UnboundParameter,
                ParameterMaker.PlaceOf(page, name),
                $"The parameter {name} fills :{name} of the query, but no column says with which {name} a row "
                    + "was found: its address cannot be written.",
                $"If :{name} is the ID, remove its condition from the query: Jexa adds it. Otherwise add :{name} "
                    + $"AS {name} to the columns of the query.",
                found: name,
                expected: $"a column {name}"
            );
        else
            findings.Add(
                FindingCodes.UnboundParameter,
                ParameterMaker.PlaceOf(page, name),
                $"The page does not say which field of {record.Name} the parameter {name} stands for.",
                $"Add the line by: {{ {name}: FIELD }} to the page.",
                found: name,
                expected: "one of " + string.Join(", ", record.Fields.Where(field => !field.Secret).Select(field => field.Name))
            );
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
}
