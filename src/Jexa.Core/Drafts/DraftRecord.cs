using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>What a draft makes of one table: its name, its key, and the role of its columns.</summary>
internal sealed class DraftRecord
{
    private const int MostShown = 6;

    /// <summary>Columns with longer texts are not shown in lists. Many tables declare 255 for a text of any length.</summary>
    private const int LongText = 255;

    /// <summary>With at least this many rows, a column of few values may get choices.</summary>
    private const int FewestRows = 20;
    private const int MostChoices = 6;
    private const int LongestChoice = 24;

    /// <summary>The declared length of a name is often larger than needed.</summary>
    private const int LongLabel = 1024;

    private static readonly string[] LabelWords = ["name", "title", "label", "caption", "subject", "headline"];
    private static readonly string[] LongWords =
    [
        "note",
        "notes",
        "description",
        "body",
        "comment",
        "comments",
        "remark",
        "remarks",
        "text",
        "content",
        "story",
        "details",
        "memo",
        "bio",
        "summary",
        "html",
        "json",
        "payload",
        "data",
    ];
    private static readonly string[] BookWords = ["created", "added", "updated", "modified", "changed", "inserted", "deleted"];

    private readonly TableSample? _sample;
    private HashSet<string>? _secret;

    /// <param name="sample">A sample of its rows; null if there is none.</param>
    public DraftRecord(TableSchema table, string name, TableSample? sample)
    {
        Table = table;
        _sample = sample;
        Name = name;
        One = Labels.OfRecord(name);
        IsTie = IsTieTable(table);
        HasOwnKey = table.PrimaryKey.Count > 0 && table.PrimaryKey.All(CanBeKey);
        Key =
            table.PrimaryKey.Count > 0 ? table.PrimaryKey
            : table.UniqueKeys.FirstOrDefault(key =>
                key.All(column => CanBeKey(column) && table.Find(column) is { Nullable: false })
            )
                is { } unique
                ? unique
            : GuessedKey();
        IsKeyProven = table.IsUnique([.. Key]) && Key.All(column => CanBeKey(column));
        Label = LabelOf();
        Date = table.Columns.FirstOrDefault(column =>
            column is { Nullable: false, Type: FieldType.Date } && !IsBookkeeping(column.Name)
        )
            ?? table.Columns.FirstOrDefault(column =>
                column is { Nullable: false, Type: FieldType.Timestamp } && !IsBookkeeping(column.Name)
            );
    }

    public TableSchema Table { get; }

    public string Name { get; }

    /// <summary>One record, inside a sentence.</summary>
    public string One { get; }

    /// <summary>The columns that identify its records, or at least order them; empty for none.</summary>
    public IReadOnlyList<string> Key { get; }

    /// <summary>Whether the source declares the key, and addresses can contain it.</summary>
    public bool IsKeyProven { get; }

    public bool HasOwnKey { get; }

    /// <summary>Whether it mostly connects two other records.</summary>
    public bool IsTie { get; }

    /// <summary>Whether it has a page of its own.</summary>
    public bool HasDetail => IsKeyProven && !IsTie;

    /// <summary>Whether it has a list.</summary>
    public bool HasList => !IsTie && Table.CanList;

    /// <summary>The name of its list.</summary>
    public string ListName => DraftNames.Slug(Labels.Plural(One)) is var many && many == Name ? $"{many}-list" : many;

    /// <summary>The path of its list.</summary>
    public string Path => "/" + ListName;

    /// <summary>Whether it has pages that change it.</summary>
    public bool IsEdited(SourceSchema schema) =>
        HasDetail
        && schema.ReadOnlyBecause is null
        && Table is { IsWritable: true, May: RowActs.All }
        && HasOwnKey
        && schema.CanFillForms(Table);

    /// <summary>The column that best describes a record; null for none.</summary>
    public ColumnSchema? Label { get; }

    /// <summary>The date column that best describes a record; null for none.</summary>
    public ColumnSchema? Date { get; }

    /// <summary>Foreign keys of one column that refer to another table of the draft.</summary>
    public List<(string Column, DraftRecord Other)> References { get; } = [];

    /// <summary>Foreign keys that refer to this table, with the records that have them.</summary>
    public List<(DraftRecord From, IReadOnlyList<string> Columns)> Referrers { get; } = [];

