using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A compiled record kind.</summary>
/// <param name="Query">The developer's own query; null if the records come from the table.</param>
/// <param name="References">Its foreign keys, from the source and the app file.</param>
/// <param name="Parent">The foreign key that leads to the record it belongs to.</param>
/// <param name="Label">The label of a record: literals and field names.</param>
/// <param name="Visible">Conditions for a record that may be seen.</param>
public sealed record SiteRecord(
    string Name,
    ISource Source,
    string SourceName,
    TableSchema Table,
    string? Query,
    IReadOnlyList<QueryParameter> QueryParameters,
    IReadOnlyList<SiteField> Fields,
    IReadOnlyList<SiteField> Key,
    IReadOnlyList<ForeignKeySchema> References,
    ForeignKeySchema? Parent,
    IReadOnlyList<TextHole> Label,
    IReadOnlyList<Condition> Visible,
    bool UniqueAssumed,
    string One,
    string Many
)
{
    /// <summary>
    /// The columns that count as empty if the record that their foreign key refers to may not be seen, each with that foreign
    /// key. Filled when all record kinds are known.
    /// </summary>
    internal Dictionary<string, FieldStep> WithheldBy { get; init; } = [];

    /// <summary>Fields of other records in the label. Filled when all record kinds are known.</summary>
    internal Dictionary<string, FieldPath> LabelPaths { get; init; } = [];

    /// <summary>The field of this name. Null if there is none.</summary>
    public SiteField? Find(string name) => Fields.FirstOrDefault(field => field.Name == name);

    /// <summary>The rows that a visitor may see. Parameters of a query have their defaults.</summary>
    internal RecordRows Seen => RecordRows.Seen(Rows, Visible);

    /// <summary>The rows that a visitor may see.</summary>
    /// <param name="valueOf">A page's value for a parameter of the query; null for its default.</param>
    internal RecordRows SeenOf(Func<string, Operand?> valueOf) => RecordRows.Seen(RowsOf(valueOf), Visible);

    /// <summary>
    /// Whether at most one record has given values in these columns, as the source or the developer guarantees.
    /// </summary>
    public bool IsUnique(IReadOnlyCollection<string> columns) =>
        Table.IsUnique(columns) || (UniqueAssumed && Key.All(field => columns.Contains(field.Column.Name)));

    /// <summary>Where its rows are read from. Parameters of a query have their defaults.</summary>
    public RowOrigin Rows => RowsOf(_ => null);

    /// <param name="valueOf">A page's value for a parameter; null for its default.</param>
    public RowOrigin RowsOf(Func<string, Operand?> valueOf) =>
        Query is null
            ? RowOrigin.Of(Table.Name)
            : new RowOrigin(
                Name,
                Query,
                [
                    .. QueryParameters.Select(p =>
                        (p.Name, valueOf(p.Name) ?? new Operand.Written(p.Default ?? TypedValue.Empty.Value))
                    ),
                ]
            );
}
