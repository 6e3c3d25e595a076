using System.Globalization;
using System.Text;

namespace Jexa.Service.Tests;

/// <summary>
/// A made-up app over a made-up schema, and three worlds of data for it: without any hidden record; with some; and with the
/// foreign keys of visible records that lead to hidden ones exchanged among these. A visitor must not be able to tell them apart.
/// </summary>
internal sealed class HiddenWorlds
{
    private static readonly string[] Kinds = ["task", "board", "note", "place"];

    private readonly Random _random;
    private readonly List<Kind> _kinds = [];

    public HiddenWorlds(int seed)
    {
        _random = new Random(seed);
        for (var i = 0; i < Kinds.Length; i++)
            _kinds.Add(Make(Kinds[i], i));
    }

    public string App { get; private set; } = "";

    public string Schema => string.Join('\n', _kinds.Select(kind => kind.Create));

    /// <summary>All addresses that are tried: those of visible, hidden and missing records in every form.</summary>
    public IReadOnlyList<string> Targets { get; private set; } = [];

    /// <summary>The rows of a world: 0 without hidden records, 1 with them, 2 with references to them exchanged.</summary>
    public string Rows(int world) => string.Join('\n', _kinds.Select(kind => kind.Insert(world)));

    public static HiddenWorlds Of(int seed)
    {
        var worlds = new HiddenWorlds(seed);
        worlds.WriteApp();
        worlds.WriteTargets();
        return worlds;
    }

    private Kind Make(string name, int place)
    {
        var isText = place == 1 ? _random.Next(2) == 0 : _random.Next(4) == 0;
        var parent = place > 0 && _random.Next(3) == 0 ? _kinds[_random.Next(place)] : null;
        if (parent is { Parent: not null })
            parent = null;
        var kind = new Kind(name, isText, parent);

        // A foreign key to itself, to earlier kinds, and one of several columns if there is a kind with such a key.
        if (parent is null && _random.Next(2) == 0)
            kind.References.Add(("boss", kind));
        for (var i = 0; i < place; i++)
            if (_random.Next(2) == 0 && _kinds[i] != parent)
                kind.References.Add(($"{_kinds[i].Name}_ref", _kinds[i]));
        var count = 8 + _random.Next(5);
        for (var i = 1; i <= count; i++)
        {
            var hidden = i % 3 == 0;
            var key = isText ? (hidden ? $"C{i}" : $"c{(i % 3 == 1 ? i + 2 : i)}") : i.ToString(CultureInfo.InvariantCulture);
            kind.Records.Add(new Record(key, hidden));
        }

        // Keys that differ from a hidden one in letter case alone stay; two alike do not.
        var seen = new HashSet<string>(parent is null ? StringComparer.Ordinal : StringComparer.OrdinalIgnoreCase);
        kind.Records.RemoveAll(record => !seen.Add(record.Key));
        foreach (var record in kind.Records)
        {
            if (parent is not null)
                record.Above = parent.Referable[_random.Next(parent.Referable.Count)];
            record.IsWithheld = record.IsHidden || record.Above is { IsWithheld: true };
        }

        foreach (var record in kind.Records)
        foreach (var (column, other) in kind.References)
            record.References[column] = _random.Next(4) == 0 ? null : other.Referable[_random.Next(other.Referable.Count)];
        return kind;
    }

