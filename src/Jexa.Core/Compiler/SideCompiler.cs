using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles side lists.</summary>
internal sealed class SideCompiler(
    IReadOnlyDictionary<string, PageHead?> pages,
    RecordGraph graph,
    FilterCompiler filters,
    TrailCompiler trails,
    FindingList findings
)
{
    /// <summary>The side list; null, and reported, if it cannot be made.</summary>
    public SidePlan? Compile(PageHead head, SideDefinition side)
    {
        if (graph.Find(side.By, head.Record, "a side list", findings) is not { } path || Part(side, path) is not { } part)
            return null;
        if (Target(head, side, path, part) is not var (target, number))
            return null;
        var load = new Projections(head.Record);
        var column = load.Ref(path);
        load.Add(column, path.Field.Type);
        var step =
            part != GroupPart.Whole
                ? null
                : graph
                    .Steps(path.Owner(head.Record))
                    .FirstOrDefault(step => step.Key.Columns is [var only] && only == path.Field.Column.Name);
        var label = Label(path, part, step, load);
        var compiled = ListCompiler.Filters(target, filters, load);
        var search = target.Name == head.Name ? Searched(target, load) : [];
        var group = new GroupQuery(
            head.Record.Seen,
            load.Joins,
            load.Columns,
            [],
            column,
            part,
            side.Descending,
            SidePlan.MaxGroups + 1
        );
        var parameter = target.Parameters[number];
        var all = parameter.Required ? trails.ListOf(head.Record) : target;
        return new SidePlan(Title(side, path, part, step), head.Record, group, compiled, search, label, parameter.Key)
        {
            Clocks = part != GroupPart.Whole && path.Field.Type == FieldType.Timestamp ? path.Field.Style.Conventions : null,
            Field = path.Name,
            Target = target,
            Parameter = number,
            Carried =
            [
                .. target.Parameters.Select(p =>
                    head.Parameters.ToList().FindIndex(own => own.Name == p.Name && own.Key.Type == p.Key.Type)
                ),
            ],
            IsSelf = target.Name == head.Name,
            All = all?.AddressWithoutParameters is not null || all == target ? all : null,
        };
    }

    /// <summary>Whether the side list has values, years or months. Null, and reported, if the field has no such parts.</summary>
    private GroupPart? Part(SideDefinition side, FieldPath path)
    {
        var part = side.Part?.Value switch
        {
            "year" => GroupPart.Year,
            "month" => GroupPart.Month,
            _ => GroupPart.Whole,
        };
        if (part == GroupPart.Whole || path.Field.Type is FieldType.Date or FieldType.Timestamp)
            return part;
        findings.Add(
            FindingCodes.FilterOfOtherType,
            side.Part!.At,
            $"{path.Name} is {path.Field.Type.Word()} and has no {side.Part}s to list.",
            "Take a date or a moment, or remove “part”.",
            found: path.Field.Type.Word(),
            expected: "a date or a moment"
        );
        return null;
    }

    /// <summary>The text of an entry: the other record's label, or the value.</summary>
    private static TextPlan Label(FieldPath path, GroupPart part, FieldStep? step, Projections load) =>
        step is not null
            ? load.Label(step.Other, load.Join(load.TableOf(path.Steps), step))
            : new TextPlan([
                TextPiece.Of(
                    0,
                    part == GroupPart.Whole ? path.Field.Type : FieldType.Integer,
                    part == GroupPart.Year,
                    part == GroupPart.Month ? Months(path.Field.Style) : path.Field.Style
                ),
            ]);

    private static string Title(SideDefinition side, FieldPath path, GroupPart part, FieldStep? step) =>
        side.Title?.Value
        ?? (
            part != GroupPart.Whole ? Labels.Capital(side.Part!.Value)
            : path.Field.Label is { } own ? own
            : step is null ? Labels.OfField(path.Field.Name)
            : Labels.OfReference(path.Field.Name)
        );

    /// <summary>The columns that a search looks in.</summary>
    private List<ColumnRef> Searched(PageHead list, Projections load) =>
        [
            .. list
                .Definition.Search.Select(name => graph.Find(name, list.Record, "searched", findings))
                .OfType<FieldPath>()
                .Select(load.Ref),
        ];

    /// <summary>The target list of a side list: the one in the app file, this page, or the first other one.</summary>
    private (PageHead Target, int Parameter)? Target(PageHead head, SideDefinition side, FieldPath path, GroupPart part)
    {
        IEnumerable<PageHead> candidates;
        if (side.To is { } to)
        {
            if (!pages.TryGetValue(to.Value, out var named))
            {
                findings.AddUnknown(FindingCodes.UnknownPage, to, "page", pages.Keys);
                return null;
            }

            candidates = named is null ? [] : [named];
        }
        else
        {
            candidates = pages.Values.OfType<PageHead>().OrderBy(page => page.Name != head.Name);
        }

        foreach (var page in candidates.Where(page => page.Definition.Kind == PageKind.List && page.Kind == head.Kind))
        {
            var number = page.Parameters.ToList().FindIndex(parameter => Takes(parameter, path, part));
            var others = page.Parameters.Where((parameter, i) => i != number && parameter.Required);
            if (number >= 0 && others.All(parameter => head.Parameters.Any(own => own.Name == parameter.Name)))
                return (page, number);
        }

        var place = side.To ?? side.By;
        findings.Add(
            FindingCodes.NoSuchList,
            place.At,
            $"No list of {head.Record.Many} is filtered by {(part == GroupPart.Whole ? "" : $"the {side.Part} of ")}{path.Name}.",
            "Give this page, or another list of the same records, a parameter for it.",
            found: place.Value,
            expected: part == GroupPart.Whole
                ? $"a list with where: {{ {path.Name}: \"{{…}}\" }}"
                : $"a list with where: {{ {path.Name}: {{ {side.Part}: \"{{…}}\" }} }}"
        );
        return null;
    }

    private static ValueStyle Months(ValueStyle style) =>
        style with
        {
            Choices = Enumerable.Range(1, 12).ToDictionary(month => month.ToString(), style.Conventions.MonthAlone),
        };

    private static bool Takes(PageParameter parameter, FieldPath path, GroupPart part)
    {
        if (parameter.Field != path.Field || (parameter.Path?.Name ?? parameter.Field.Name) != path.Name)
            return false;
        return part switch
        {
            GroupPart.Year => parameter.Key == DatePartKey.Year,
            GroupPart.Month => parameter.Key == DatePartKey.Month,
            _ => (parameter.IsEqual || parameter.Many) && parameter.Key is not (DatePartKey or WordKey),
        };
    }
}
