using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A source that could be described, under its name in the app file.</summary>
internal sealed record DescribedSource(string Name, ISource Source, SourceSchema Schema);

/// <summary>Compares record definitions with what their sources hold.</summary>
internal sealed class RecordCompiler(IReadOnlyDictionary<string, DescribedSource?> sources, FindingList findings)
{
    private static readonly string[] UsualLabels = ["name", "title", "label", "caption", "subject"];

    /// <summary>The record; null, reported, where it cannot be served.</summary>
    public SiteRecord? Compile(RecordDefinition definition)
    {
        if (!sources.TryGetValue(definition.Source.Value, out var source))
        {
            findings.AddUnknown(FindingCodes.UnknownSource, definition.Source, "source", sources.Keys);
            return null;
        }

        // A source that cannot be reached has its own finding; nothing more can be said about its records.
        if (source is null) return null;
        if (source.Schema.Find(definition.Table.Value) is not { } table)
        {
            findings.AddUnknown(FindingCodes.UnknownTable, definition.Table, $"table or view in the source “{source.Name}” called",
                source.Schema.Tables.Select(t => t.Name));
            return null;
        }

        var fields = Fields(definition, table);
        var key = Key(definition, table, fields);
        if (key is null) return null;
        var label = Label(definition, fields, key);
        var visible = definition.Visible.Select(condition => Visible(condition, fields)).OfType<Condition>().ToList();
        var one = definition.One?.Value ?? Labels.OfRecord(definition.Name.Value);
        return new SiteRecord(definition.Name.Value, source.Source, source.Name, table, fields, key, label, visible,
            definition.UniqueAssumed, one, definition.Many?.Value ?? Labels.Plural(one));
    }

    private List<SiteField> Fields(RecordDefinition definition, TableSchema table)
    {
        foreach (var field in definition.Fields.Where(field => table.Find(field.Name.Value) is null))
            findings.AddUnknown(FindingCodes.UnknownField, field.Name, $"field of {table.Name} called", table.Columns.Select(c => c.Name));
        return
        [
            .. table.Columns.Select(column =>
            {
                var said = definition.Fields.FirstOrDefault(field => field.Name.Value == column.Name);
                var type = said?.Type is { } word && FieldTypes.TryParse(word.Value, out var stated) ? stated : column.Type;
                return new SiteField(column.Name, said?.Label?.Value, type, column, said?.Secret ?? false, Form(said, type));
            }),
        ];
    }

    private TextForm Form(FieldDefinition? field, FieldType type)
    {
        if (field is not ({ Pattern: not null } or { MaxLength: not null } or { SuchAs: not null })) return TextForm.Any;
        if (type != FieldType.Text)
        {
            findings.Add(FindingCodes.ValueOfOtherType, field.Name.At, $"pattern, max_length and such_as describe texts, but {field.Name} is {type.Word()}.",
                "Remove them: the type says what an ID looks like.", found: type.Word(), expected: "a text field");
            return TextForm.Any;
        }

        var pattern = field.Pattern;
        if (pattern is not null && !TextForm.IsPattern(pattern.Value))
        {
            findings.Add(FindingCodes.BadText, pattern.At, $"“{pattern}” is not a regular expression that can be used.",
                "Use a regular expression without look-around and back references.", found: pattern.Value, expected: "such as AV-[0-9]{4}");
            return TextForm.Any;
        }

        var form = new TextForm(pattern?.Value, field.MaxLength, field.SuchAs?.Value);
        if (field.SuchAs is { } example && TextKey.Of(false, form).Read(example.Value).Fault != KeyFault.None)
            findings.Add(FindingCodes.ValueOfOtherType, example.At, $"The example “{example}” is not of the form that {field.Name} declares.",
                "Write an example that the pattern matches.", found: example.Value, expected: pattern?.Value ?? $"at most {field.MaxLength} characters");
        return form;
    }

    private List<SiteField>? Key(RecordDefinition definition, TableSchema table, List<SiteField> fields)
    {
        if (definition.Key.Count == 0)
        {
            if (table.PrimaryKey.Count > 0) return [.. table.PrimaryKey.Select(name => fields.Find(field => field.Name == name)!)];
            findings.Add(FindingCodes.NoKey, definition.Table.At,
                $"{(table.Kind == TableKind.View ? "The view" : "The table")} {table.Name} has no primary key, and the record “{definition.Name}” says none.",
                "Add the line key: FIELD to the record, naming the field or fields that tell its rows apart.",
                expected: "one or more of " + string.Join(", ", fields.Select(field => field.Name)));
            return null;
        }

        var key = definition.Key.Select(name => Use(name, fields, "a key")).OfType<SiteField>().ToList();
        if (key.Count < definition.Key.Count) return null;
        if (!definition.UniqueAssumed && !table.IsUnique([.. key.Select(field => field.Name)]))
            findings.Add(FindingCodes.KeyNotUnique, definition.Key[0].At,
                $"Nothing in {table.Name} keeps {string.Join(" with ", key.Select(field => field.Name))} unique: two records may answer to one address.",
                "Add a primary key or a unique index in the source; or, where it cannot have one, the line unique: assumed to the record.",
                found: string.Join(", ", key.Select(field => field.Name)),
                expected: table.UniqueKeys.Count == 0 ? "columns with a primary key or a unique index"
                    : string.Join("; or ", table.UniqueKeys.Select(columns => string.Join(" with ", columns))));
        return key;
    }

