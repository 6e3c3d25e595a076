using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what a row shows: its columns and their links.</summary>
internal sealed class RowCompiler(RecordGraph graph, LinkCompiler links, string mount, FindingList findings)
{
    private const int DefaultColumns = 6;

    /// <summary>The fields to show: those in the app file, or the usual ones.</summary>
    /// <param name="all">If none are written: whether to show every field, or the label and the next few.</param>
    public List<FieldPath> Shown(IReadOnlyList<Written> show, SiteRecord record, bool all)
    {
        if (show.Count > 0)
            return
            [
                .. show.Select(name => graph.Find(name, record, "shown", findings))
                    .OfType<FieldPath>()
                    .DistinctBy(path => path.Name),
            ];
        var open = record.Fields.Where(field => !field.Secret).ToList();
        if (all)
            return [.. open.Select(FieldPath.Own)];
        var labels = record
            .Label.Where(hole => hole.Field is not null)
            .Select(hole => record.Find(hole.Field!.Value))
            .OfType<SiteField>();
        return [.. labels.Concat(open).Distinct().Take(DefaultColumns).Select(FieldPath.Own)];
    }

    /// <summary>The links in the app file, each at its place.</summary>
    /// <param name="own">
    /// A list's page for one of its records, whose link stays on the label. Null for none, or on another kind of page.
    /// </param>
    public PlacedLinks Place(
        IReadOnlyList<LinkDefinition> definitions,
        List<FieldPath> shown,
        Projections load,
        bool isList,
        PageHead? own = null
    )
    {
        var placed = new PlacedLinks([], null, []);
        foreach (var definition in definitions)
        {
            var column = Column(definition, shown);
            if (links.Compile(definition, load) is not { } link)
                continue;
            var isOnLabel = isList && column.Length == 0 && definition.Text is null && (own is null || own.Name == link.Page);
            if (definition.OnRow && isList)
            {
                if (placed.OnRow is not null)
                    ReportTaken(definition, placed.OnRow, "the row", shown, placed);
                placed = placed with { OnRow = link };
                if (shown.Count > 0)
                    column = LinkColumn(load.Record, shown);
            }
            else if (isOnLabel && shown.Count > 0)
            {
                column = LinkColumn(load.Record, shown);
            }

            if (column.Length == 0)
                placed.Apart.Add(link);
            else if (!placed.OnColumns.TryAdd(column, link))
                ReportTaken(definition, placed.OnColumns[column], $"the column {column}", shown, placed);
        }

        return placed;
    }

    /// <summary>The column that a link names; empty if it names none.</summary>
    private string Column(LinkDefinition definition, List<FieldPath> shown)
    {
        if (definition.Column is not { } name)
            return "";
        if (shown.TrueForAll(path => path.Name != name.Value))
            findings.AddUnknown(
                FindingCodes.LinkColumnNotShown,
                name,
                "column on this page called",
                shown.Select(path => path.Name)
            );
        return name.Value;
    }

    /// <summary>The column for a link if the app file names none: the label, or the first column.</summary>
    public static string LinkColumn(SiteRecord record, List<FieldPath> shown) =>
        (
            shown.Find(path => path.IsOwn && record.Label.Any(hole => hole.Field?.Value == path.Name))
            ?? shown.Find(path => path.Field.Style.Form != FieldForm.Picture)
            ?? shown[0]
        ).Name;

    public List<ViewColumn> Columns(List<FieldPath> shown, PlacedLinks placed, Projections load) =>
        [.. shown.Select(path => Column(path, placed.OnColumns.GetValueOrDefault(path.Name), load))];

    private ViewColumn Column(FieldPath path, LinkPlan? link, Projections load)
    {
        var field = path.Field;
        var owner = path.Owner(load.Record);
        var table = load.TableOf(path.Steps);
        var reference = links.Reference(owner, field, table, load);
        var label = field.Label is { } said
            ? path.IsOwn
                ? said
                : $"{StepLabel(path)}: {said}"
            : path.IsOwn
                ? reference is null
                    ? Labels.OfField(field.Name)
                    : Labels.OfReference(field.Name)
                : IsLabel(path)
                    ? StepLabel(path)
                    : $"{StepLabel(path)}: {Labels.OfField(field.Name).ToLowerInvariant()}";
        var isId = owner.Key.Contains(field) || owner.References.Any(key => key.Columns.Contains(field.Column.Name));
        var ordinal = reference is null ? load.Add(path) : load.AddHeld(path);
        return new ViewColumn(
            path.Name,
            label,
            field.Type,
            ordinal,
            isId,
            reference,
            link,
            link is null ? null : load.Label(load.Record, 0)
        )
        {
            Style = field.Style,
            IsShort = reference is null && IsShort(owner, field),
            Steps = Steps(path, load),
            When = field.When.Count == 0 || !path.IsOwn ? null : When(field, load),
            Download = Download(owner, field, table, load),
            File = field.Style.Files is { } place ? File(owner, field, table, place, load) : null,
        };
    }

