using System.Collections.Concurrent;
using System.Net;
using Jexa.Core.Endpoints;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>
/// An HTTP API that answers with JSON. One record is read by its key each time, unless the API says for how long an answer may be
/// used. Lists are read completely, up to a limit, and again when they are old.
/// </summary>
internal sealed class HttpSource(SourceSettings settings) : ISource
{
    private const int MostItemBytes = 8 << 20;
    private const int MostListBytes = 64 << 20;
    private const int MostPages = 1000;
    private const int MostKept = 10_000;
    private static readonly TimeSpan ListLimit = TimeSpan.FromSeconds(60);

    private readonly ApiCaller _caller = new(settings);
    private readonly ApiStore _store = new(settings);
    private readonly ConcurrentDictionary<(string Endpoint, string Key), Kept> _kept = [];
    private readonly ConcurrentDictionary<(string Endpoint, string Key), Lazy<Task<string>>> _underWay = [];
    private readonly ConcurrentDictionary<string, Lazy<Task>> _listsUnderWay = [];
    private readonly ConcurrentDictionary<string, KeptList> _lists = [];
    private readonly CancellationTokenSource _ending = new();
    private volatile IReadOnlyDictionary<string, ApiShape> _shapes = new Dictionary<string, ApiShape>();

    public async ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        var shapes = new Dictionary<string, ApiShape>();
        var notes = new List<SourceNote>();
        foreach (var endpoint in settings.Api!.Endpoints)
        {
            var listed =
                endpoint.List is not null && endpoint.Fields.Count == 0
                    ? await ReadListAsync(endpoint, null, cancellation)
                    : null;
            if (ShapeOf(endpoint, listed, notes) is not { } shape)
                continue;
            Take(shape);
            shapes[endpoint.Name] = shape;
            if (listed?.Records.Count > 0)
                Keep(shape, listed);
        }