    /// <summary>What the values of a column look like, as far as the sample shows.</summary>
    public ValueLook Look(ColumnSchema column) => _sample?.Of(column.Name)?.Look ?? ValueLook.Plain;

    /// <summary>
    /// The few values of a column, in their order; empty unless the sample has enough rows, and far fewer values than rows.
    /// </summary>
    public IReadOnlyList<string> FewValues(ColumnSchema column)
    {
        if (
            _sample?.Of(column.Name) is not { Filled: >= FewestRows, Distinct: >= 2 and <= MostChoices } found
            || column.Type is not (FieldType.Text or FieldType.Integer)
        )
            return [];
        if (column.Rules.OneOf is not null || found.Longest > LongestChoice || Table.IsUnique([column.Name]))
            return [];
        var values = _sample.ValuesOf(column.Name);
        return values.Count != found.Distinct
            ? []
            :
            [
                .. values
                    .OrderBy(value => value is TypedValue.Whole number ? number.Value : 0)
                    .ThenBy(value => value.ToString(), StringComparer.Ordinal)
                    .Select(value => value.ToString()!),
            ];
    }

    public IEnumerable<ColumnSchema> Secrets => Table.Columns.Where(column => IsSecret(column) && !Key.Contains(column.Name));

    public IEnumerable<ColumnSchema> Kept(string kind) =>
        Table.Columns.Where(column =>
            column.Type is FieldType.Timestamp or FieldType.Date
            && !column.Automatic
            && (
                kind == "created"
                    ? Starts(column.Name, "created", "added", "inserted")
                    : Starts(column.Name, "updated", "modified", "changed")
            )
        );

    /// <summary>The columns of a list: the label, what it belongs to, its state, dates and numbers, but no long texts.</summary>
    public List<string> Shown()
    {
        var shown = new List<string>();
        if (Label is not null)
            shown.Add(Label.Name);
        var references = References.Select(reference => reference.Column).ToHashSet();
        var others = Table.Columns.Where(column =>
            !shown.Contains(column.Name)
            && !IsSecret(column)
            && !IsLong(column)
            && Look(column) != ValueLook.Json
            && !IsBookkeeping(column.Name)
            && column.Type != FieldType.Bytes
            && !IsNeverFilled(column)
            && !(column.Automatic && Key.Contains(column.Name) && (Label is not null || Table.Columns.Count > 2))
        );
        foreach (
            var column in others.OrderBy(IsSeldomFilled).ThenBy(column => Rank(column, references)).Take(MostShown - shown.Count)
        )
            shown.Add(column.Name);

        // The best columns, in the order of the table.
        if (Label is null && Date is { } date && shown.Remove(date.Name))
            shown.Insert(0, date.Name);
        var first = shown.Take(Label is null && Date is null ? 0 : 1).ToList();
        var rest = shown.Except(first).ToHashSet();
        first.AddRange(Table.Columns.Select(column => column.Name).Where(rest.Contains));
        return first.Count > 0 ? first : [.. Key];
    }

    /// <summary>
    /// The column with the link to the record: its label, and if possible not one that refers to another record.
    /// </summary>
    public string Leading(IReadOnlyList<string> shown) =>
        shown.FirstOrDefault(name => name == Label?.Name)
        ?? shown.FirstOrDefault(name => name == Date?.Name)
        ?? shown.FirstOrDefault(name => !References.Exists(reference => reference.Column == name))
        ?? shown[0];

    /// <summary>The columns that a search searches.</summary>
    public List<string> Searched() =>
        [
            .. Table
                .Columns.Where(column =>
                    column.Type == FieldType.Text
                    && column.Rules.OneOf is null
                    && !IsSecret(column)
                    && (column == Label || Table.IsUnique([column.Name]) || Words(column.Name).Any(LabelWords.Contains))
                )
                .Take(3)
                .Select(column => column.Name),
        ];

    public bool CanBeKey(string column) =>
        Table.Find(column) is { } found && KeyType.For(found, found.Type, TextForm.Any) is not null;