    private List<TextHole> Label(RecordDefinition definition, List<SiteField> fields, List<SiteField> key)
    {
        if (definition.Label is not { } label)
        {
            var usual = fields.Find(field => UsualLabels.Contains(field.Name) && !field.Secret);
            return usual is null
                ? [.. key.SelectMany((field, i) => i == 0 ? [Hole(field)] : new[] { new TextHole(" ", null), Hole(field) })]
                : [Hole(usual)];
        }

        var holes = label.Value.AsSpan().ContainsAny('{', '}') ? TextHoles.Read(label, findings) : [new TextHole(null, label)];
        return [.. (holes ?? []).Where(hole => hole.Field is null || Use(hole.Field, fields, "a label") is not null)];

        TextHole Hole(SiteField field) => new(null, new Written(field.Name, definition.Name.At));
    }

    private Condition? Visible(ConditionDefinition condition, List<SiteField> fields)
    {
        if (fields.Find(field => field.Name == condition.Field.Value) is not { } field)
        {
            findings.AddUnknown(FindingCodes.UnknownField, condition.Field, "field called", fields.Select(f => f.Name));
            return null;
        }

        var values = condition.Values.Select(value => Value(value, field)).OfType<Operand>().ToList();
        if (values.Count < condition.Values.Count) return null;
        var column = ColumnRef.Own(field.Column.Name);
        return condition.Kind switch
        {
            ConditionKind.Equal => new Condition.Equal(column, values[0]),
            ConditionKind.Not => new Condition.Differs(column, values[0]),
            ConditionKind.OneOf => new Condition.OneOf(column, values),
            ConditionKind.Empty => new Condition.IsEmpty(column),
            _ => new Condition.IsFilled(column),
        };
    }

    /// <summary>A value of the app file, typed as its field is: text never meets a number.</summary>
    private Operand.Written? Value(Written text, SiteField field)
    {
        Constant? value = field.Type switch
        {
            FieldType.Integer => long.TryParse(text.Value, out var whole) ? new Constant.Whole(whole) : null,
            FieldType.Boolean => text.Value is "true" or "false" ? new Constant.Truth(text.Value == "true") : null,
            FieldType.Date => DateKey.Instance.Read(text.Value).Value,
            FieldType.Real or FieldType.Decimal => double.TryParse(text.Value, out var real) && double.IsFinite(real) ? new Constant.Real(real) : null,
            FieldType.Uuid => UuidKey.Instance.Read(text.Value).Value,
            FieldType.Bytes => null,
            _ => new Constant.Text(text.Value),
        };
        if (value is not null) return new Operand.Written(value);
        findings.Add(FindingCodes.ValueOfOtherType, text.At, $"“{text}” is not a value of {field.Name}, which is {field.Type.Word()}.",
            "Write a value of the field's type.", found: text.Value,
            expected: field.Type switch
            {
                FieldType.Boolean => "true or false",
                FieldType.Date => "a date, such as 2024-02-29",
                FieldType.Bytes => "a field that is not bytes",
                _ => "a number",
            });
        return null;
    }

    private SiteField? Use(Written name, List<SiteField> fields, string asWhat) => FieldUse.Find(name, fields, asWhat, findings);
}

/// <summary>Looks up a field where its value will be seen.</summary>
internal static class FieldUse
{
    /// <summary>The field; null, reported, where there is none or it is secret.</summary>
    public static SiteField? Find(Written name, IReadOnlyList<SiteField> fields, string asWhat, FindingList findings)
    {
        var field = fields.FirstOrDefault(field => field.Name == name.Value);
        if (field is null)
        {
            findings.AddUnknown(FindingCodes.UnknownField, name, "field called", fields.Where(f => !f.Secret).Select(f => f.Name));
            return null;
        }

        if (!field.Secret) return field;
        findings.Add(FindingCodes.SecretShown, name.At, $"The field {name} is secret and cannot be {asWhat}.", "Use another field, or remove secret: true.",
            found: name.Value, expected: "a field that is not secret");
        return null;
    }
}
