using System.Diagnostics;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Contracts;

/// <summary>A page as programs see it: its addresses, its answers, and what can be sent to it.</summary>
/// <param name="Fields">Of its record, or of each of its records.</param>
/// <param name="Asked">The fields of its form; empty if it has none.</param>
/// <param name="Orders">What a list can be ordered by.</param>
public sealed record PageContract(
    Page Page,
    IReadOnlyList<ParameterContract> Parameters,
    IReadOnlyList<FieldContract> Fields,
    IReadOnlyList<BlockContract> Blocks,
    IReadOnlyList<AskedContract> Asked,
    IReadOnlyList<string> Orders
)
{
    /// <summary>The page's name in the app file.</summary>
    public string Name => Page.Name;

    /// <summary>The page's kind, such as <c>detail</c>.</summary>
    public string Kind => Page.Kind;

    /// <summary>What programs get from the page and may send to it.</summary>
    public PageCalls Calls => Page.Head.Definition.Kind.Calls;

    /// <summary>Whether it lists the lists of the app.</summary>
    public bool ShowsLists => Page is TextPage { Lists.Count: > 0 };

    /// <summary>Whether it searches several lists.</summary>
    public bool Searches => Page is TextPage { Searched.Count: > 0 };

    /// <summary>The parameters of the ID of its record or records; empty if no page shows one.</summary>
    public IReadOnlyList<string> IdParameters =>
        Page switch
        {
            ListPage list => list.Shape.RecordLink?.ParameterNames ?? [],
            RecordPage one => one.Own.ParameterNames,
            _ => [],
        };

    /// <summary>The contracts of all pages that are served, in their order.</summary>
    public static IReadOnlyList<PageContract> Of(Site site) => [.. site.Pages.Select(Of)];

    /// <summary>What the page does, in a few words.</summary>
    public string Summary =>
        Page.Record is { } record
            ? PageKind.Say(Page.Head.Definition.Kind.Summary, record.One, record.Many)
            : Page.Head.Definition.Kind.Summary;

    /// <summary>The contract of a page.</summary>
    public static PageContract Of(Page page) =>
        new(
            page,
            [.. page.Parameters.Select(parameter => Of(page, parameter))],
            Shown(page),
            page is DetailPage detail ? [.. detail.Blocks.Select(block => Of(block.Shape))] : [],
            AskedBy(page),
            page is ListPage list
                ?
                [
                    .. list
                        .Plan.Orders.Select(order => order.Name)
                        .Where(name => list.Shape.Columns.Any(column => column.OrderName == name)),
                ]
                : []
        );

    private static ParameterContract Of(Page page, PageParameter parameter) =>
        parameter.Key switch
        {
            BytesKey => new ParameterContract(parameter, ValueKind.Text, []),
            WordKey word => new ParameterContract(parameter, ValueKind.Word, word.Words),
            _ when parameter.Key == DatePartKey.Year => new ParameterContract(parameter, ValueKind.Year, []),
            _ when parameter.Key == DatePartKey.Month => new ParameterContract(
                parameter,
                ValueKind.Month,
                [],
                page is ListPage && ParameterReader.YearOf(page, parameter) is var year and >= 0
                    ? page.Parameters[year].Name
                    : null
            ),
            _ => new ParameterContract(parameter, KindOf(parameter.Key.Type), []),
        };

    private static List<FieldContract> Shown(Page page) =>
        page switch
        {
            ListPage list => [.. list.Shape.Columns.Select(column => Of(column, page.Record!))],
            DetailPage detail => [.. detail.Shape.Fields.Select(column => Of(column, page.Record!))],
            EditPage edit =>
            [
                .. edit.Form.Entries.Where(entry => !entry.Field.Secret).Select(entry => Of(entry.Shown!, page.Record!)),
            ],
            DeletePage delete =>
            [
                .. delete
                    .Columns.Where(column => !column.Field.Secret)
                    .Select(column => new FieldContract(
                        column.Field.Name,
                        column.Field.Label ?? Formats.Labels.OfField(column.Field.Name),
                        KindOf(column.Field.Type),
                        column.Field.Column.Nullable,
                        false,
                        FieldShape.Plain
                    )),
            ],
            NewPage fresh =>
            [
                .. fresh.Form.Entries.Select(entry => new FieldContract(
                    entry.Name,
                    entry.Field.Label,
                    entry.Field.Type == FieldType.Decimal ? ValueKind.Text : KindOf(entry.Field.Type),
                    true,
                    false,
                    FieldShape.Plain
                )),
            ],
            TextPage => [],
            _ => throw new UnreachableException($"A page of kind {page.Kind} has no contract."),
        };

    private static FieldContract Of(ViewColumn column, SiteRecord record) =>
        new(
            column.Name,
            column.Label,
            KindOf(column.Type),
            column.Steps.Count > 0 || record.Query is not null || record.Find(column.Name)?.Column.Nullable != false,
            column.When is not null,
            ShapeOf(column)
        )
        {
            IdParameters = IdOf(column),
        };

    private static FieldShape ShapeOf(ViewColumn column) =>
        column.Reference is not null ? FieldShape.Reference
        : column.Picture is not null ? FieldShape.Picture
        : column.File is not null ? FieldShape.StoredFile
        : FieldShape.Plain;

    private static IReadOnlyList<string> IdOf(ViewColumn column) => column.Reference?.Link?.ParameterNames ?? [];

    /// <summary>Fields of a block's rows may be empty: they belong to another record, or there are several ways to it.</summary>
    private static BlockContract Of(BlockShape shape) =>
        new(
            shape.Name,
            shape.Title,
            [
                .. (shape.Rows?.Columns ?? []).Select(column => new FieldContract(
                    column.Name,
                    column.Label,
                    KindOf(column.Type),
                    true,
                    column.When is not null,
                    ShapeOf(column)
                )
                {
                    IdParameters = IdOf(column),
                }),
            ],
            shape.Notice is not null,
            shape.Rows?.RecordLink?.ParameterNames ?? []
        );

    private static List<AskedContract> AskedBy(Page page) =>
        (
            page switch
            {
                EditPage edit => edit.Form,
                NewPage fresh => fresh.Form,
                _ => null,
            }
        )
            is not { } form
            ? []
            :
            [
                .. form.Entries.Select(entry => new AskedContract(
                    entry.Field,
                    KindOf(entry.Field.Type),
                    entry.Reference?.Other,
                    page is NewPage
                        && entry.Field is { Rules.Required: true, Default: "", LeftToSource: false }
                        && page.Parameters.All(parameter => parameter.Field.Name != entry.Name)
                )),
            ];

    /// <summary>The kind of value that a field of this type has in JSON and in addresses.</summary>
    public static ValueKind KindOf(FieldType type) =>
        type switch
        {
            FieldType.Integer => ValueKind.Whole,
            FieldType.Decimal => ValueKind.Decimal,
            FieldType.Real => ValueKind.Real,
            FieldType.Boolean => ValueKind.Boolean,
            FieldType.Text => ValueKind.Text,
            FieldType.Uuid => ValueKind.Uuid,
            FieldType.Date => ValueKind.Date,
            FieldType.Timestamp => ValueKind.Moment,
            FieldType.Bytes => ValueKind.Bytes,
            FieldType.Any => ValueKind.Any,
            _ => throw new UnreachableException($"A field of type {type} has no kind of values."),
        };
}
