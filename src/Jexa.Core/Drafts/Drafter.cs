using System.Text;
using Jexa.Core.Endpoints;
using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>
/// Writes a first app file over a source: a list, a detail page and, where it can be written to, pages to edit for each table;
/// labels, columns, related records, years and side lists as a person would choose them who sees the schema and nothing else.
/// </summary>
public sealed class Drafter
{
    private const int MostInMenu = 14;
    private const int MostRelated = 6;
    private const long FewRows = 40;
    private const long ManyRows = 200;

    private readonly SourceSchema _schema;
    private readonly List<DraftRecord> _records = [];
    private readonly StringBuilder _text = new();
    private readonly List<string> _doubts = [];
    private int _pages;

    private readonly IReadOnlyDictionary<string, TableSample> _samples;

    private readonly IReadOnlyList<RelationGuess> _guesses;

    private Drafter(
        SourceSchema schema,
        IReadOnlyDictionary<string, TableSample> samples,
        IReadOnlyList<RelationGuess> guesses
    ) => (_schema, _samples, _guesses) = (schema, samples, guesses);

    /// <param name="connection">As it is to stand in the file.</param>
    /// <param name="samples">What some rows of each table hold, by its name; empty if nothing is known of them.</param>
    /// <param name="guesses">Columns that look like foreign keys and are not declared so: they are proposed.</param>
    /// <param name="endpoints">How an API is called, and what its description leaves open; null for a source that is
    /// none.</param>
    public static AppDraft Write(
        string title,
        string engine,
        string connection,
        SourceSchema schema,
        IReadOnlyDictionary<string, TableSample> samples,
        IReadOnlyList<RelationGuess>? guesses = null,
        ApiDescription? endpoints = null
    ) => new Drafter(schema, samples, guesses ?? []).Write(title, engine, connection, endpoints);

    private AppDraft Write(string title, string engine, string connection, ApiDescription? api)
    {
        if (api is not null)
            _doubts.AddRange(api.Doubts);
        Gather();
        var ordered = _records
            .OrderBy(record => record.Table.Kind == TableKind.View)
            .ThenBy(record => record.IsTie)
            .ThenByDescending(Weight)
            .ThenBy(record => record.Name, StringComparer.Ordinal)
            .ToList();
        Line(0, "# A first draft, made from what the source says of itself. Change whatever you like: it is yours.");
        Line(0, $"app: {Quoted(title)}");
        if (ordered.Find(record => Pages(record)) is { } home)
            Line(0, $"home: {ListName(home)}");
        Line(0, "");
        Line(0, "sources:");
        if (api is null)
            Line(1, $"data: {{ engine: {engine}, connection: {Quoted(connection)} }}");
        else
            WriteApi(connection, api.Endpoints);
        Line(0, "");
        if (ordered.Count == 0)
            Line(
                0,
                _schema.Tables.Count == 0
                    ? "# The source has no tables."
                    : "# None of the source's tables has anything that a list could show."
            );
        Line(0, ordered.Count == 0 ? "records: {}" : "records:");
        foreach (var record in ordered)
            WriteRecord(record);
        Line(0, "");
        Line(0, ordered.Count == 0 ? "pages: {}" : "pages:");
        foreach (var record in ordered)
            WritePages(record, ordered.IndexOf(record) < MostInMenu && !record.IsTie);
        WriteIndex([.. ordered.Where(Pages)]);
        var text = _text.ToString();
        var first = text.IndexOf('\n') + 1;
        return new AppDraft(
            text[..first] + string.Concat(_doubts.Select(doubt => $"# Unsure: {doubt}\n")) + text[first..],
            _doubts,
            _records.Count,
            _pages
        );
    }

    private void WriteApi(string connection, IReadOnlyList<ApiEndpoint> endpoints)
    {
        Line(1, "data:");
        Line(2, "engine: http");
        Line(2, $"connection: {Quoted(connection)}");
        Line(2, "endpoints:");
        foreach (var endpoint in endpoints)
        {
            Line(3, $"{endpoint.Name}:");
            if (endpoint.Item is { } item)
                Line(4, $"item: {Quoted(item)}");
            if (endpoint.List is { } list)
                Line(4, $"list: {Quoted(list)}");
            if (endpoint.Record.Length > 0)
                Line(4, $"record: {Quoted(endpoint.Record)}");
            if (endpoint.Records.Length > 0)
                Line(4, $"records: {Quoted(endpoint.Records)}");
            if (endpoint.Names is { } names)
                Line(4, $"names: {Quoted(names)}");
            if (endpoint.Item is null && endpoint.Key.Count > 0)
                Line(4, $"key: {List(endpoint.Key)}");
            if (endpoint.Paging != ApiPaging.Links)
                Line(4, $"paging: {endpoint.Paging.ToString().ToLowerInvariant()}");
            var fields = endpoint.Fields.Select(field => $"{Quoted(field.Key)}: {field.Value.Word()}");
            Line(4, $"fields: {{ {string.Join(", ", fields)} }}");
        }
    }