    /// <summary>The longest of a few known words that stays on one line.</summary>
    private const int LongestWord = 24;

    /// <summary>Keys, codes with a pattern, and fields with a few short values.</summary>
    private static bool IsShort(SiteRecord owner, SiteField field) =>
        owner.Key.Contains(field)
        || field.Form.Pattern is not null
        || (
            field.Style.Choices.Count > 0
                ? field.Style.Choices.Values.All(label => label.Length <= LongestWord)
                : field.Column.Rules.OneOf?.All(word => word.Length <= LongestWord) == true
        );

    /// <summary>A field of another record that is its label is named by that record's noun.</summary>
    private static bool IsLabel(FieldPath path) =>
        path.Steps[^1].Other.Label is [{ Field: { } only }] && only.Value == path.Field.Name;

    private static string StepLabel(FieldPath path) =>
        path.Steps[^1].Key.Columns is [var only] ? Labels.OfReference(only) : Labels.Capital(path.Steps[^1].Other.One);

    private static List<StepPlan> Steps(FieldPath path, Projections load)
    {
        var steps = new List<StepPlan>();
        var table = 0;
        foreach (var step in path.Steps)
        {
            var key = load.Add(new ColumnRef(table, step.Key.Columns[0]), FieldType.Any);
            table = load.Join(table, step);
            steps.Add(new StepPlan(key, LinkCompiler.Presence(step, table, load)));
        }

        return steps;
    }

    internal static Func<Row, bool> When(SiteField field, Projections load) =>
        new RowTest(field.When, column => load.Add(load.Record.Fields.First(f => f.Column.Name == column.Name))).Holds;

    /// <summary>Where the file is that a field names; null if no address can lead to it.</summary>
    public FilePlan? File(SiteRecord owner, SiteField field, int table, FilePlace place, Projections load)
    {
        if (place.Folder is not null && !MediaCompiler.HasAddress(owner))
            return null;
        return new FilePlan(
            place,
            field.Style.Form,
            load.Add(new ColumnRef(table, field.Column.Name), field.Type),
            AddressOf(owner, field, MediaLookup.SegmentOf(field.Style.Form), place.Folder is null ? null : table, load)
        );
    }

    /// <summary>
    /// Where the bytes of a field can be downloaded; null for a field without bytes, or if its record has no address.
    /// </summary>
    private RecordAddress? Download(SiteRecord owner, SiteField field, int table, Projections load) =>
        !field.Secret && MediaCompiler.HoldsBytes(owner, field) && MediaCompiler.HasAddress(owner)
            ? AddressOf(owner, field, MediaLookup.BytesSegment, table, load)
            : null;

    /// <param name="table">The number of the record's table in the query; null if the address needs no key.</param>
    private RecordAddress AddressOf(SiteRecord owner, SiteField field, string segment, int? table, Projections load) =>
        new(
            $"{mount}/{RequestTarget.ReservedSegment}/{segment}/{Uri.EscapeDataString(owner.Name)}/"
                + $"{Uri.EscapeDataString(field.Name)}",
            table is not { } number
                ? []
                :
                [
                    .. owner.Key.Select(part => new LinkFiller(
                        KeyType.For(part.Column, part.Type, part.Form)!,
                        load.Add(new ColumnRef(number, part.Column.Name), part.Type),
                        part.Name
                    )),
                ]
        );

    private void ReportTaken(
        LinkDefinition definition,
        LinkPlan taken,
        string where,
        List<FieldPath> shown,
        PlacedLinks placed
    ) =>
        findings.Add(
            FindingCodes.LinkColumnTaken,
            definition.Column?.At ?? definition.To.At,
            $"A link to “{taken.Page}” stands on {where} already.",
            "Put this link on another shown column, or give it a text, so that it stands in a column of its own.",
            found: definition.Column?.Value ?? definition.To.Value,
            expected: string.Join(", ", shown.Select(path => path.Name).Where(name => !placed.OnColumns.ContainsKey(name)))
        );
}