    private void WriteApp()
    {
        var app = new StringBuilder(
            "app: Worlds\nhome: tasks\nsources: { s: { engine: sqlite, connection: data.db } }\nrecords:\n"
        );
        foreach (var kind in _kinds)
        {
            var label =
                kind.References.Count > 0 && _random.Next(4) == 0 ? $"\"{{name}} {{{kind.References[0].Column}}}\"" : "name";
            app.AppendLine(
                $"  {kind.Name}: {{ from: s.{kind.Name}, label: "
                    + $"{label}{(kind.Parent is null && kind.IsText ? ", key: id" : "")}, visible: {{ state: {{ not: "
                    + "hidden } }, fields: { picture: { as: image, under: pictures } } }"
            );
        }

        app.AppendLine("pages:");
        foreach (var kind in _kinds)
        {
            var (name, many, id) = (kind.Name, kind.Name + "s", kind.Path);
            var columns = string.Join(
                ", ",
                kind.References.SelectMany(one =>
                    one.Other.Parent is null ? new[] { one.Column } : [one.Column, $"{one.Column}_above"]
                )
            );
            var single = string.Join(',', kind.References.Where(one => one.Other.Parent is null).Select(one => one.Column));
            var sides = string.Join(", ", kind.References.Select(one => one.Column).Append("state"));
            var filters = string.Join(',', kind.References.Select(one => one.Column).Append("state"));
            var related = string.Join(
                ", ",
                _kinds.SelectMany(other =>
                    other
                        .References.Where(one => one.Other == kind)
                        .Select(one => $"{{ record: {other.Name}, by: {one.Column} }}")
                )
            );
            var beside = _random.Next(3) == 0 ? $", beside: {many}" : "";
            var page = $"\"/{many}{id}\"";
            app.AppendLine(
                $"  {many}: {{ path: \"/{many}{(filters.Length > 0 ? $"{{?{filters}}}" : "")}\", list: {name}, "
                    + $"side: [{sides}], search: [name], show: [name, "
                    + $"{(columns.Length > 0 ? columns + ", " : "")}state, picture] }}"
            );
            app.AppendLine(
                $"  {name}: {{ path: {page}, detail: "
                    + $"{name}{kind.By}{(related.Length > 0 ? $", related: [{related}]" : "")}{beside}, links: [ {{ "
                    + $"to: {name}-edit }}, {{ to: {name}-delete }} ] }}"
            );
            app.AppendLine($"  {name}-edit: {{ path: \"/{many}{id}/edit\", edit: {name}{kind.By} }}");
            app.AppendLine($"  {name}-delete: {{ path: \"/{many}{id}/delete\", delete: {name}{kind.By} }}");
            app.AppendLine(
                $"  {name}-new: {{ path: \"/new-{name}{(single.Length > 0 ? $"{{?{single}}}" : "")}\", new: {name} }}"
            );
            foreach (
                var (column, _) in kind.References.Where(one =>
                    one.Other != kind && kind.Parent is null && one.Other.Parent is null
                )
            )
                app.AppendLine(
                    $"  {name}-of-{column}: {{ path: \"/of/{column}/{{{column}}}/{many}{id}\", detail: {name}, by: "
                        + $"{{ {column}: {column}, id: id }} }}"
                );
        }

        App = app.ToString();
    }

    private void WriteTargets()
    {
        var targets = new List<string> { "/", "/_jexa/app/openapi.json", "/nowhere" };
        foreach (var kind in _kinds)
        {
            var many = kind.Name + "s";
            targets.AddRange([$"/{many}", $"/{many}?find=n", $"/{many}?size=20&order=-name", $"/new-{kind.Name}"]);
            foreach (var (column, other) in kind.References)
            {
                targets.Add($"/{many}?order={column}");
                targets.Add($"/_jexa/app/choices/{kind.Name}-edit/{column}");
                foreach (var target in other.Records.Select(record => record.Key).Append("77").Append("c77"))
                {
                    targets.AddRange([$"/{many}?{column}={target}", $"/new-{kind.Name}?{column}={target}"]);
                    foreach (var record in kind.Records.Where(record => !record.IsWithheld).Take(3))
                    {
                        targets.Add($"/{many}{kind.Address(record)}?from={many}%3F{column}%3D{target}");
                        if (other != kind && kind.Parent is null && other.Parent is null)
                            targets.Add($"/of/{column}/{target}/{many}{kind.Address(record)}");
                    }
                }
            }

            foreach (var address in kind.Records.Select(kind.Address).Append(kind.Parent is null ? "/77" : "/77/78"))
            {
                targets.AddRange([
                    $"/{many}{address}",
                    $"/{many}{address}/edit",
                    $"/{many}{address}/delete",
                    $"/_jexa/pictures/{kind.Name}/picture{address}",
                ]);
                if (kind.IsText)
                    targets.Add($"/{many}{address.ToUpperInvariant()}");
            }
        }

        Targets = [.. targets.Distinct()];
    }

    private sealed class Record(string key, bool isHidden)
    {
        public string Key { get; } = key;

