using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles forms: their fields, inputs and checks.</summary>
internal sealed partial class FormCompiler(
    RecordGraph graph,
    RowCompiler rows,
    ChangeCompiler changes,
    IReadOnlyList<RecordDefinition> definitions,
    Conventions conventions,
    FindingList findings
)
{
    private readonly ChoiceCompiler _choices = new(graph);

    /// <param name="load">The load of the record; null for a new one.</param>
    public FormPlan Compile(PageHead head, Projections? load)
    {
        var record = head.Record;
        var kept = changes.Kept(record).Select(field => field.Field).ToHashSet();
        var isNew = load is null;
        var made = isNew
            ? record
                .Key.Where(field =>
                    field is { Type: FieldType.Uuid, Column: { Automatic: false, Default: null } }
                    && graph.FindStep(record, field.Name) is null
                )
                .ToList()
            : [];
        var asked =
            head.Definition.Form.Count > 0
                ? head.Definition.Form.Select(name => Named(name, record, kept)).OfType<SiteField>().Distinct().ToList()
                :
                [
                    .. record.Fields.Where(field =>
                        WhyNot(field, record, kept) is null
                        && (!field.Secret || (isNew && field.Column is { Nullable: false, Default: null }))
                        && !(
                            field.Type == FieldType.Uuid
                            && record.Key.Contains(field)
                            && graph.FindStep(record, field.Name) is null
                        )
                    ),
                ];
        made = [.. made.Where(field => !asked.Contains(field))];
        var entries = asked.Select(field => Entry(field, record, load)).ToList();
        if (isNew)
            CheckRequired(head, record, asked, [.. kept, .. made]);
        return new FormPlan(entries, Unique(record, asked), References(record, asked), made)
        {
            Tied = _choices.Tied(record, entries, isNew),
        };
    }

    private SiteField? Named(Written name, SiteRecord record, HashSet<SiteField> kept)
    {
        if (record.Find(name.Value) is not { } field)
        {
            findings.AddUnknown(FindingCodes.UnknownField, name, "field called", record.Fields.Select(f => f.Name));
            return null;
        }

        if (WhyNot(field, record, kept) is not { } why)
            return field;
        findings.Add(
            FindingCodes.NotWritable,
            name.At,
            $"No form can fill {name}: {why}.",
            $"Remove “{name}” from the form.",
            found: name.Value,
            expected: "one of " + string.Join(", ", record.Fields.Where(f => WhyNot(f, record, kept) is null).Select(f => f.Name))
        );
        return null;
    }

    private string? WhyNot(SiteField field, SiteRecord record, HashSet<SiteField> kept) =>
        field.Column.Automatic ? "the source fills it by itself"
        : kept.Contains(field) ? "Jexa keeps it"
        : field.Type == FieldType.Bytes && graph.FindStep(record, field.Name) is null ? "it is bytes"
        : field.Type == FieldType.Any ? "the source does not say of what type it is (say it in the record: type: …)"
        : null;

    private void CheckRequired(PageHead head, SiteRecord record, List<SiteField> asked, List<SiteField> filled)
    {
        foreach (var field in record.Fields)
        {
            if (
                field.Column is { Nullable: true } or { Default: not null } or { Automatic: true }
                || asked.Contains(field)
                || filled.Contains(field)
            )
                continue;
            if (head.Parameters.Any(parameter => parameter.Required && parameter.Field == field))
                continue;
            findings.Add(
                FindingCodes.RequiredNotAsked,
                head.Definition.Form.Count > 0 ? head.Definition.Form[0].At : head.Definition.Record.At,
                $"Every {record.One} must have {field.Name}, which has no default, and the form of “{head.Name}” "
                    + "does not ask for it.",
                $"Add {field.Name} to the form, or give its column a default in the source.",
                found: string.Join(", ", asked.Select(f => f.Name)),
                expected: field.Name
            );
        }
    }

    private FormEntry Entry(SiteField field, SiteRecord record, Projections? load)
    {
        var said = definitions
            .First(definition => definition.Name.Value == record.Name)
            .Fields.FirstOrDefault(one => one.Name.Value == field.Name);
        var input = said?.Input ?? InputDefinition.None;
        var reference =
            graph.FindStep(record, field.Name) is { Key.Columns: [var only] } step && only == field.Column.Name
                ? _choices.Of(step)
                : null;
        var choices = reference is null && !field.Secret ? Choices(field) : [];
        var kind = Kind(field, reference, choices);
        var rules = Rules(field, input, kind, load is null);
        var label = field.Label ?? (reference is null ? Labels.OfField(field.Name) : Labels.OfReference(field.Name));
        if (field.Style.Unit is { } unit)
            label += $" ({unit})";
        var form = new FormField(
            field.Name,
            label,
            input.Help?.Value,
            kind,
            field.Type,
            field.Column,
            conventions,
            rules,
            choices,
            field.Secret,
            load?.AddStored(field) ?? -1,
            load?.Add(field) ?? -1,
            "",
            input.Default is null && field.Column.Default is not null && Literal(field) is null
        );
        form = form with
        {
            IsJson = field.Style.Form == FieldForm.Json,
            Upload = kind is InputKind.Picture or InputKind.Text ? field.Upload : null,
            IsEpoch = kind == InputKind.Moment && field.Type == FieldType.Integer,
        };
        form = form with { Default = Default(form, field, input) };
        var shown = load is null
            ? null
            : new ViewColumn(field.Name, label, field.Type, form.Typed, record.Key.Contains(field), null, null, null)
            {
                Style = field.Style,
            };
        var picture = load is not null && field.Style.Files is { } place ? rows.File(record, field, 0, place, load) : null;
        return new FormEntry(form, field, reference, shown, picture);
    }

    private static InputKind Kind(SiteField field, ReferenceChoices? reference, IReadOnlyList<FieldChoice> choices) =>
        field switch
        {
            { Secret: true } => InputKind.Secret,
            _ when reference is not null => InputKind.Reference,
            _ when choices.Count > 0 => InputKind.Choice,
            { Type: FieldType.Boolean } => InputKind.Boolean,
            { Type: FieldType.Integer, Style.Form: FieldForm.Epoch } => InputKind.Moment,
            { Type: FieldType.Integer } => InputKind.Whole,
            { Type: FieldType.Decimal or FieldType.Real } => InputKind.Number,
            { Type: FieldType.Date } => InputKind.Date,
            { Type: FieldType.Timestamp } => InputKind.Moment,
            { Style.Form: FieldForm.Long or FieldForm.Markdown or FieldForm.Json } => InputKind.LongText,
            { Style.Form: FieldForm.Picture } => InputKind.Picture,
            _ => InputKind.Text,
        };

    /// <summary>The choices: those in the app file, else those that the source's check constraint allows.</summary>
    private static List<FieldChoice> Choices(SiteField field)
    {
        if (field.Style.Choices.Count > 0)
            return [.. field.Style.Choices.Select(choice => new FieldChoice(choice.Key, choice.Value))];
        return field.Column.Rules.OneOf is { } values && field.Type is FieldType.Text or FieldType.Integer
            ? [.. values.Where(value => value.Length > 0).Select(value => new FieldChoice(value, Labels.Capital(value)))]
            : [];
    }

    private FieldRules Rules(SiteField field, InputDefinition input, InputKind kind, bool isNew)
    {
        var column = field.Column;
        var (least, first) = Limit(field, input.Min);
        var (most, last) = Limit(field, input.Max);
        var must = !column.Nullable && !(isNew && column.Default is not null && Literal(field) is null) && !MayBeEmptyText(field);
        if (input.Required is { Value: "false" } && !column.Nullable && field.Type is not FieldType.Text)
            findings.Add(
                FindingCodes.NotWritable,
                input.Required.At,
                $"{field.Name} cannot be left empty: its column takes no empty values.",
                "Remove required: false.",
                found: "false",
                expected: "true"
            );
        var required = input.Required is { } word ? word.Value == "true" || (must && field.Type != FieldType.Text) : must;
        return new FieldRules(
            required && kind != InputKind.Boolean && (isNew || kind != InputKind.Secret),
            Least(field.Form.MaxLength, column.Rules.MaxLength),
            Greatest(least, column.Rules.Least),
            Smallest(most, column.Rules.Most),
            first,
            last,
            column.Rules.Precision,
            column.Rules.Scale,
            field.Form.Whole(ignoreCase: false),
            field.Form.Pattern,
            field.Form.Example
        );
    }

    /// <summary>
    /// Whether the source itself uses an empty text for “nothing”: as the column's default, or as an allowed word.
    /// </summary>
    private static bool MayBeEmptyText(SiteField field) =>
        field.Type == FieldType.Text && (Literal(field) == "" || field.Column.Rules.OneOf?.Contains("") == true);

    private static int? Least(int? one, int? other) => one is null || other < one ? other : one;

    private static decimal? Greatest(decimal? one, decimal? other) => one is null || other > one ? other : one;

    private static decimal? Smallest(decimal? one, decimal? other) => one is null || other < one ? other : one;

    private (decimal? Number, DateTime? Moment) Limit(SiteField field, Written? said)
    {
        if (said is null)
            return default;
        if (
            field.Type is FieldType.Integer or FieldType.Decimal or FieldType.Real
            && decimal.TryParse(
                said.Value,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
            return (number, null);
        if (
            field.Type is FieldType.Date or FieldType.Timestamp
            && TypedText.TryTimestamp(Encoding.UTF8.GetBytes(said.Value), out var ticks)
        )
            return (null, new DateTime(ticks));
        findings.Add(
            FindingCodes.ValueOfOtherType,
            said.At,
            $"“{said}” is no limit of {field.Name}, which is {field.Type.Word()}.",
            "Write a value of the field's type.",
            found: said.Value,
            expected: field.Type is FieldType.Date or FieldType.Timestamp
                ? "a date, such as 2024-02-29"
                : "a number, for a field that is one"
        );
        return default;
    }

    /// <summary>
    /// The first value in the form of a new record: the app file's, else the source's default if that is a plain value.
    /// </summary>
    private string Default(FormField form, SiteField field, InputDefinition input)
    {
        if (input.Default is not { } said)
            return Literal(field) ?? "";
        if (said.Value == FormField.Now && (form.IsEpoch || field.Type is FieldType.Date or FieldType.Timestamp))
            return FormField.Now;
        var reading = FieldReader.Read(form, said.Value);
        if (reading.Value is { } value)
            return form.Input == InputKind.Reference ? said.Value : FieldText.Of(form, value);
        findings.Add(
            FindingCodes.ValueOfOtherType,
            said.At,
            $"“{said}” cannot be the default of {field.Name}. {reading.Fault}",
            "Write a value that the field can have.",
            found: said.Value,
            expected: form.Choices.Count > 0
                ? "one of " + string.Join(", ", form.Choices.Select(choice => choice.Value))
                : $"a value that is {field.Type.Word()}"
        );
        return "";
    }

    /// <summary>A column's default, if it is a plain value; null if it is computed, or there is none.</summary>
    private static string? Literal(SiteField field)
    {
        if (field.Column.Default is not { } said || field.Secret)
            return null;
        said = said.Trim();
        while (said.Length > 2 && said[0] == '(' && said[^1] == ')')
            said = said[1..^1].Trim();
        if (CastLiteral().Match(said) is { Success: true } cast)
            said = cast.Groups[1].Value;
        var text = said.Length > 1 && said[0] == '\'' && said[^1] == '\'' ? said[1..^1].Replace("''", "'") : null;
        return field.Type switch
        {
            _ when said.Equals("NULL", StringComparison.OrdinalIgnoreCase) => "",
            FieldType.Boolean => said.ToUpperInvariant() switch
            {
                "0" or "FALSE" => "false",
                "1" or "TRUE" => "true",
                _ => null,
            },
            FieldType.Integer or FieldType.Decimal or FieldType.Real => decimal.TryParse(
                text ?? said,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out _
            )
                ? text ?? said
                : null,
            FieldType.Text or FieldType.Date or FieldType.Timestamp => text,
            _ => null,
        };
    }

    /// <summary>A literal with a type after it, as PostgreSQL writes it: <c>''::character varying</c>.</summary>
    [GeneratedRegex("""^('(?:[^']|'')*'|[-+0-9.]+)::["\w .(),\[\]]+$""")]
    private static partial Regex CastLiteral();

    /// <summary>The unique keys that a form can violate.</summary>
    private static List<UniqueCheck> Unique(SiteRecord record, List<SiteField> asked)
    {
        var checks = new List<UniqueCheck>();
        foreach (var columns in record.Table.UniqueKeys)
        {
            var fields = columns.Select(column => record.Fields.First(field => field.Column.Name == column)).ToList();
            if (!fields.Exists(asked.Contains) || fields.Exists(field => field.Secret))
                continue;
            var load = new Projections(record);
            foreach (var field in record.Key)
                load.AddStored(field);
            var where = fields
                .Select(
                    (field, i) =>
                        (Condition)new Condition.Equal(ColumnRef.Own(field.Column.Name), new Operand.Argument(i, field.Type))
                )
                .ToList();
            checks.Add(
                new UniqueCheck(
                    fields,
                    record.Source.Prepare(new RecordQuery(RecordRows.Whole(record.Rows), [], load.Columns, where, null, [], 2))
                )
            );
        }

        return checks;
    }

    /// <summary>
    /// Foreign keys that choices cannot check: those of several columns, and those to tables without a record kind.
    /// </summary>
    private List<ReferenceCheck> References(SiteRecord record, List<SiteField> asked)
    {
        var checks = new List<ReferenceCheck>();
        foreach (var key in record.References)
        {
            var fields = key.Columns.Select(column => record.Fields.First(field => field.Column.Name == column)).ToList();
            if (!fields.Exists(asked.Contains) || fields.Exists(field => field.Secret))
                continue;
            var other = graph.Other(record, key);
            if (fields.Count == 1 && other is not null && graph.FindStep(record, fields[0].Name) is not null)
                continue;
            var where = key
                .References.Select(
                    (column, i) => (Condition)new Condition.Equal(ColumnRef.Own(column), new Operand.Argument(i, fields[i].Type))
                )
                .ToList();
            var query = new RecordQuery(
                other?.Seen ?? RecordRows.Whole(RowOrigin.Of(key.Table)),
                [],
                [new Projection(ColumnRef.Own(key.References[0]), FieldType.Any)],
                where,
                null,
                [],
                1
            );
            checks.Add(new ReferenceCheck(fields, record.Source.Prepare(query), other?.One ?? "record"));
        }

        return checks;
    }
}
