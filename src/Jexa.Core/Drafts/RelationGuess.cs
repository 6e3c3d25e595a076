using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>
/// A column that is probably a foreign key although none is declared: it has the name of another table and the type of its key,
/// and all sampled values are keys of it. A draft proposes it; only the owner of the data can confirm it.
/// </summary>
/// <param name="Values">The number of different values that were looked up.</param>
public sealed record RelationGuess(string Table, string Column, string Target, int Values)
{
    /// <summary>Fewer values may agree by chance.</summary>
    private const int FewestValues = 2;

    private const int MostValues = 20;

    /// <summary>Endings of column names after a table's name, without a separator.</summary>
    private static readonly string[] KeyEndings = ["id", "no", "code", "key"];
    private const int MostGuesses = 300;

    /// <summary>
    /// Finds fields that look like foreign keys without being declared so: by name, type and the values of <paramref
    /// name="samples"/>.
    /// </summary>
    public static async Task<IReadOnlyList<RelationGuess>> ReadAsync(
        ISource source,
        SourceSchema schema,
        IReadOnlyDictionary<string, TableSample> samples,
        CancellationToken cancellation
    )
    {
        var targets = schema
            .Tables.Where(table => table is { Kind: TableKind.Table, PrimaryKey: [_], CanList: true })
            .SelectMany(table => NamesOf(table.Name).Select(name => (name, table)))
            .ToLookup(pair => pair.name, pair => pair.table);
        var guesses = new List<RelationGuess>();
        foreach (var table in schema.Tables.Where(table => table.Kind == TableKind.Table && samples.ContainsKey(table.Name)))
        {
            var own = table.PrimaryKey is [var only] ? only : null;
            foreach (
                var column in table.Columns.Where(column =>
                    column.Name != own && table.ForeignKeys.All(key => !key.Columns.Contains(column.Name))
                )
            )
            {
                if (guesses.Count == MostGuesses)
                    return guesses;
                if (TargetOf(table, column, targets) is not { } target)
                    continue;
                var values = samples[table.Name].ValuesOf(column.Name).Take(MostValues).ToList();
                if (values.Count < FewestValues)
                    continue;
                try
                {
                    if (await AreKeysAsync(source, target, values, cancellation))
                        guesses.Add(new RelationGuess(table.Name, column.Name, target.Name, values.Count));
                }
                catch (SourceException)
                {
                    // If it cannot be looked up, it is not proposed.
                }
            }
        }

        return guesses;
    }

    /// <summary>The only table that a column's name can mean, if its key has the column's type.</summary>
    private static TableSchema? TargetOf(TableSchema table, ColumnSchema column, ILookup<string, TableSchema> targets)
    {
        var words = Labels.OfRecord(column.Name).Split(' ');
        var stem =
            words is [.. var before, "id" or "key" or "code" or "no" or "ref" or "fk"] && before.Length > 0
                ? string.Join(' ', before)
            : words is ["id" or "fk", .. var behind] && behind.Length > 0 ? string.Join(' ', behind)
            : string.Join(' ', words);
        var ending = KeyEndings.FirstOrDefault(ending =>
            stem.EndsWith(ending, StringComparison.Ordinal) && stem.Length > ending.Length + 2
        );
        var found = targets[stem].Concat(ending is null ? [] : targets[stem[..^ending.Length]]).Distinct().ToList();
        return
            found is [var only]
            && only.Name != table.Name
            && only.Find(only.PrimaryKey[0]) is { } key
            && key.Type == column.Type
            && column.Type is FieldType.Integer or FieldType.Text or FieldType.Uuid
            ? found[0]
            : null;
    }

    /// <summary>Names of a table in a column: its own, and the one of a record.</summary>
    private static IEnumerable<string> NamesOf(string table)
    {
        var words = Labels.OfRecord(table[(table.LastIndexOf('.') + 1)..]);
        return new[] { words, DraftNames.Named(table, []).Replace('-', ' ') }.Distinct();
    }

    private static async Task<bool> AreKeysAsync(
        ISource source,
        TableSchema target,
        List<TypedValue> values,
        CancellationToken cancellation
    )
    {
        var key = target.Find(target.PrimaryKey[0])!;
        var isOne = new Condition.OneOf(ColumnRef.Own(key.Name), [.. values.Select((_, i) => new Operand.Argument(i, key.Type))]);
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of(target.Name)),
                [],
                [new Projection(ColumnRef.Own(key.Name), FieldType.Any)],
                [isOne],
                null,
                [],
                MostValues
            )
        );
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync(values, rows, cancellation);
        return rows.Count == values.Count;
    }
}
