using Jexa.Core.Endpoints;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>
/// Writes a first app file for a source: for each table a list, a detail page and, if it can be written, forms; with labels,
/// columns, related records, years and side lists as a person would choose them from the schema.
/// </summary>
public sealed class Drafter
{
    /// <summary>Smaller tables come later.</summary>
    private const long FewRows = 40;

    private readonly DraftInput _input;
    private readonly SourceSchema _schema;
    private readonly List<DraftRecord> _records = [];
    private readonly DraftText _text = new();

    private Drafter(DraftInput input) => (_input, _schema) = (input, input.Schema);

    /// <summary>Writes the draft.</summary>
    public static AppDraft Write(DraftInput input) => new Drafter(input).Write();

    private AppDraft Write()
    {
        foreach (var doubt in _input.Api?.Doubts ?? [])
            _text.Doubt(doubt);
        Gather();
        var ordered = _records
            .OrderBy(record => record.Table.Kind == TableKind.View)
            .ThenBy(record => record.IsTie)
            .ThenByDescending(Weight)
            .ThenBy(record => record.Name, StringComparer.Ordinal)
            .ToList();
        WriteHead(ordered.Find(record => record.HasList));
        if (ordered.Count == 0)
            _text.Line(
                0,
                _schema.Tables.Count == 0
                    ? "# The source has no tables."
                    : "# None of the source's tables has anything that a list could show."
            );
        _text.Line(0, ordered.Count == 0 ? "records: {}" : "records:");
        var records = new DraftRecordWriter(_text, _records, _schema, _input.Guesses);
        foreach (var record in ordered)
            records.Write(record);
        _text.Line(0, "");
        _text.Line(0, ordered.Count == 0 ? "pages: {}" : "pages:");
        var pages = new DraftPageWriter(_text, _records, _schema);
        foreach (var (at, record) in ordered.Index())
            pages.Write(record, at < DraftPageWriter.MostInMenu && !record.IsTie);
        pages.WriteIndex([.. ordered.Where(record => record.HasList)]);
        return new AppDraft(_text.ToString(), _text.Doubts, _records.Count, _text.Pages);
    }

    /// <summary>Everything before the records.</summary>
    private void WriteHead(DraftRecord? home)
    {
        _text.Line(0, "# A first draft, made from what the source says of itself. Change whatever you like: it is yours.");
        _text.Line(0, $"app: {Quoted(_input.Title)}");
        if (home is not null)
            _text.Line(0, $"home: {home.ListName}");
        _text.Line(0, "");
        _text.Line(0, "sources:");
        if (_input.Api is { } api)
            WriteApi(_input.Connection, api.Endpoints);
        else
            _text.Line(1, $"data: {{ engine: {_input.Engine}, connection: {Quoted(_input.Connection)} }}");
        _text.Line(0, "");
    }

    private void WriteApi(string connection, IReadOnlyList<ApiEndpoint> endpoints)
    {
        _text.Line(1, "data:");
        _text.Line(2, "engine: http");
        _text.Line(2, $"connection: {Quoted(connection)}");
        _text.Line(2, "endpoints:");
        foreach (var endpoint in endpoints)
        {
            _text.Line(3, $"{endpoint.Name}:");
            if (endpoint.Item is { } item)
                _text.Line(4, $"item: {Quoted(item)}");
            if (endpoint.List is { } list)
                _text.Line(4, $"list: {Quoted(list)}");
            if (endpoint.Record.Length > 0)
                _text.Line(4, $"record: {Quoted(endpoint.Record)}");
            if (endpoint.Records.Length > 0)
                _text.Line(4, $"records: {Quoted(endpoint.Records)}");
            if (endpoint.Names is { } names)
                _text.Line(4, $"names: {Quoted(names)}");
            if (endpoint.Item is null && endpoint.Key.Count > 0)
                _text.Line(4, $"key: {List(endpoint.Key)}");
            if (endpoint.Paging != ApiPaging.Links)
                _text.Line(4, $"paging: {endpoint.Paging.ToString().ToLowerInvariant()}");
            var fields = endpoint.Fields.Select(field => $"{Quoted(field.Key)}: {field.Value.Word()}");
            _text.Line(4, $"fields: {{ {string.Join(", ", fields)} }}");
        }
    }

    private void Gather()
    {
        var names = new HashSet<string>();
        foreach (var table in _schema.Tables.Where(table => table.Columns.Count > 0))
        {
            var record = new DraftRecord(table, Named(table.Name, names), _input.Samples.GetValueOrDefault(table.Name));
            if (record.Key.Count > 0)
                _records.Add(record);
            if (record is { Key.Count: > 0, HasOwnKey: false } && table.PrimaryKey.Count > 0)
            {
                var odd = table.PrimaryKey.First(column => !record.CanBeKey(column));
                _text.Doubt(
                    $"{table.Name}.{odd} is {table.Find(odd)!.Type.Word()}, which no address can carry: {table.Name} "
                        + "gets a list and no page of its own."
                );
            }
            if (record.Key.Count == 0)
                _text.Doubt($"{table.Name} has nothing that a list could show; it is left out.");
        }

        foreach (var record in _records)
        {
            foreach (var key in record.Table.ForeignKeys)
            {
                if (_records.Find(other => other.Table.Name == key.Table) is not { } other)
                    continue;
                other.Referrers.Add((record, key.Columns));
                if (key.Columns is [var only])
                    record.References.Add((only, other));
            }
        }
    }

    private static long Weight(DraftRecord record) =>
        (record.Referrers.Count * 1000)
        + (record.References.Count * 10)
        + Math.Min(record.Table.AboutRows ?? 0, 900_000) / 1000
        - (record.Table.AboutRows <= FewRows ? 500 : 0);
}