    public static bool IsLong(ColumnSchema column) =>
        column.Type == FieldType.Text
        && column.Rules.OneOf is null
        && (
            column.Rules.MaxLength > (IsCalledName(column.Name) ? LongLabel : LongText)
            || (column.Rules.MaxLength is null && Words(column.Name).Any(LongWords.Contains))
            || column.DeclaredType.Contains("json", StringComparison.OrdinalIgnoreCase)
            || column.DeclaredType.Contains("[]", StringComparison.Ordinal)
            || column.DeclaredType.Contains("mediumtext", StringComparison.OrdinalIgnoreCase)
            || column.DeclaredType.Contains("longtext", StringComparison.OrdinalIgnoreCase)
        );

    /// <summary>The order of a table without a key: columns that an address can contain, if there are any.</summary>
    private List<string> GuessedKey()
    {
        var ordered = Table
            .Columns.Where(column => column.Type != FieldType.Bytes && !IsSecret(column))
            .OrderBy(IsLong)
            .ThenBy(column => column.Nullable)
            .ToList();
        var carried = ordered.Where(column => CanBeKey(column.Name) && !IsLong(column)).ToList();
        return [.. (carried.Count > 0 ? carried : ordered).Take(3).Select(column => column.Name)];
    }

    private static int Rank(ColumnSchema column, HashSet<string> references) =>
        references.Contains(column.Name) ? 0
        : column.Rules.OneOf is not null ? 1
        : column.Type is FieldType.Date or FieldType.Timestamp ? 2
        : column.Type == FieldType.Text && !column.Nullable ? 3
        : column.Type is FieldType.Decimal or FieldType.Integer or FieldType.Real ? 4
        : column.Type == FieldType.Boolean ? 5
        : 6;

    private bool IsNeverFilled(ColumnSchema column) => _sample?.Of(column.Name) is { IsKnown: true, Filled: 0 };

    private bool IsSeldomFilled(ColumnSchema column) => _sample?.Of(column.Name) is { FilledShare: < 0.2 };

    /// <summary>Whether its values can be labels: mostly filled, and mostly different.</summary>
    private bool Names(ColumnSchema column) =>
        Look(column) is ValueLook.Plain or ValueLook.Mail
        && (
            _sample?.Of(column.Name) is not { IsKnown: true } sample
            || sample is { FilledShare: > 0.8, Longest: <= 200 } && (sample.DistinctShare > 0.3 || sample.Rows < 5)
        );

    private ColumnSchema? LabelOf()
    {
        var texts = Table
            .Columns.Where(column =>
                column.Type == FieldType.Text
                && !IsSecret(column)
                && !IsLong(column)
                && column.Rules.OneOf is null
                && Names(column)
            )
            .ToList();
        bool Unique(ColumnSchema column) => Table.IsUnique([column.Name]);
        return texts.Find(column => LabelWords.Contains(column.Name.ToLowerInvariant()) && Unique(column))
            ?? texts.Find(column => LabelWords.Contains(column.Name.ToLowerInvariant()))
            ?? texts.Find(column => Words(column.Name).Any(LabelWords.Contains))
            ?? texts.Find(column => Unique(column) && !Key.Contains(column.Name))
            ?? texts.Find(Unique)
            ?? texts.Find(column =>
                _sample?.Of(column.Name) is { Rows: >= 5, FilledShare: > 0.95, DistinctShare: > 0.9, Longest: <= 60 }
            );
    }

    /// <summary>Whether its key is made of at least two foreign keys, and it has almost no other columns.</summary>
    private static bool IsTieTable(TableSchema table)
    {
        var tying = table.ForeignKeys.SelectMany(key => key.Columns).ToHashSet();
        return table.ForeignKeys.Count >= 2
            && table.PrimaryKey.Count >= 2
            && table.PrimaryKey.All(tying.Contains)
            && table.Columns.Count(column => !tying.Contains(column.Name) && !IsBookkeeping(column.Name)) <= 1;
    }

    private static bool IsCalledName(string name) => Words(name) is [.., var last] && LabelWords.Contains(last);

    /// <summary>Whether a column looks like a secret by its name.</summary>
    public bool IsSecret(ColumnSchema column) =>
        (_secret ??= [.. Table.Columns.Where(SecretName.Is).Select(secret => secret.Name)]).Contains(column.Name);

    private static bool IsBookkeeping(string name) => Starts(name, BookWords);

    private static bool Starts(string name, params ReadOnlySpan<string> words)
    {
        foreach (var word in words)
            if (Words(name) is [var first, ..] && first == word)
                return true;
        return false;
    }

    private static string[] Words(string name) => Labels.OfRecord(name).Split(' ');
}
