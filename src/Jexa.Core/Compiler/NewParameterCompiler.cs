using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles the parameters of pages for new records. Each fills a field, usually the foreign key to the record that the new one
/// belongs to.
/// </summary>
internal sealed class NewParameterCompiler(RecordGraph graph, ParameterMaker parameterMaker, FindingList findings)
{
    /// <summary>The parameters. Null, and reported, if one of them fills nothing.</summary>
    public List<PageParameter>? Compile(PageDefinition page, PathTemplate template, SiteRecord record)
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
        var parameters = template.Parameters.Select(name => Parameter(page, template, record, name)).ToList();
        return parameters.Contains(null) ? null : [.. parameters.OfType<PageParameter>()];
    }

    private PageParameter? Parameter(PageDefinition page, PathTemplate template, SiteRecord record, string name)
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
                ParameterMaker.PlaceOf(page, name),
                $"The parameter {name} of “{page.Name}” fills no field of a new {record.One}.",
                $"Add the line by: {{ {name}: FIELD }} to the page.",
                found: name,
                expected: "a field, or the record that a foreign key leads to"
            );
        var parameter = field is null ? null : parameterMaker.Of(page, template, name, FieldPath.Own(field));
        return parameter is null
            ? null
            : parameter with
            {
                Required = parameter.Segment >= 0 || page.Required.Any(word => word.Value == name),
            };
    }
}
