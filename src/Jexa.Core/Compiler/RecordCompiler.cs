using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compares record definitions with their sources.</summary>
/// <param name="designed">The record kinds of which each page has HTML of its own: their tables may come later.</param>
internal sealed class RecordCompiler(
    IReadOnlyDictionary<string, DescribedSource?> sources,
    IReadOnlyList<RecordDefinition> all,
    Conventions conventions,
    string folder,
    IReadOnlySet<string> designed,
    FindingList findings
)
{
    private readonly RecordTables _tables = new(designed, findings);

    /// <summary>The record kinds whose table is not there yet, and its name.</summary>
    public IReadOnlyDictionary<string, string> Awaited => _tables.Awaited;

    private readonly ValueStyle _plain = ValueStyle.Of(conventions);

    /// <summary>The label of a field. With a unit of its own, the one in the name is not said again.</summary>
    private static string? LabelOf(string name, FieldDefinition? said) =>
        said?.Label?.Value ?? (said?.Unit is null ? null : Labels.WithoutUnit(name));

    /// <summary>The record; null, and reported, if it cannot be served.</summary>
    public SiteRecord? Compile(RecordDefinition definition)
    {
        if (!sources.TryGetValue(definition.Source.Value, out var source))
        {
            findings.AddUnknown(FindingCodes.UnknownSource, definition.Source, "source", sources.Keys);
            return null;
        }

        // A source that cannot be reached has its own finding. Its records cannot be checked.
        if (source is null)
            return null;
        var parameters = new List<QueryParameter>();
        if (_tables.Of(definition, source, parameters) is not { } table)
            return null;
        var fields = Fields(definition, table, parameters);
        var key = Key(definition, table, fields);
        if (key is null)
            return null;
        var one = definition.One?.Value ?? Labels.OfRecord(definition.Name.Value);
        var label = new LabelCompiler(findings).Compile(definition, fields, key, one);
        var visible = FilterCompiler.Static(definition.Visible, fields, conventions, onLoaded: false, findings);
        var references = References(definition, table, source);
        return new SiteRecord(
            definition.Name.Value,
            source.Source,
            source.Name,
            table,
            definition.Query?.Value,
            parameters,
            fields,
            key,
            references,
            Parent(definition, references),
            label,
            visible,
            definition.UniqueAssumed,
            one,
            definition.Many?.Value ?? Labels.Plural(one)
        );
    }

    /// <summary>The foreign keys that the source or the app file declares.</summary>
    private List<ForeignKeySchema> References(RecordDefinition definition, TableSchema table, DescribedSource source)
    {
        var references = table.ForeignKeys.ToList();
        foreach (var field in definition.Fields)
        {
            if (field.RefersTo is not { } target || table.Find(field.Name.Value) is null)
                continue;
            if (
                all.FirstOrDefault(record => record.Name.Value == target.Value) is not { Table: { } other, Source: { } at } record
                || at.Value != source.Name
            )
            {
                findings.AddUnknown(
                    FindingCodes.UnknownRecord,
                    target,
                    $"record over a table of the source “{source.Name}” called",
                    all.Where(record => record.Table is not null && record.Source.Value == source.Name)
                        .Select(record => record.Name.Value)
                );
                continue;
            }

            var key =
                record.Key.Count > 0
                    ? [.. record.Key.Select(name => name.Value)]
                    : source.Schema.Find(other.Value)?.PrimaryKey ?? [];
            if (key is [var only])
                references.Add(new ForeignKeySchema([field.Name.Value], other.Value, [only]));
            else
                findings.Add(
                    FindingCodes.NoSuchStep,
                    target.At,
                    $"One field cannot refer to “{target}”, whose key has several.",
                    "Declare a foreign key in the source.",
                    found: target.Value,
                    expected: "a record whose key is one field"
                );
        }

        return references;
    }

    private ForeignKeySchema? Parent(RecordDefinition definition, List<ForeignKeySchema> references)
    {
        if (definition.Parent.Count == 0)
            return null;
        var named = definition.Parent.Select(name => name.Value).ToHashSet();
        var key = references.Find(reference => named.SetEquals(reference.Columns));
        if (key is null)
            findings.Add(
                FindingCodes.NoSuchStep,
                definition.Parent[0].At,
                $"No foreign key of “{definition.Name}” is {string.Join(" with ", named)}.",
                "Name the field or fields of a foreign key.",
                found: string.Join(", ", named),
                expected: references.Count == 0
                    ? "nothing: it has no foreign key"
                    : string.Join("; or ", references.Select(reference => string.Join(" with ", reference.Columns)))
            );
        return key;
    }

    /// <param name="parameters">Those of its query. A column that repeats one has its type.</param>
    private List<SiteField> Fields(RecordDefinition definition, TableSchema table, List<QueryParameter> parameters)
    {
        foreach (var field in definition.Fields.Where(field => table.Find(field.Name.Value) is null))
            findings.AddUnknown(
                FindingCodes.UnknownField,
                field.Name,
                $"field of {table.Name} called",
                table.Columns.Select(c => c.Name)
            );
        List<SiteField> fields =
        [
            .. table.Columns.Select(column =>
            {
                var said = definition.Fields.FirstOrDefault(field => field.Name.Value == column.Name);
                var type =
                    said?.Type is { } word && FieldTypes.TryParse(word.Value, out var stated) ? stated
                    : column.Type == FieldType.Any && parameters.Find(parameter => parameter.Name == column.Name) is { } repeated
                        ? repeated.Type
                    : column.Type;
                var style = Shown(column, said, Style(said, type));
                return new SiteField(
                    column.Name,
                    LabelOf(column.Name, said),
                    type,
                    column,
                    said?.Secret ?? false,
                    Form(said, type),
                    style,
                    []
                )
                {
                    Upload = new UploadCompiler(findings).Of(said, style, type, definition.Name.Value),
                };
            }),
        ];
        return
        [
            .. fields.Select(field =>
                definition.Fields.FirstOrDefault(said => said.Name.Value == field.Name) is { When.Count: > 0 } said
                    ? field with
                    {
                        When = FilterCompiler.Static(said.When, fields, conventions, onLoaded: true, findings),
                    }
                    : field
            ),
        ];
    }

    /// <summary>A column declared as JSON is shown as JSON, unless the app file says otherwise.</summary>
    private static ValueStyle Shown(ColumnSchema column, FieldDefinition? said, ValueStyle style) =>
        said?.As is null
        && column.Type == FieldType.Text
        && column.DeclaredType.StartsWith("json", StringComparison.OrdinalIgnoreCase)
            ? style with
            {
                Form = FieldForm.Json,
            }
            : style;

    private ValueStyle Style(FieldDefinition? field, FieldType type) =>
        field is null ? _plain : new FieldStyles(conventions, folder, findings).Of(field, type);

    private TextForm Form(FieldDefinition? field, FieldType type)
    {
        if (field is not ({ Pattern: not null } or { MaxLength: not null } or { SuchAs: not null }))
            return TextForm.Any;
        if (type != FieldType.Text)
        {
            findings.Add(
                FindingCodes.ValueOfOtherType,
                field.Name.At,
                $"pattern, max_length and such_as describe texts, but {field.Name} is {type.Word()}.",
                "Remove them: the type says what an ID looks like.",
                found: type.Word(),
                expected: "a text field"
            );
            return TextForm.Any;
        }

        var pattern = field.Pattern;
        if (pattern is not null && !TextForm.IsPattern(pattern.Value))
        {
            findings.Add(
                FindingCodes.BadText,
                pattern.At,
                $"“{pattern}” is not a regular expression that can be used.",
                "Use a regular expression without look-around and back references, and with smaller "
                    + "repetitions; max_length bounds a text as well.",
                found: pattern.Value,
                expected: "such as AV-[0-9]{4}"
            );
            return TextForm.Any;
        }

        var form = new TextForm(pattern?.Value, field.MaxLength, field.SuchAs?.Value);
        if (field.SuchAs is { } example && TextKey.Of(false, form).Read(example.Value).Fault != KeyFault.None)
            findings.Add(
                FindingCodes.ValueOfOtherType,
                example.At,
                $"The example “{example}” is not of the form that {field.Name} declares.",
                "Write an example that the pattern matches.",
                found: example.Value,
                expected: pattern?.Value ?? $"at most {field.MaxLength} characters"
            );
        return form;
    }

    private List<SiteField>? Key(RecordDefinition definition, TableSchema table, List<SiteField> fields)
    {
        if (definition.Key.Count == 0)
        {
            if (table.PrimaryKey.Count > 0)
                return [.. table.PrimaryKey.Select(name => fields.Find(field => field.Name == name)!)];
            var what =
                definition.Query is not null ? "A query"
                : table.Kind == TableKind.View ? $"The view {table.Name}"
                : $"The table {table.Name}";
            findings.Add(
                FindingCodes.NoKey,
                (definition.Table ?? definition.Query!).At,
                $"{what} has no primary key, and the record “{definition.Name}” says "
                    + $"none.{(table.KeyAdvice is { } advice ? " " + advice : "")}",
                "Add the line key: FIELD to the record, naming the field or fields that tell its rows apart.",
                expected: "one or more of " + string.Join(", ", fields.Select(field => field.Name))
            );
            return null;
        }

        var key = definition.Key.Select(name => Use(name, fields, "a key")).OfType<SiteField>().ToList();
        if (key.Count < definition.Key.Count)
            return null;
        if (!definition.UniqueAssumed && !table.IsUnique([.. key.Select(field => field.Name)]))
            findings.Add(
                FindingCodes.KeyNotUnique,
                definition.Key[0].At,
                table.Doubles.TryGetValue(string.Join(", ", key.Select(field => field.Name)), out var doubles)
                    ? $"{string.Join(" with ", key.Select(field => field.Name))} of {table.Name} is no key: {doubles}."
                    : $"Nothing in {table.Name} keeps {string.Join(" with ", key.Select(field => field.Name))} unique: "
                        + "two records may answer to one address.",
                "Add a primary key or a unique index in the source; or, where it cannot have one, the line "
                    + "unique: assumed to the record.",
                found: string.Join(", ", key.Select(field => field.Name)),
                expected: table.UniqueKeys.Count == 0
                    ? "columns with a primary key or a unique index"
                    : string.Join("; or ", table.UniqueKeys.Select(columns => string.Join(" with ", columns)))
            );
        return key;
    }

    private SiteField? Use(Written name, List<SiteField> fields, string asWhat) => FieldUse.Find(name, fields, asWhat, findings);
}