    private void Gather()
    {
        var names = new HashSet<string>();
        foreach (var table in _schema.Tables.Where(table => table.Columns.Count > 0))
        {
            var record = new DraftRecord(table, Named(table.Name, names), _samples.GetValueOrDefault(table.Name));
            if (record.Key.Count > 0)
                _records.Add(record);
            if (record is { Key.Count: > 0, HasOwnKey: false } && table.PrimaryKey.Count > 0)
            {
                var odd = table.PrimaryKey.First(column => !record.CanBeKey(column));
                Doubt(
                    $"{table.Name}.{odd} is {table.Find(odd)!.Type.Word()}, which no address can carry: {table.Name} "
                        + "gets a list and no page of its own."
                );
            }
            if (record.Key.Count == 0)
                Doubt($"{table.Name} has nothing that a list could show; it is left out.");
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

    private void WriteRecord(DraftRecord record)
    {
        var table = record.Table;
        Line(0, "");
        if (record.IsTie)
            Line(
                1,
                $"# {table.Name} ties {string.Join(" and ", table.ForeignKeys.Select(key => key.Table).Distinct())} together."
            );
        Line(1, $"{record.Name}:");
        Line(2, $"from: {Quoted($"data.{table.Name}")}");
        if (table.PrimaryKey.Count == 0)
        {
            Line(
                2,
                $"key: {List(record.Key)}"
                    + $"{(record.IsKeyProven ? "" : "          # nothing keeps it unique: name what tells these apart")}"
            );
            if (!record.IsKeyProven)
            {
                if (table.Kind == TableKind.View)
                    Line(2, "unique: assumed");
                Doubt($"{table.Name} has no key: it gets a list and no page of its own.");
            }
        }

        if (record.Label is { } label)
            Line(2, $"label: {Quoted(label.Name)}");
        else if (
            record.IsTie
            && record.References.Count > 0
            && record.References.TrueForAll(reference => reference.Other.Label is not null)
        )
            Line(2, $"label: {Quoted(LabelOfTie(record))}");
        else if (record.IsKeyProven)
            Line(2, $"label: {Quoted(LabelByKey(record))}");
        if (
            record.Label is { } chosen
            && !table.IsUnique([chosen.Name])
            && table.UniqueKeys.Count > 0
            && !chosen.Name.Contains("name", StringComparison.OrdinalIgnoreCase)
            && !chosen.Name.Contains("title", StringComparison.OrdinalIgnoreCase)
        )
            Doubt($"{record.Name} is called by {chosen.Name}, which need not tell two of them apart.");
        if (Parent(record) is { } parent)
            Line(2, $"parent: {Quoted(parent)}");
        foreach (var secret in record.Secrets)
            Doubt($"{table.Name}.{secret.Name} looks secret and is never shown.");
        var (fields, proposals) = (DraftFields.Of(record, IsEdited(record)), DraftFields.Proposed(record));

        var relations = _guesses
            .Where(guess => guess.Table == table.Name)
            .Select(guess => (guess, to: _records.Find(other => other.Table.Name == guess.Target)))
            .Where(pair => pair.to is not null && !fields.ContainsKey(pair.guess.Column))
            .ToList();
        foreach (var (guess, to) in relations)
        {
            proposals[guess.Column] = (
                $"refers_to: {to!.Name}",
                $"all {guess.Values} values that were looked at are keys of {guess.Target}"
            );
            Doubt(
                $"{table.Name}.{guess.Column} looks like the key of {guess.Target}: if it is, take the # away before its line."
            );
        }

        if (fields.Count == 0 && proposals.Count == 0)
            return;
        Line(2, fields.Count == 0 ? "# fields:" : "fields:");
        foreach (var (column, text) in fields)
            Line(3, $"{Quoted(column)}: {{ {text} }}");
        foreach (var (column, (text, why)) in proposals)
            Line(
                fields.Count == 0 ? 2 : 3,
                $"# {(fields.Count == 0 ? "  " : "")}{Quoted(column)}: {{ {text} }}          # {why}"
            );
    }

    /// <summary>
    /// What a record without a name is called: by what it belongs to, if that has one, and by the rest of its key.
    /// </summary>
    private static string LabelByKey(DraftRecord record)
    {
        var parent = record.References.Find(reference => reference.Column == Parent(record));
        if (parent.Other?.Label is not { } above)
            return $"{Labels.Capital(record.One)} {string.Join("/", record.Key.Select(key => $"{{{key}}}"))}";
        var own = record.Key.Where(key => key != parent.Column || record.Key.Count == 1);
        return $"{{{parent.Column}.{above.Name}}}, {record.One} {string.Join("/", own.Select(key => $"{{{key}}}"))}";
    }

    /// <summary>What a row is called that ties others together: by the labels of those.</summary>
    private static string LabelOfTie(DraftRecord record) =>
        string.Join(", ", record.References.Select(reference => $"{{{reference.Column}.{reference.Other.Label!.Name}}}"));

    /// <summary>A page that leads to every list, where the menu cannot.</summary>
    private void WriteIndex(List<DraftRecord> listed)
    {
        if (listed.Count <= MostInMenu)
            return;
        var name = "all-lists";
        while (_records.Exists(record => ListName(record) == name || record.Name == name))
            name += "-here";
        Line(0, "");
        Line(1, $"{name}:");
        Line(2, $"path: /{name}");
        Line(2, "title: All lists");
        Line(2, "text: All lists of this app, in groups.");
        Line(2, "lists: all");
        _pages++;
    }

    private void WritePages(DraftRecord record, bool inMenu)
    {
        if (record.IsTie)
        {
            WriteTie(record);
            return;
        }

        var shown = record.Shown();
        var path = PathOf(record);
        var detail = HasDetail(record);
        if (!record.Table.CanList)
        {
            WriteDetail(record, path);
            return;
        }

        Line(0, "");
        Line(1, $"{ListName(record)}:");
        Line(2, $"path: {path}");
        Line(2, $"list: {record.Name}");
        Line(2, $"show: {List(shown)}");
        if (record.Date is { } date && record.Table.AboutRows > ManyRows)
            Line(2, $"order: [{Quoted("-" + date.Name)}]");
        else if (record.Label is { } label)
            Line(2, $"order: [{Quoted(label.Name)}]");
        var searched = record.Searched();
        if (searched.Count > 0)
            Line(2, $"search: {List(searched)}");
        var side = Sides(record);
        if (side.Count > 0)
            Line(2, $"side: [{string.Join(", ", side)}]");
        var usual = record.Label is null ? shown.FirstOrDefault(record.Key.Contains) ?? shown[0] : record.Label.Name;
        if (detail && record.Leading(shown) != usual)
            Line(2, $"links: [{{ to: {record.Name}, column: {Quoted(record.Leading(shown))} }}]");
        if (!inMenu)
            Line(2, "menu: hidden");
        _pages++;
        if (record.Date is { Type: FieldType.Date } year && record.Table.AboutRows > ManyRows)
        {
            Line(0, "");
            Line(1, $"{$"{ListName(record)}-of-year"}:");
            Line(2, $"path: {path}{{?year}}");
            Line(2, $"list: {record.Name}");
            Line(2, $"title: {Quoted($"{Labels.Capital(Labels.Plural(record.One))} of {{year}}")}");
            Line(2, $"show: {List(shown)}");
            Line(2, $"where: {{ {Quoted(year.Name)}: {{ year: \"{{year}}\" }} }}");
            Line(2, $"order: [{Quoted("-" + year.Name)}]");
            Line(2, "required: [year]");
            _pages++;
        }

        foreach (var (from, to) in Parents(record))
            WriteListOf(record, from, to, shown);
        if (detail)
            WriteDetail(record, path);
    }

    /// <summary>What ties two kinds together is added and taken away on their own pages.</summary>
    private void WriteTie(DraftRecord record)
    {
        if (
            !record.IsKeyProven
            || !record.HasOwnKey
            || _schema.ReadOnlyBecause is not null
            || record.Table is not { IsWritable: true, May: RowActs.All }
        )
            return;
        if (
            record.Table.ForeignKeys.FirstOrDefault(key =>
                key.Columns.Count == 1 && _records.Exists(other => other.Table.Name == key.Table && HasDetail(other))
            )
            is not { } first
        )
            return;
        var to = _records.Find(other => other.Table.Name == first.Table)!.Name;
        var path = PathOf(record);
        var by = record.Key.All(key => Parameter(key) == key)
            ? ""
            : $", by: {{ {string.Join(", ", record.Key.Select(key => $"{Parameter(key)}: {Quoted(key)}"))} }}";
        Line(0, "");
        Line(
            1,
            $"{record.Name}-new: {{ path: "
                + $"{Quoted($"{path}/new{{?{string.Join(",", record.Key.Select(Parameter))}}}")}, new: "
                + $"{record.Name}{by}, then: {to} }}"
        );
        Line(
            1,
            $"{record.Name}-delete: {{ path: "
                + $"{Quoted($"{path}/{string.Join("/", record.Key.Select(key => $"{{{Parameter(key)}}}"))}/delete")}, "
                + $"delete: {record.Name}{by}, then: {to} }}"
        );
        _pages += 2;
    }

    private void WriteDetail(DraftRecord record, string path)
    {
        var ids = record.Key.Count == 1 ? "{id}" : string.Join("/", record.Key.Select(key => $"{{{Parameter(key)}}}"));
        var by = Bound(record);
        Line(0, "");
        Line(1, $"{record.Name}:");
        Line(2, $"path: {Quoted($"{path}/{ids}")}");
        Line(2, $"detail: {record.Name}");
        if (by is not null)
            Line(2, by);
        var related = Related(record);
        var lacking = record.Table.Columns.FirstOrDefault(column =>
            column is { Type: FieldType.Bytes, Nullable: false, Default: null, Automatic: false }
            && !record.References.Exists(reference => reference.Column == column.Name)
        );
        var isText = record.Key.Count == 1 && record.Table.Find(record.Key[0])!.Type == FieldType.Text;
        var owners = Owners(record);
        var isUsual = lacking is null && !isText && owners.Count == 0;
        if (IsEdited(record))
        {
            Line(2, isUsual ? "forms: [edit, new, delete]" : "forms: [edit, delete]");
            _pages += isUsual ? 3 : 2;
            if (lacking is not null)
                Line(2, $"# No page for a new {record.One}: {lacking.Name} holds bytes, which a form cannot ask for.");
        }

        if (related.Count > 0)
        {
            Line(2, "related:");
            foreach (var block in related)
                Line(3, $"- {block}");
        }

        _pages++;
        if (!IsEdited(record) || lacking is not null || isUsual)
            return;

        // Where keys are texts, one of them could be “new”. What a record belongs to comes with the link that leads here.
        var place =
            (isText ? $"/new-{record.Name}" : $"{path}/new") + (owners.Count == 0 ? "" : $"{{?{string.Join(",", owners)}}}");
        Line(0, "");
        Line(1, $"{record.Name}-new: {{ path: {Quoted(place)}, new: {record.Name} }}");
        _pages++;
    }

    /// <summary>The foreign keys by which other records' pages lead to a new one of these.</summary>
    private static List<string> Owners(DraftRecord record) =>
        [
            .. record
                .References.Where(reference =>
                    HasDetail(reference.Other)
                    && reference.Other != record
                    && Parameter(reference.Column) == reference.Column
                    && !record.Secrets.Any(secret => secret.Name == reference.Column)
                )
                .Select(reference => reference.Column)
                .Take(3),
        ];

    /// <summary>Which field each parameter stands for; null if the names say it.</summary>
    private static string? Bound(DraftRecord record)
    {
        if (record.Key is [var only])
            return record.Table.Find("id") is null || only == "id" ? null : $"by: {{ id: {Quoted(only)} }}";
        return record.Key.All(key => Parameter(key) == key)
            ? null
            : $"by: {{ {string.Join(", ", record.Key.Select(key => $"{Parameter(key)}: {Quoted(key)}"))} }}";
    }

    /// <summary>A list of the records of one parent, so that its page can lead to all of them.</summary>
    private void WriteListOf(DraftRecord record, string column, DraftRecord to, List<string> shown)
    {
        Line(0, "");
        Line(1, $"{$"{ListName(record)}-of-{to.Name}"}:");
        Line(2, $"path: {Quoted($"{PathOf(to)}/{{{Parameter(column)}}}/{ListName(record)}")}");
        Line(2, $"list: {record.Name}");
        Line(2, $"where: {{ {Quoted(column)}: \"{{{Parameter(column)}}}\" }}");
        Line(2, $"show: {List(shown.Where(name => name != column))}");
        _pages++;
    }

    /// <summary>
    /// The parents whose page leads to a list of its own: large tables, tied by one column that is no part of their own key.
    /// </summary>
    private static IEnumerable<(string Column, DraftRecord To)> Parents(DraftRecord record) =>
        record.Table.AboutRows <= ManyRows || record.Shown().Count < 2
            ? []
            : record
                .References.Where(reference =>
                    reference.Other != record
                    && reference.Other.Key.Count == 1
                    && HasDetail(reference.Other)
                    && record.References.Count(other => other.Other == reference.Other) == 1
                    && Shown(reference.Other).Any(shown => shown.From == record)
                    && record.Shown().Exists(name => name != reference.Column)
                )
                .Select(reference => (reference.Column, reference.Other))
                .Take(2);

    /// <summary>
    /// The records that stand on another's page: tables before views, large ones first. Among them those of the same kind that
    /// refer to it.
    /// </summary>
    private static IEnumerable<(DraftRecord From, IReadOnlyList<string> Columns)> Shown(DraftRecord record) =>
        record
            .Referrers.OrderBy(referrer => referrer.From.Table.Kind == TableKind.View)
            .ThenByDescending(referrer => referrer.From.Table.AboutRows ?? 0)
            .Take(MostRelated);

    private static List<string> Related(DraftRecord record)
    {
        var blocks = new List<string>();
        foreach (var (from, columns) in Shown(record))
        {
            var several =
                record.Referrers.Count(other => other.From == from) > 1
                || from.References.Exists(reference => reference.Other == record)
                    && record.References.Exists(reference => reference.Other == from);
            var shown = from.Shown().Where(name => !columns.Contains(name)).ToList();
            var title = $"{Labels.Capital(Labels.Plural(from.One))} by {Labels.OfReference(columns[0]).ToLowerInvariant()}";
            blocks.Add(
                $"{{ record: {from.Name}{(several ? $", by: {Quoted(columns[0])}, title: {Quoted(title)}" : "")}"
                    + $"{(shown.Count > 0 ? $", show: {List(shown)}" : "")}"
                    + $"{(from.Date is { } date ? $", order: [{Quoted("-" + date.Name)}]" : "")} }}"
            );
        }

        return blocks;
    }

    private static List<string> Sides(DraftRecord record)
    {
        var sides = new List<string>();
        if (record.Table.AboutRows is not > ManyRows)
            return sides;
        if (record.Date is { Type: FieldType.Date } date)
            sides.Add($"{{ by: {Quoted("-" + date.Name)}, part: year }}");
        sides.AddRange(
            Parents(record)
                .Where(parent => parent.To.Table.AboutRows is > 1 and <= FewRows)
                .Select(parent => Quoted(parent.Column))
        );
        return sides;
    }

    /// <summary>
    /// The foreign key that leads to what a record is a part of: one that its own key holds, else the only one that is never
    /// empty.
    /// </summary>
    private static string? Parent(DraftRecord record)
    {
        var own = record
            .Table.ForeignKeys.Where(key =>
                key.Table != record.Table.Name
                && record.References.Exists(reference => key.Columns is [var only] && reference.Column == only)
            )
            .ToList();
        var must = own.Where(key => key.Columns.All(column => record.Table.Find(column) is { Nullable: false })).ToList();
        var key = must.Find(key => key.Columns.All(record.Key.Contains)) ?? (must.Count == 1 ? must[0] : null);
        if (key is null)
            return null;
        var parent = record.References.First(reference => reference.Column == key.Columns[0]).Other;

        // Two that are each other's parents would have no end.
        for (var (at, steps) = (parent, 0); steps < 20; steps++)
        {
            if (at == record)
                return null;
            if (
                at.References.Find(reference => at.Table.Find(reference.Column) is { Nullable: false }).Other is not { } above
                || above == at
            )
                break;
            at = above;
        }

        return HasDetail(parent) ? key.Columns[0] : null;
    }

    private static long Weight(DraftRecord record) =>
        (record.Referrers.Count * 1000)
        + (record.References.Count * 10)
        + Math.Min(record.Table.AboutRows ?? 0, 900_000) / 1000
        - (record.Table.AboutRows <= FewRows ? 500 : 0);

    private static bool Pages(DraftRecord record) => !record.IsTie && record.Table.CanList;

    private static bool HasDetail(DraftRecord record) => record.IsKeyProven && !record.IsTie;

    private bool IsEdited(DraftRecord record) =>
        HasDetail(record)
        && _schema.ReadOnlyBecause is null
        && record.Table is { IsWritable: true, May: RowActs.All }
        && record.HasOwnKey;

    private static string ListName(DraftRecord record) =>
        Slug(Labels.Plural(record.One)) is var many && many == record.Name ? $"{many}-list" : many;

    private static string PathOf(DraftRecord record) => "/" + ListName(record);

    private void Doubt(string sentence) => _doubts.Add(sentence);

    private void Line(int depth, string text) => _text.Append(' ', text.Length == 0 ? 0 : depth * 2).Append(text).Append('\n');
}
