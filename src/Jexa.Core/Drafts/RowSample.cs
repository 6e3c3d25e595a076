using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Drafts;

/// <summary>The first rows of a table or query as texts, for somebody who chooses or looks.</summary>
/// <param name="Rows">The rows; an empty value is null.</param>
public sealed record RowSample(IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string?>> Rows)
{
    /// <summary>What stands for a value that is secret, or looks so.</summary>
    private const string Veiled = "•••";
    private const int LongestText = 80;

    /// <summary>The rows as they were read, in the same columns.</summary>
    public required RowBlock Read { get; init; }

    /// <summary>The query that read them.</summary>
    public required IPreparedQuery Query { get; init; }

    /// <summary>Reads the first rows of a table. Values of columns that look like secrets are veiled.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static Task<RowSample> ReadAsync(ISource source, TableSchema table, int most, CancellationToken cancellation) =>
        ReadAsync(
            source,
            RowOrigin.Of(table.Name),
            [.. table.Columns.Select(column => (column.Name, column.Type, SecretName.Is(column)))],
            [],
            most,
            cancellation
        );

    /// <summary>Reads the first rows of a table or query.</summary>
    /// <param name="columns">The columns, each with its type and whether it is secret.</param>
    /// <param name="arguments">What the operands of the origin refer to.</param>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async Task<RowSample> ReadAsync(
        ISource source,
        RowOrigin origin,
        IReadOnlyList<(string Name, FieldType Type, bool IsSecret)> columns,
        IReadOnlyList<TypedValue> arguments,
        int most,
        CancellationToken cancellation
    )
    {
        var query = source.Prepare(
            new RecordQuery(
                RecordRows.Whole(origin),
                [],
                [.. columns.Select(column => new Projection(ColumnRef.Own(column.Name), column.Type))],
                [],
                null,
                [],
                most
            )
        );
        var rows = new RowBlock();
        rows.Reset(query.Width);
        await query.RunAsync(arguments, rows, cancellation);
        var texts = new List<IReadOnlyList<string?>>();
        for (var row = 0; row < rows.Count; row++)
        {
            var cells = new string?[columns.Count];
            for (var i = 0; i < cells.Length; i++)
                cells[i] =
                    rows[row][i].IsNull ? null
                    : columns[i].IsSecret ? Veiled
                    : Text(columns[i].Type, rows[row], i);
            texts.Add(cells);
        }

        return new RowSample([.. columns.Select(column => column.Name)], texts) { Read = rows, Query = query };
    }

    private static string Text(FieldType type, Row row, int ordinal)
    {
        if (row[ordinal].Kind == CellKind.Bytes)
            return $"{row[ordinal].Length} bytes";
        using var written = new Utf8Buffer(128);
        TextPiece.Of(ordinal, type, isId: true, ValueStyle.Plain).Write(row, written);
        var text = written.ToString();
        return text.Length > LongestText ? text[..LongestText] + "…" : text;
    }
}
