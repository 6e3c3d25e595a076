using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Stores;
using Microsoft.Data.Sqlite;
using static Jexa.Sources.Stores.StoreSql;

namespace Jexa.Sources.Files;

/// <summary>
/// Tables that are loaded completely from files and kept in a SQLite file of Jexa's own, with indexes. New content is written
/// beside the old one and then replaces it at once, so that nobody reads half of it.
/// </summary>
internal sealed class TableStore(SourceSettings settings) : IAsyncDisposable
{
    private static readonly string[] KeyWords = ["id", "key", "code", "slug", "number", "name"];

    private readonly LocalStore _store = new(settings);

    /// <summary>The tables as a source.</summary>
    public ISource Source => _store.Source;

    /// <summary>Replaces the content.</summary>
    /// <param name="tables">The tables, with their key columns if known.</param>
    /// <param name="accept">Called with the tables that cannot be read, by name. False keeps the old content.</param>
    /// <returns>Messages about each table; null if the old content was kept.</returns>
    public Dictionary<string, TableNotes>? Replace(
        IReadOnlyList<(string Name, IFileTable Table, IReadOnlyList<string> Key)> tables,
        Func<IReadOnlyDictionary<string, FileFault>, bool> accept,
        CancellationToken cancellation
    )
    {
        var faults = new Dictionary<string, FileFault>();
        var draft = _store.FileNamed("draft.db");
        File.Delete(draft);
        var notes = new Dictionary<string, TableNotes>();
        using (var connection = LocalStore.OpenWriting(draft, "OFF"))
        {
            foreach (var (name, table, key) in tables)
            {
                cancellation.ThrowIfCancellationRequested();
                try
                {
                    notes[name] = Fill(connection, name, table, key, cancellation);
                }
                catch (Exception unread) when (unread is FileFault or IOException)
                {
                    // It may have changed while it was read. What was loaded of it is removed as well.
                    connection.Run($"DROP TABLE IF EXISTS {Quoted(name)}");
                    faults[name] =
                        unread as FileFault
                        ?? new FileFault(
                            $"The file of {name} cannot be read: {unread.Message}",
                            "See whether it is there and may be read."
                        );
                }
            }

            connection.Run("ANALYZE");
        }

        if (!accept(faults))
            return null;
        File.Move(draft, _store.File, overwrite: true);
        return notes;
    }

    public ValueTask DisposeAsync() => _store.DisposeAsync();

    /// <exception cref="FileFault">A row cannot be read.</exception>
    private static TableNotes Fill(
        SqliteConnection connection,
        string name,
        IFileTable table,
        IReadOnlyList<string> key,
        CancellationToken cancellation
    )
    {
        var columns = table.Columns.Select(column => new ColumnGuess(column)).ToArray();
        foreach (var row in table.Rows())
            for (var i = 0; i < columns.Length; i++)
                columns[i].See(row.Values[i], row.Place);
        var misfits = columns
            .Select(column => (Column: column, Told: column.Decide()))
            .Where(pair => pair.Told is not null)
            .Select(pair =>
                $"The column {pair.Column.Name} holds {Said(pair.Column.Type)}, but {pair.Told}: they are shown "
                + "as the texts they are."
            )
            .ToList();

        var own = key.Where(column => table.Columns.Contains(column)).ToList();
        var declared = columns.Select(column =>
            $"{Quoted(column.Name)} {Declared(column.Type)}{(column.HasEmpty ? "" : " NOT NULL")}"
        );
        connection.Run($"CREATE TABLE {Quoted(name)} ({string.Join(", ", declared)})");
        using (var transaction = connection.BeginTransaction())
        {
            connection.Insert(transaction, name, table.Rows().Select(row => Row(row, columns, cancellation)));
            transaction.Commit();
        }

        var doubles = new Dictionary<string, string>();
        if (own.Count > 0 && own.Count == key.Count && WhyNoKey(connection, name, own, table) is { } why)
            doubles[string.Join(", ", own)] = why;
        else if (own.Count > 0 && own.Count == key.Count)
            connection.Run(
                $"CREATE UNIQUE INDEX {Quoted(IndexName(name, "0"))} ON {Quoted(name)} ({string.Join(", ", own.Select(Quoted))})"
            );
        var number = 0;
        foreach (
            var column in columns.Where(column => !column.HasEmpty && !own.Contains(column.Name) && MayBeKey(column, columns))
        )
            if (connection.Ask($"SELECT count(*) = count(DISTINCT {Quoted(column.Name)}) FROM {Quoted(name)}") == 1)
                connection.Run(
                    $"CREATE UNIQUE INDEX {Quoted(IndexName(name, $"{++number}"))} ON {Quoted(name)} ({Quoted(column.Name)})"
                );
        return new TableNotes(misfits, doubles);
    }

    private static object?[] Row(FileRow row, ColumnGuess[] columns, CancellationToken cancellation)
    {
        cancellation.ThrowIfCancellationRequested();
        return [.. columns.Select((column, i) => column.Kept(row.Values[i]))];
    }

    /// <summary>Whether to check if a column is unique: the first columns, and those with a name like a key.</summary>
    private static bool MayBeKey(ColumnGuess column, ColumnGuess[] columns) =>
        column.Type is FieldType.Integer or FieldType.Text or FieldType.Uuid
        && (
            Array.IndexOf(columns, column) < 2
            || KeyWords.Any(word => column.Name.Contains(word, StringComparison.OrdinalIgnoreCase))
        );

    /// <summary>Which values occur more than once or are missing, and where; null if the key is unique.</summary>
    private static string? WhyNoKey(SqliteConnection connection, string name, List<string> key, IFileTable table)
    {
        var columns = string.Join(", ", key.Select(Quoted));
        using var command = connection.CreateCommand();
        command.CommandText = $"SELECT {columns} FROM {Quoted(name)} GROUP BY {columns} HAVING count(*) > 1 LIMIT 5";
        var told = new List<string>();
        using (var reader = command.ExecuteReader())
            while (reader.Read())
                told.Add(
                    string.Join(
                        ", ",
                        Enumerable
                            .Range(0, key.Count)
                            .Select(i => Convert.ToString(reader.GetValue(i), System.Globalization.CultureInfo.InvariantCulture))
                    )
                );
        var ordinals = key.Select(column => table.Columns.ToList().IndexOf(column)).ToArray();
        if (told.Count > 0)
        {
            var places = told.ToDictionary(value => value, _ => new List<string>());
            foreach (var row in table.Rows())
                if (places.TryGetValue(string.Join(", ", ordinals.Select(i => row.Values[i])), out var at) && at.Count < 4)
                    at.Add(row.Place);
            return string.Join("; ", told.Select(value => $"“{value}” stands in {string.Join(" and ", places[value])}"));
        }

        var lacking = table
            .Rows()
            .Where(row => ordinals.Any(i => row.Values[i] is null))
            .Take(4)
            .Select(row => row.Place)
            .ToList();
        return lacking.Count == 0 ? null : $"it is empty in {string.Join(" and ", lacking)}";
    }

    private static string Said(FieldType type) =>
        type switch
        {
            FieldType.Integer => "whole numbers",
            FieldType.Decimal => "numbers",
            FieldType.Date => "dates",
            FieldType.Timestamp => "dates with times",
            FieldType.Uuid => "UUIDs",
            _ => "true and false",
        };
}
