using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Files;

/// <summary>
/// A folder of CSV and JSON files. Each file is a table with the file's name. Changes in the folder are loaded together, or not
/// at all if a file cannot be read.
/// </summary>
internal sealed class FilesSource : ISource
{
    private const int MillisecondsBetweenLooks = 500;
    private const string NoKey = "A row's place in its file is no key: it is another's as soon as a row is put before it.";

    private readonly string _folder;
    private readonly SourceSettings _settings;
    private readonly TableStore _store;
    private readonly SemaphoreSlim _turn = new(1);
    private volatile Loaded? _loaded;
    private long _lookedAt;

    public FilesSource(SourceSettings settings)
    {
        _settings = settings;
        _folder = Path.GetFullPath(settings.Connection, Path.GetFullPath(settings.BaseFolder));
        _store = new TableStore(settings);
    }

    public async ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        await LookAsync(force: true, cancellation);
        var loaded = _loaded!;
        var schema = await _store.Source.DescribeAsync(cancellation);
        return new SourceSchema([
            .. schema.Tables.Select(table =>
                table with
                {
                    KeyAdvice = NoKey,
                    Doubles = loaded.Notes.GetValueOrDefault(table.Name)?.Doubles ?? table.Doubles,
                }
            ),
        ])
        {
            ReadOnlyBecause = "files are only read",
            Notes = loaded.Said,
        };
    }

    public async ValueTask ProbeAsync(CancellationToken cancellation)
    {
        if (!Directory.Exists(_folder))
            throw Away();
        await LookAsync(force: false, cancellation);
    }

    public int Connections => _store.Source.Connections;

    public IPreparedQuery Prepare(RecordQuery query) => new Query(this, _store.Source.Prepare(query));

    public IPreparedQuery Prepare(CountQuery query) => new Query(this, _store.Source.Prepare(query));

    public IPreparedQuery Prepare(GroupQuery query) => new Query(this, _store.Source.Prepare(query));

    public IPreparedQuery Prepare(CombinedQuery query) => new Query(this, _store.Source.Prepare(query));

    public ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation) =>
        throw new SourceException(SourceTrouble.Failed, "Files are only read.");

    public async ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation)
    {
        await LookAsync(force: false, cancellation);
        return await _store.Source.DescribeQueryAsync(query, cancellation);
    }

    public async ValueTask DisposeAsync()
    {
        await _store.DisposeAsync();
        _turn.Dispose();
    }

    /// <summary>
    /// Checks from time to time whether the files have changed. If so, it loads them again while others keep reading the old
    /// content.
    /// </summary>
    private async ValueTask LookAsync(bool force, CancellationToken cancellation)
    {
        if (
            !force
            && _loaded is not null
            && _settings.Clock.Milliseconds() - Volatile.Read(ref _lookedAt) < MillisecondsBetweenLooks
        )
            return;
        if (_loaded is null || force)
            await _turn.WaitAsync(cancellation);
        else if (!_turn.Wait(0, CancellationToken.None))
            return;
        try
        {
            Volatile.Write(ref _lookedAt, _settings.Clock.Milliseconds());
            var seen = Seen();
            if (_loaded is { } loaded && loaded.Signature == seen)
                return;
            await Task.Run(() => Load(seen, cancellation), cancellation);
        }
        finally
        {
            _turn.Release();
        }
    }

    private void Load(string signature, CancellationToken cancellation)
    {
        var faults = new List<SourceNote>();
        var tables = Tables(faults);
        var notes = _store.Replace(
            tables,
            unread =>
            {
                faults.AddRange(unread.Select(table => new SourceNote(table.Value.Message, table.Value.Remedy, true)));

                // The content that is served now is kept if the new one cannot be read.
                return _loaded is not { } before
                    || before.Tables.All(served =>
                        (tables.Exists(table => table.Name == served) && !unread.ContainsKey(served)) || !IsThere(served)
                    );
            },
            cancellation
        );
        if (notes is null)
        {
            _loaded = _loaded! with
            {
                Signature = signature,
                Said =
                [
                    .. faults.Select(fault =>
                        fault with
                        {
                            Sentence = fault.Sentence + " What was read before is still served.",
                        }
                    ),
                ],
            };
            return;
        }

        var misfits = notes.SelectMany(note =>
            note.Value.Misfits.Select(misfit => new SourceNote(
                $"{note.Key}: {misfit}",
                "Mend those values, or say type: text for the field.",
                false
            ))
        );
        _loaded = new Loaded(signature, [.. notes.Keys], notes, [.. faults, .. misfits]);
    }

    /// <summary>The files that can be tables. What is wrong with the others is added to the faults.</summary>
    private List<(string Name, IFileTable Table, IReadOnlyList<string> Key)> Tables(List<SourceNote> faults)
    {
        var tables = new List<(string Name, IFileTable Table, IReadOnlyList<string> Key)>();
        foreach (var file in Files())
        {
            try
            {
                IFileTable table = file.EndsWith(".json", StringComparison.OrdinalIgnoreCase)
                    ? new JsonTable(file)
                    : new CsvTable(file);
                var name = Path.GetFileNameWithoutExtension(file);
                if (tables.Exists(other => other.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
                    faults.Add(
                        new SourceNote(
                            $"{Path.GetFileName(file)} would be a second table called {name}.",
                            "Give one of the files another name.",
                            true
                        )
                    );
                else
                    tables.Add((name, table, KeyOf(name)));
            }
            catch (FileFault fault)
            {
                faults.Add(new SourceNote(fault.Message, fault.Remedy, true));
            }
            catch (IOException gone)
            {
                faults.Add(
                    new SourceNote(
                        $"{Path.GetFileName(file)} cannot be read: {gone.Message}",
                        "See whether it is there and may be read.",
                        true
                    )
                );
            }
        }

        return tables;
    }

    /// <summary>Whether there is a file for a table, readable or not.</summary>
    private bool IsThere(string table) => Files().Any(file => Path.GetFileNameWithoutExtension(file) == table);

    private List<string> KeyOf(string table) =>
        [
            .. _settings
                .DeclaredKeys.Split('\n')
                .Where(line => line.StartsWith(table + ": ", StringComparison.Ordinal))
                .Take(1)
                .SelectMany(line => line[(table.Length + 2)..].Split(", ")),
        ];

    private IEnumerable<string> Files() =>
        Directory
            .EnumerateFiles(_folder)
            .Where(file => Path.GetExtension(file).ToLowerInvariant() is ".csv" or ".tsv" or ".json")
            .Order(StringComparer.Ordinal);

    /// <summary>Names, sizes and times of the files.</summary>
    private string Seen()
    {
        if (!Directory.Exists(_folder))
            throw Away();
        return string.Join(
            '\n',
            Files().Select(file => new FileInfo(file)).Select(file => $"{file.Name} {file.Length} {file.LastWriteTimeUtc.Ticks}")
        );
    }

    private SourceException Away() =>
        new(
            SourceTrouble.Away,
            File.Exists(_folder) ? $"{_settings.ShownAs} is a file, not a folder." : $"There is no folder {_settings.ShownAs}."
        )
        {
            IsSettled = true,
        };

    /// <param name="Signature">The files that it was loaded from.</param>
    private sealed record Loaded(
        string Signature,
        IReadOnlyList<string> Tables,
        IReadOnlyDictionary<string, TableNotes> Notes,
        IReadOnlyList<SourceNote> Said
    );

    private sealed class Query(FilesSource source, IPreparedQuery inner) : IPreparedQuery
    {
        public int Width => inner.Width;

        public IReadOnlyList<string> ColumnNames => inner.ColumnNames;

        public IReadOnlyList<int> SecretCells => inner.SecretCells;

        public async ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
        {
            await source.LookAsync(force: false, cancellation);
            await inner.RunAsync(arguments, into, cancellation);
        }

        public ValueTask<IReadOnlyList<string>?> ExplainAsync(
            IReadOnlyList<TypedValue> arguments,
            CancellationToken cancellation
        ) => inner.ExplainAsync(arguments, cancellation);

        public string Shown(IReadOnlyList<TypedValue> arguments) => inner.Shown(arguments);
    }
}
