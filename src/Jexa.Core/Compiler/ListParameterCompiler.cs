using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compiles the parameters of lists. A list's conditions say what its parameters are compared with; a parameter without a
/// condition is compared with the field of its name.
/// </summary>
internal sealed class ListParameterCompiler(RecordGraph graph, FilterCompiler filters, FindingList findings)
{
    /// <summary>The columns that were reported: one index serves the filters of all pages.</summary>
    private readonly HashSet<(string Source, string Table, string Column)> _slow = [];

    /// <summary>The parameters. Null, and reported, if one of them stands for nothing.</summary>
    public List<PageParameter>? Compile(PageDefinition page, PathTemplate template, SiteRecord record)
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
            .Parameters.Select(name => Parameter(page, template, record, name, [.. uses.Where(use => use.Name == name)]))
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
        CheckFilters(
            page,
            record,
            [.. parameters.OfType<PageParameter>().Where(one => !keys.Contains(one.Field.Column.Name))],
            uses
        );
        return [.. parameters.OfType<PageParameter>()];
    }

    /// <summary>Reports what a list of a large table is narrowed by, if no index begins with it.</summary>
    private void CheckFilters(PageDefinition page, SiteRecord record, List<PageParameter> parameters, List<ParameterUse> uses)
    {
        if (!record.Table.IsLarge || record.Query is not null || record.Table.Kind != TableKind.Table)
            return;

        // Whatever else is asked, these conditions hold on each visit: an index for one of them serves all.
        var standing = page
            .Where.Where(condition =>
                IsServable(condition.Kind) && condition.Values.All(value => FilterCompiler.NameOf(value) is null)
            )
            .Select(condition => record.Find(condition.Field.Value)?.Column.Name)
            .OfType<string>()
            .ToList();
        if (record.Table.IsIndexed(standing))
            return;
        var narrowing = parameters
            .Where(one => one.Path is null && record.Find(one.Field.Name) is not null)
            .Where(one => uses.Where(use => use.Name == one.Name).All(use => IsServable(use.Kind)))
            .Select(one => (one.Field.Column.Name, At: ParameterMaker.PlaceOf(page, one.Name), Each: $"visit with {one.Name}"))
            .ToList();
        foreach (var (column, at, each) in narrowing)
            if (_slow.Add((record.SourceName, record.Table.Name, column)))
                IndexCheck.CheckFilter(findings, at, record.Table, column, each);
        if (narrowing.Count == 0 && standing.Count > 0 && _slow.Add((record.SourceName, record.Table.Name, standing[0])))
            IndexCheck.CheckFilter(findings, page.Where[0].Field.At, record.Table, standing[0], "visit");
    }

    /// <summary>Whether an index can find the rows that meet a condition of this kind.</summary>
    private static bool IsServable(ConditionKind kind) =>
        kind
            is ConditionKind.Equal
                or ConditionKind.OneOf
                or ConditionKind.From
                or ConditionKind.To
                or ConditionKind.Above
                or ConditionKind.Below
                or ConditionKind.StartsWith
                or ConditionKind.Year
                or ConditionKind.Month;

    private PageParameter? Parameter(
        PageDefinition page,
        PathTemplate template,
        SiteRecord record,
        string name,
        List<ParameterUse> uses
    )
    {
        var required = !template.QueryParameters.Contains(name) || page.Required.Any(word => word.Value == name);
        if (uses.Count > 0)
        {
            CheckUses(page, record, name, uses, template.Repeated.Contains(name));
            var use = uses[0];
            return ParameterMaker.Placed(
                template,
                new PageParameter(
                    name,
                    -1,
                    "",
                    "",
                    use.Path.Field,
                    use.Key,
                    required,
                    template.Repeated.Contains(name),
                    use.Path.IsOwn ? null : use.Path,
                    uses.TrueForAll(other => other.IsEqual)
                )
            );
        }

        if (record.QueryParameters.FirstOrDefault(parameter => parameter.Name == name) is { } filled)
            return ParameterMaker.Placed(template, OfQuery(filled, required));
        if (record.Find(name) is { Secret: false } field && KeyType.For(field.Column, field.Type, field.Form) is { } implied)
            return ParameterMaker.Placed(
                template,
                new PageParameter(name, -1, "", "", field, implied, required, template.Repeated.Contains(name))
            );

        // A condition with this parameter that could not be compiled has its own finding.
        if (!FilterCompiler.Names(page.Where).Contains(name))
            findings.Add(
                FindingCodes.UnboundParameter,
                ParameterMaker.PlaceOf(page, name),
                $"The parameter {name} of the list “{page.Name}” stands for nothing.",
                $"Add where: {{ FIELD: \"{{{name}}}\" }} to the page, or remove it from the path.",
                found: name,
                expected: "a parameter that a condition of the page names"
            );
        return null;
    }

    /// <summary>A parameter that fills one of the record's query.</summary>
    private static PageParameter OfQuery(QueryParameter filled, bool required)
    {
        var column = new ColumnSchema(filled.Name, "", filled.Type, true, null, false, false);
        var field = new SiteField(filled.Name, null, filled.Type, column, false, TextForm.Any, ValueStyle.Plain, []);
        var key = filled.Type is FieldType.Real or FieldType.Decimal
            ? NumberKey.Instance
            : KeyType.For(column, filled.Type, TextForm.Any) ?? TextKey.Exact;
        return new PageParameter(filled.Name, -1, "", "", field, key, required || filled.Default is null, IsEqual: false);
    }

    /// <summary>Reports conditions on one parameter that do not go together.</summary>
    private void CheckUses(PageDefinition page, SiteRecord record, string name, List<ParameterUse> uses, bool many)
    {
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

        if (many && uses.Exists(other => other.Kind != ConditionKind.OneOf))
            findings.Add(
                FindingCodes.FilterOfOtherType,
                ParameterMaker.PlaceOf(page, name),
                $"The parameter {name} may be given several times, but its condition takes one value.",
                $"Write one_of: \"{{{name}}}\", or leave the star out.",
                found: $"{name}*",
                expected: "a condition one_of"
            );
    }
}