        _shapes = shapes;
        var schema = await _store.Source.DescribeAsync(cancellation);
        return new SourceSchema([
            .. schema
                .Tables.Where(table => shapes.ContainsKey(table.Name))
                .Select(table => Told(table, shapes[table.Name].Endpoint)),
        ])
        {
            ReadOnlyBecause = "an API is only read",
            Notes = notes,
        };
    }

    /// <summary>What the records of an endpoint hold. Null, and noted, if nobody can tell.</summary>
    private ApiShape? ShapeOf(ApiEndpoint endpoint, ListAnswer? listed, List<SourceNote> notes)
    {
        if (listed?.IsCut == true)
            notes.Add(
                new SourceNote(
                    $"The list of {endpoint.Name} has more than the {endpoint.Most:N0} records that are read.",
                    "Say most: NUMBER at the endpoint, if all of them are wanted.",
                    false
                )
            );
        List<ApiRecord> records = listed?.Records ?? [];
        var columns = endpoint.Fields.Select(field => (field.Key, field.Value)).ToList();
        columns.AddRange(
            records
                .SelectMany(record => record.Members.Keys)
                .Distinct()
                .Where(name => !endpoint.Fields.ContainsKey(name))
                .Select(name => (name, ApiRecords.TypeOf(name, records)))
        );
        if (columns.Count == 0 && _shapes.TryGetValue(endpoint.Name, out var before))
            columns.AddRange(before.Columns);
        if (columns.Count == 0)
        {
            notes.Add(
                new SourceNote(
                    $"The list of {endpoint.Name} is empty, so the fields of its records are not known.",
                    "Add fields: { NAME: TYPE } to the endpoint.",
                    true
                )
            );
            return null;
        }

        var shape = new ApiShape(endpoint, columns);
        if (!shape.HasKey && endpoint.Key.Count > 0)
            notes.Add(
                new SourceNote(
                    $"The records of {endpoint.Name} have no field called "
                        + $"{endpoint.Key.First(key => columns.TrueForAll(column => column.Item1 != key))}, which is to be "
                        + "their key.",
                    "Name fields that they have.",
                    true
                )
            );
        return shape;
    }

    /// <summary>Makes room for records of a shape. Records of another shape are forgotten.</summary>
    private void Take(ApiShape shape)
    {
        var name = shape.Endpoint.Name;
        var isNew = !_shapes.TryGetValue(name, out var old) || !old.Columns.SequenceEqual(shape.Columns);
        _store.Shape(shape, isNew);
        if (!isNew)
            return;
        _lists.TryRemove(name, out _);
        foreach (var key in _kept.Keys.Where(key => key.Endpoint == name))
            _kept.TryRemove(key, out _);
    }

    public async ValueTask ProbeAsync(CancellationToken cancellation) => await _caller.ProbeAsync(cancellation);

    /// <summary>
    /// Visits wait for an API without holding a connection. Several visits of one record cause one request. Requests have a limit
    /// of their own (<see cref="ApiCaller"/>).
    /// </summary>
    public int Connections => 256;

    public IPreparedQuery Prepare(RecordQuery query) =>
        new HttpQuery(this, _store.Source.Prepare(query), Tables(query.Table, query.Joins), Keyed(query));

    public IPreparedQuery Prepare(CountQuery query) =>
        new HttpQuery(this, _store.Source.Prepare(query), Tables(query.Table, query.Joins), null);

    public IPreparedQuery Prepare(GroupQuery query) =>
        new HttpQuery(this, _store.Source.Prepare(query), Tables(query.Table, query.Joins), null);

    public IPreparedQuery Prepare(CombinedQuery query)
    {
        var first = query.Searches[0][0];
        return new HttpQuery(this, _store.Source.Prepare(query), Tables(first.Table, first.Joins), null);
    }

    public ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation) =>
        throw new SourceException(SourceTrouble.Failed, "An API is only read.");

    public ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation) =>
        ValueTask.FromResult(new QuerySchema([], [], "An API takes no queries of one's own."));

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        _caller.Dispose();
        await _store.DisposeAsync();
        _ending.Dispose();
    }

    /// <summary>The request for one record, for people.</summary>
    public string Shown(string endpoint, IReadOnlyList<string> key) =>
        _shapes.TryGetValue(endpoint, out var shape) && Path(shape.Endpoint, key) is { } path
            ? _caller.Shown(path)
            : $"no request: an address cannot carry {string.Join(" and ", key)}";

    public string ShownList(string endpoint) =>
        _shapes.TryGetValue(endpoint, out var shape) && shape.Endpoint.List is { } list
            ? _caller.Shown(ApiTemplate.Expand(list, _ => null) ?? list)
            : "";

    /// <summary>Brings the store up to date for one key. Returns a remark for the trace.</summary>
    public async ValueTask<string> HaveItemAsync(string endpoint, IReadOnlyList<string> key, CancellationToken cancellation)
    {
        var shape = Shape(endpoint);
        if (Path(shape.Endpoint, key) is not { } path)
            return "not asked";
        var name = (endpoint, ArgumentKey.Of(key));
        if (_kept.TryGetValue(name, out var kept) && settings.Clock.Milliseconds() < kept.GoodUntil)
            return "not asked again: the last answer is still good";

        // Others who ask for the same record wait for the same answer. It is read even if a visitor leaves.
        var work = _underWay.GetOrAdd(name, _ => new Lazy<Task<string>>(() =>
            Task.Run(() => AskItemAsync(shape, key, path, name, kept?.Tag))
        ));
        return await work.Value.WaitAsync(cancellation);
    }

    /// <summary>Brings a list in the store up to date.</summary>
    public async ValueTask HaveListAsync(string endpoint, CancellationToken cancellation)
    {
        var shape = Shape(endpoint);
        if (shape.Endpoint.List is null)
            return;
        var known = _lists.GetValueOrDefault(endpoint);
        var age = known is null ? TimeSpan.MaxValue : TimeSpan.FromMilliseconds(settings.Clock.Milliseconds() - known.ReadAt);
        var refresh = TimeSpan.FromSeconds(shape.Endpoint.RefreshSeconds);
        if (known?.MaxAge > refresh)
            refresh = known.MaxAge;
        if (age < refresh)
            return;
        var work = _listsUnderWay.GetOrAdd(endpoint, _ => new Lazy<Task>(() => Task.Run(() => AskListAsync(shape))));

        // A list that is not very old is shown while the next one is read.
        var read = work.Value;
        if (age < refresh * 2)
            return;
        try
        {
            await read.WaitAsync(settings.TimeLimit, settings.Clock, cancellation);
        }
        catch (TimeoutException)
        {
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"The list of {endpoint} was not there within {settings.TimeLimit.TotalSeconds:0.#} s."
            );
        }
    }

    private async Task<string> AskItemAsync(
        ApiShape shape,
        IReadOnlyList<string> key,
        string path,
        (string, string) name,
        string? tag
    )
    {
        try
        {
            return await TakeItemAsync(shape, key, path, name, tag);
        }
        finally
        {
            _underWay.TryRemove(name, out _);
        }
    }

    private async Task<string> TakeItemAsync(
        ApiShape shape,
        IReadOnlyList<string> key,
        string path,
        (string, string) name,
        string? tag
    )
    {
        var answer = await _caller.GetAsync(path, tag, MostItemBytes, _ending.Token);
        if (answer.Status != HttpStatusCode.NotModified)
        {
            var records = ApiRecords.Of(answer.Json, shape.Endpoint.Record, shape.Endpoint.Names, isList: false);
            foreach (var record in records)
                for (var i = 0; i < key.Count; i++)
                    if (!record.Has(shape.Endpoint.Key[i], shape.TypeOf(shape.Endpoint.Key[i]), key[i]))
                        throw new SourceException(
                            SourceTrouble.Failed,
                            $"{_caller.Shown(path)} was answered with a record whose {shape.Endpoint.Key[i]} is "
                                + $"{record.Kept(shape.Endpoint.Key[i], FieldType.Text) ?? "lacking"}, not {key[i]}: it is "
                                + "not shown."
                        )
                        {
                            IsFinding = true,
                        };
            _store.Replace(shape, key, records);
        }

        if (_kept.Count >= MostKept)
            _kept.Clear();
        _kept[name] = new Kept(
            settings.Clock.Milliseconds() + (long)answer.MaxAge.TotalMilliseconds,
            answer.Tag ?? (answer.Status == HttpStatusCode.NotModified ? tag : null)
        );
        return answer.Remark;
    }

    private async Task AskListAsync(ApiShape shape)
    {
        try
        {
            var listed = await ReadListAsync(shape.Endpoint, _lists.GetValueOrDefault(shape.Endpoint.Name)?.Tag, _ending.Token);
            if (listed.IsSame)
                _lists[shape.Endpoint.Name] = new KeptList(settings.Clock.Milliseconds(), listed.MaxAge, listed.Tag);
            else
                Keep(shape, listed);
        }
        finally
        {
            _listsUnderWay.TryRemove(shape.Endpoint.Name, out _);
        }
    }

    private void Keep(ApiShape shape, ListAnswer listed)
    {
        _store.Replace(shape, null, listed.Records);

        // What was known of single records is not in the store any more.
        foreach (var name in _kept.Keys.Where(name => name.Endpoint == shape.Endpoint.Name))
            _kept.TryRemove(name, out _);
        _lists[shape.Endpoint.Name] = new KeptList(settings.Clock.Milliseconds(), listed.MaxAge, listed.Tag);
    }

    /// <param name="tag">The entity tag of the stored list, if it has one page.</param>
    private async Task<ListAnswer> ReadListAsync(ApiEndpoint endpoint, string? tag, CancellationToken cancellation)
    {
        using var limit = new LimitedWait(ListLimit, settings.Clock, cancellation);
        var records = new List<ApiRecord>();
        var age = TimeSpan.MaxValue;
        string? own = null;
        string? path = PagePath(endpoint, 1, 0);
        for (var page = 1; path is not null && page <= MostPages; page++)
        {
            var answer = await _caller.GetAsync(path, page == 1 ? tag : null, MostListBytes, limit.Token);
            if (answer.Status == HttpStatusCode.NotModified)
                return new ListAnswer([], false, answer.MaxAge, answer.Tag ?? tag) { IsSame = true };
            if (answer.MaxAge < age)
                age = answer.MaxAge;
            var found = ApiRecords.Of(answer.Json, endpoint.Records, endpoint.Names, isList: true);
            records.AddRange(found);
            if (records.Count > endpoint.Most)
                return new ListAnswer(records[..endpoint.Most], true, age, null);
            path =
                endpoint.Paging == ApiPaging.Links ? answer.Next
                : found.Count == 0 ? null
                : PagePath(endpoint, page + 1, records.Count);
            own = page == 1 && path is null ? answer.Tag : null;
        }

        return new ListAnswer(records, path is not null, age, own);
    }

    private static string? PagePath(ApiEndpoint endpoint, int page, int offset) =>
        ApiTemplate.Expand(endpoint.List!, name => (endpoint.Paging, name) switch
            {
                (ApiPaging.Page, "page") => page.ToString(System.Globalization.CultureInfo.InvariantCulture),
                (ApiPaging.Offset, "offset") => offset.ToString(System.Globalization.CultureInfo.InvariantCulture),
                _ => null,
            });

    private ApiShape Shape(string endpoint) =>
        _shapes.GetValueOrDefault(endpoint)
        ?? throw new SourceException(SourceTrouble.Failed, $"There is no endpoint called {endpoint} any more.");

    private static string? Path(ApiEndpoint endpoint, IReadOnlyList<string> key) =>
        ApiTemplate.Expand(endpoint.Item!, name => endpoint.Key.ToList().IndexOf(name) is var at and >= 0 ? key[at] : null);

    /// <summary>A record without its key is not valid in the API. Links are still filled from it.</summary>
    private static TableSchema Told(TableSchema table, ApiEndpoint endpoint) =>
        table with
        {
            Columns =
            [
                .. table.Columns.Select(column => endpoint.Key.Contains(column.Name) ? column with { Nullable = false } : column),
            ],
            PrimaryKey = endpoint.Key.All(field => table.Find(field) is not null) ? endpoint.Key : [],
            UniqueKeys = endpoint.Key.Count > 0 && endpoint.Key.All(field => table.Find(field) is not null) ? [endpoint.Key] : [],
            CanList = endpoint.List is not null,
            AboutRows = null,
        };

    private static List<string> Tables(RowOrigin table, IReadOnlyList<Join> joins) =>
        [table.Name, .. joins.Select(join => join.Table.Name).Where(name => name != table.Name).Distinct()];

    /// <summary>The value of each key field that a query asks for; null if it does not ask by key.</summary>
    private List<Operand>? Keyed(RecordQuery query)
    {
        if (!_shapes.TryGetValue(query.Table.Name, out var shape) || shape.Endpoint.Item is null || !shape.HasKey)
            return null;
        var operands = shape
            .Endpoint.Key.Select(field =>
                query.Conditions.OfType<Condition.Equal>().FirstOrDefault(equal => equal.Column == ColumnRef.Own(field))?.Value
            )
            .ToList();
        return operands.Contains(null) ? null : [.. operands.OfType<Operand>()];
    }

    /// <param name="GoodUntil">In the clock's milliseconds.</param>
    private sealed record Kept(long GoodUntil, string? Tag);

    /// <param name="ReadAt">In the clock's milliseconds.</param>
    private sealed record KeptList(long ReadAt, TimeSpan MaxAge, string? Tag);

    /// <param name="IsCut">Whether there are more records than were read.</param>
    /// <param name="Tag">The entity tag of a list with one page.</param>
    private sealed record ListAnswer(List<ApiRecord> Records, bool IsCut, TimeSpan MaxAge, string? Tag)
    {
        /// <summary>Whether it has not changed since its tag was given.</summary>
        public bool IsSame { get; init; }
    }
}
