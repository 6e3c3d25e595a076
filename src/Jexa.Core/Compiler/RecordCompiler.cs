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
    private readonly Dictionary<string, string> _awaited = [];

    /// <summary>The record kinds whose table is not there yet, and its name.</summary>
    public IReadOnlyDictionary<string, string> Awaited => _awaited;

    private readonly ValueStyle _plain = ValueStyle.Of(conventions);

    /// <summary>The label of a field. With a unit of its own, the one in the name is not said again.</summary>
    private static string? LabelOf(string name, FieldDefinition? said) =>
        said?.Label?.Value ?? (said?.Unit is null ? null : Labels.WithoutUnit(name));

    private static readonly string[] UsualLabels = ["name", "title", "label", "caption", "subject"];

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
        if (
            (definition.Query is null ? Table(definition, source) : QueryTable(definition, definition.Query, source, parameters))
            is not { } table
        )
            return null;
        var fields = Fields(definition, table, parameters);
        var key = Key(definition, table, fields);
        if (key is null)
            return null;
        var one = definition.One?.Value ?? Labels.OfRecord(definition.Name.Value);
        var label = Label(definition, fields, key, one);
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

    private TableSchema? Table(RecordDefinition definition, DescribedSource source)
    {
        if (source.Schema.Find(definition.Table!.Value) is { } table)
            return table;
        if (source.Schema.Unreadable.TryGetValue(definition.Table.Value, out var remedy))
        {
            findings.Add(
                FindingCodes.TableUnreadable,
                definition.Table.At,
                $"{definition.Table} is there, but the user of the connection may not read it.",
                remedy,
                found: definition.Table.Value,
                expected: "a table that may be read"
            );
            return null;
        }

        var near = Nearest.To(definition.Table.Value, source.Schema.Tables.Select(t => t.Name));
        if (near is null && designed.Contains(definition.Name.Value))
        {
            _awaited[definition.Name.Value] = definition.Table.Value;
            findings.Add(
                FindingCodes.TableNotYet,
                definition.Table.At,
                $"There is no table “{definition.Table}” in the source “{source.Name}” yet: its pages are shown as they were "
                    + "designed.",
                "Make the table, or correct its name.",
                found: definition.Table.Value,
                expected: string.Join(", ", source.Schema.Tables.Select(t => t.Name).Take(20))
            );
            return null;
        }

        findings.AddUnknown(
            FindingCodes.UnknownTable,
            definition.Table,
            $"table or view in the source “{source.Name}” called",
            source.Schema.Tables.Select(t => t.Name)
        );
        return null;
    }

    /// <summary>The result of a query, as if it were a view.</summary>
    private TableSchema? QueryTable(
        RecordDefinition definition,
        Written query,
        DescribedSource source,
        List<QueryParameter> parameters
    )
    {
        var schema = source.Queries[query.Value];
        if (FaultOf(schema) is var (message, remedy, clash, expected))
        {
            findings.Add(
                FindingCodes.BadQuery,
                query.At,
                $"The query of “{definition.Name}” {message}",
                remedy,
                found: clash,
                expected: expected
            );
            return null;
        }

        foreach (var parameter in definition.Parameters.Where(parameter => !schema.Parameters.Contains(parameter.Name.Value)))
            findings.AddUnknown(
                FindingCodes.UnknownParameter,
                parameter.Name,
                "parameter in the query called",
                schema.Parameters
            );
        foreach (var name in schema.Parameters)
        {
            if (QueryParameter(definition, query, name) is not { } parameter)
                return null;
            parameters.Add(parameter);
        }

        return new TableSchema($"the query of {definition.Name}", TableKind.View, schema.Columns, [], [], []);
    }

    /// <summary>What makes a query useless. Null if nothing does.</summary>
    private static (string Message, string Remedy, string? Found, string Expected)? FaultOf(QuerySchema schema)
    {
        if (schema.Fault is { } fault)
            return ($"cannot be used. {fault}", "Write one SELECT that gives rows.", null, "one SELECT with named columns");
        var clash = schema
            .Columns.GroupBy(column => column.Name, StringComparer.OrdinalIgnoreCase)
            .FirstOrDefault(group => group.Count() > 1);
        return clash is null
            ? null
            : (
                $"gives two columns called {clash.Key}.",
                "Give one of them another name with AS.",
                clash.Key,
                "columns of different names"
            );
    }

    /// <summary>A parameter of a query, as its record describes it. Null, and reported, if it does not.</summary>
    private QueryParameter? QueryParameter(RecordDefinition definition, Written query, string name)
    {
        if (definition.Parameters.FirstOrDefault(parameter => parameter.Name.Value == name) is not { } parameter)
        {
            findings.Add(
                FindingCodes.UnboundParameter,
                query.At,
                $"The query of “{definition.Name}” has the parameter :{name}, and the record does not say its type.",
                $"Add parameters: {{ {name}: integer }} to the record.",
                found: $":{name}",
                expected: "a type"
            );
            return null;
        }

        if (!FieldTypes.TryParse(parameter.Type.Value, out var type))
            return null;
        var value = parameter.Default is { } said ? TypedValues.Read(said.Value, type) : null;
        if (parameter.Default is not null && value is null)
            findings.Add(
                FindingCodes.ValueOfOtherType,
                parameter.Default.At,
                $"“{parameter.Default}” is not {type.Word()}.",
                "Write a value of the parameter's type.",
                found: parameter.Default.Value,
                expected: TypedValues.Expected(type)
            );
        return new QueryParameter(name, type, value);
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

    /// <summary>The label of a record. A number alone says little, so the record's noun comes before it.</summary>
    private List<TextHole> Label(RecordDefinition definition, List<SiteField> fields, List<SiteField> key, string one)
    {
        if (definition.Label is not { } label)
        {
            var usual = fields.Find(field => UsualLabels.Contains(field.Name) && !field.Secret);
            if (usual is not null)
                return [Hole(usual)];
            var noun = key.TrueForAll(field => field.Type == FieldType.Integer) ? Labels.Capital(one) + " " : null;
            return
            [
                .. noun is null ? [] : new[] { new TextHole(noun, null) },
                .. key.SelectMany((field, i) => i == 0 ? [Hole(field)] : new[] { new TextHole(" ", null), Hole(field) }),
            ];
        }

        var holes = label.Value.AsSpan().ContainsAny('{', '}') ? TextHoles.Read(label, findings) : [new TextHole(null, label)];
        if (
            holes is [{ Field: { } alone }]
            && fields.Find(field => field.Name == alone.Value)
                is { Type: FieldType.Integer or FieldType.Decimal or FieldType.Real, Style.Choices.Count: 0 }
        )
        {
            findings.Add(
                FindingCodes.LabelIsNumber,
                label.At,
                $"The label of “{definition.Name}” is only a number: links and headings would say no more than “7”.",
                $"Put a word before it: label: \"{Labels.Capital(one)} {{{alone}}}\"",
                found: alone.Value,
                expected: "a text with {holes}, or a field that is text"
            );
        }

        // Fields of other records are looked up when all records are known.
        return
        [
            .. (holes ?? []).Where(hole =>
                hole.Field is null || IsFar(hole.Field, fields) || Use(hole.Field, fields, "a label") is not null
            ),
        ];

        TextHole Hole(SiteField field) => new(null, new Written(field.Name, definition.Name.At));
    }

    private static bool IsFar(Written name, List<SiteField> fields) =>
        name.Value.Contains('.') && fields.TrueForAll(field => field.Name != name.Value);

    private SiteField? Use(Written name, List<SiteField> fields, string asWhat) => FieldUse.Find(name, fields, asWhat, findings);
}
