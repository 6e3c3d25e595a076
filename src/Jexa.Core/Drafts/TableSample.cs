using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Drafts;

/// <summary>A limited sample of a table's rows by column. Drafts look at values, not only at declarations.</summary>
public sealed class TableSample
{
    /// <summary>The rows to read of each table.</summary>
    private const int MostRows = 100;

    /// <summary>The different values to keep of each column.</summary>
    private const int MostValues = 20;

    private readonly Dictionary<string, ColumnSample> _columns = [];
    private readonly Dictionary<string, List<TypedValue>> _values = [];

    private TableSample() { }

    /// <summary>The sample of a column; null if there is none.</summary>
    public ColumnSample? Of(string column) => _columns.GetValueOrDefault(column);

    /// <summary>The different values of a column, as the source holds them.</summary>
    public IReadOnlyList<TypedValue> ValuesOf(string column) => _values.GetValueOrDefault(column) ?? [];

    /// <summary>Reads a sample of each table that can be listed. A table that cannot be read gets none.</summary>
    public static async Task<IReadOnlyDictionary<string, TableSample>> ReadAsync(
        ISource source,
        SourceSchema schema,
        CancellationToken cancellation
    )
    {
        var samples = new Dictionary<string, TableSample>();
        foreach (var table in schema.Tables.Where(table => table is { Kind: TableKind.Table, CanList: true }))
        {
            try
            {
                samples[table.Name] = await ReadAsync(source, table, cancellation);
            }
            catch (SourceException away) when (away.Trouble == SourceTrouble.Away)
            {
                // Other tables would take as long and fail the same way.
                return samples;
            }
            catch (SourceException)
            {
                // The draft uses what can be read.
            }
        }

        return samples;
    }

    private static async ValueTask<TableSample> ReadAsync(ISource source, TableSchema table, CancellationToken cancellation)
    {
        var columns = table.Columns.Where(column => column.Type != FieldType.Bytes).ToList();
        var sample = new TableSample();
        if (columns.Count == 0)
            return sample;
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(RowOrigin.Of(table.Name)),
                [],
                [.. columns.Select(column => new Projection(ColumnRef.Own(column.Name), FieldType.Any))],
                [],
                null,
                [],
                MostRows
            )
        );
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync([], rows, cancellation);
        for (var i = 0; i < columns.Count; i++)
            sample.Note(columns[i], rows, i);
        return sample;
    }

    /// <summary>Notes what the rows tell of one column.</summary>
    private void Note(ColumnSchema column, RowBlock rows, int ordinal)
    {
        var texts = new List<string>(rows.Count);
        var filled = new List<TypedValue>(rows.Count);
        var values = new List<TypedValue>();
        for (var row = 0; row < rows.Count; row++)
        {
            var value = StoredValue.Of(rows[row], ordinal);
            var text = value.ToString() ?? "";
            if (rows[row][ordinal].IsNull || text.Length == 0)
                continue;
            texts.Add(text);
            filled.Add(value);
            if (
                values.Count < MostValues
                && value is TypedValue.Whole or TypedValue.Text or TypedValue.Uuid
                && !values.Contains(value)
            )
                values.Add(value);
        }

        _values[column.Name] = values;
        _columns[column.Name] = new ColumnSample(
            rows.Count,
            texts.Count,
            texts.Distinct().Count(),
            texts.Count == 0 ? 0 : texts.Max(text => text.Length),
            ValueLooks.Of(column, filled)
        );
    }
}