        public bool IsHidden { get; } = isHidden;

        /// <summary>The record that it is a part of.</summary>
        public Record? Above { get; set; }

        /// <summary>Whether it, or what it is a part of, is hidden.</summary>
        public bool IsWithheld { get; set; }

        public Dictionary<string, Record?> References { get; } = [];
    }

    private sealed class Kind(string name, bool isText, Kind? parent)
    {
        public string Name => name;

        public bool IsText => isText;

        public Kind? Parent => parent;

        public List<(string Column, Kind Other)> References { get; } = [];

        public List<Record> Records { get; } = [];

        /// <summary>Those that a foreign key tells apart: SQLite compares it without regard to letter case.</summary>
        public List<Record> Referable =>
            [
                .. Records.Where(record =>
                    Records.Count(other => other.Key.Equals(record.Key, StringComparison.OrdinalIgnoreCase)) == 1
                ),
            ];

        public string Path => parent is null ? "/{id}" : "/{above}/{id}";

        public string By => parent is null ? "" : ", by: { above: above, id: id }";

        public string Address(Record record) => parent is null ? $"/{record.Key}" : $"/{record.Above!.Key}/{record.Key}";

        private string Type => isText ? "TEXT COLLATE NOCASE" : "INTEGER";

        public string Create =>
            $"CREATE TABLE {name} ("
            + (
                parent is null
                    ? $"id {(isText ? "TEXT COLLATE NOCASE NOT NULL" : "INTEGER PRIMARY KEY")}, "
                    : $"above {parent.Type} NOT NULL REFERENCES {parent.Name} (id), id {Type} NOT NULL, "
            )
            + "name TEXT NOT NULL, state TEXT NOT NULL, picture TEXT"
            + string.Concat(
                References.Select(one =>
                    (one.Other.Parent is { } above ? $", {one.Column}_above {above.KeyType}" : "")
                    + $", {one.Column} {one.Other.KeyType}"
                )
            )
            + (parent is not null ? ", PRIMARY KEY (above, id)" : "")
            + string.Concat(
                References.Select(one =>
                    one.Other.Parent is null
                        ? $", FOREIGN KEY ({one.Column}) REFERENCES {one.Other.Name} (id)"
                        : $", FOREIGN KEY ({one.Column}_above, {one.Column}) REFERENCES {one.Other.Name} (above, id)"
                )
            )
            + ");"
            // Not unique for SQLite, since hidden and visible keys may differ in letter case alone: the developer vouches for it.
            + (parent is null && isText ? $" CREATE UNIQUE INDEX {name}_id ON {name} (id COLLATE BINARY);" : "");

        private string KeyType => Type;

        public string Insert(int world)
        {
            var rows = Records
                .Where(record => world > 0 || !record.IsWithheld)
                .Select(record =>
                {
                    var values = new List<string>
                    {
                        Quote(record.Key),
                        Quote($"n {record.Key.ToLowerInvariant()}"),
                        record.IsHidden ? "'hidden'" : "'open'",
                        Quote($"{record.Key.ToLowerInvariant()}.png"),
                    };
                    if (parent is not null)
                        values.Insert(0, Quote(record.Above!.Key));
                    foreach (var (column, other) in References)
                    {
                        var target = record.References[column] is { } named ? Exchanged(other, named, world, record) : null;
                        if (other.Parent is not null)
                            values.Add(target is null ? "NULL" : Quote(target.Above!.Key));
                        values.Add(target is null ? "NULL" : Quote(target.Key));
                    }

                    return $"({string.Join(", ", values)})";
                });
            return $"INSERT INTO {name} VALUES {string.Join(", ", rows)};";
        }

        /// <summary>In the last world a visible record refers to the next hidden one instead.</summary>
        private static Record Exchanged(Kind other, Record target, int world, Record from)
        {
            if (world < 2 || !target.IsWithheld || from.IsWithheld)
                return target;
            var hidden = other.Referable.Where(record => record.IsWithheld).ToList();
            return hidden[(hidden.IndexOf(target) + 1) % hidden.Count];
        }

        private static string Quote(string text) => $"'{text.Replace("'", "''")}'";
    }
}
