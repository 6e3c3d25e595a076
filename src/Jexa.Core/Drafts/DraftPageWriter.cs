using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>
/// Writes the pages of a draft: for each record kind a list, lists of its parts, a record's page and its forms.
/// </summary>
internal sealed class DraftPageWriter(DraftText text, IReadOnlyList<DraftRecord> all, SourceSchema schema)
{
    /// <summary>The most lists in the menu. A page of all lists leads to the others.</summary>
    public const int MostInMenu = 14;

    private const int MostRelated = 6;
    private const long FewRows = 40;
    private const long ManyRows = 200;

    /// <summary>A page with links to all lists, if the menu cannot hold them.</summary>
    public void WriteIndex(List<DraftRecord> listed)
    {
        if (listed.Count <= MostInMenu)
            return;
        var name = "all-lists";
        while (all.Any(record => record.ListName == name || record.Name == name))
            name += "-here";
        text.Line(0, "");
        text.Line(1, $"{name}:");
        text.Line(2, $"path: /{name}");
        text.Line(2, "title: All lists");
        text.Line(2, "text: All lists of this app, in groups.");
        text.Line(2, "lists: all");
        text.Pages++;
    }

    public void Write(DraftRecord record, bool inMenu)
    {
        if (record.IsTie)
        {
            WriteTie(record);
            return;
        }

        if (record.Table.CanList)
        {
            var shown = record.Shown();
            WriteList(record, shown, inMenu);
            if (record.Date is { Type: FieldType.Date } date && record.Table.AboutRows > ManyRows)
                WriteListOfYear(record, shown, date.Name);
            foreach (var (from, to) in Parents(record))
                WriteListOf(record, from, to, shown);
            if (!record.HasDetail)
                return;
        }

        WriteDetail(record, record.Path);
    }

    private void WriteList(DraftRecord record, IReadOnlyList<string> shown, bool inMenu)
    {
        text.Line(0, "");
        text.Line(1, $"{record.ListName}:");
        text.Line(2, $"path: {record.Path}");
        text.Line(2, $"list: {record.Name}");
        text.Line(2, $"show: {List(shown)}");
        if (record.Date is { } date && record.Table.AboutRows > ManyRows)
            text.Line(2, $"order: [{Quoted("-" + date.Name)}]");
        else if (record.Label is { } label)
            text.Line(2, $"order: [{Quoted(label.Name)}]");
        var searched = record.Searched();
        if (searched.Count > 0)
            text.Line(2, $"search: {List(searched)}");
        var side = Sides(record);
        if (side.Count > 0)
            text.Line(2, $"side: [{string.Join(", ", side)}]");
        var usual = record.Label is null ? shown.FirstOrDefault(record.Key.Contains) ?? shown[0] : record.Label.Name;
        if (record.HasDetail && record.Leading(shown) != usual)
            text.Line(2, $"links: [{{ to: {record.Name}, column: {Quoted(record.Leading(shown))} }}]");
        if (!inMenu)
            text.Line(2, "menu: hidden");
        text.Pages++;
    }

    private void WriteListOfYear(DraftRecord record, IReadOnlyList<string> shown, string date)
    {
        text.Line(0, "");
        text.Line(1, $"{record.ListName}-of-year:");
        text.Line(2, $"path: {record.Path}{{?year}}");
        text.Line(2, $"list: {record.Name}");
        text.Line(2, $"title: {Quoted($"{Labels.Capital(Labels.Plural(record.One))} of {{year}}")}");
        text.Line(2, $"show: {List(shown)}");
        text.Line(2, $"where: {{ {Quoted(date)}: {{ year: \"{{year}}\" }} }}");
        text.Line(2, $"order: [{Quoted("-" + date)}]");
        text.Line(2, "required: [year]");
        text.Pages++;
    }

    /// <summary>Records that only connect two others are added and deleted on pages of their own.</summary>
    private void WriteTie(DraftRecord record)
    {
        if (
            !record.IsKeyProven
            || !record.HasOwnKey
            || schema.ReadOnlyBecause is not null
            || record.Table is not { IsWritable: true, May: RowActs.All }
        )
            return;
        if (
            record.Table.ForeignKeys.FirstOrDefault(key =>
                key.Columns.Count == 1 && all.Any(other => other.Table.Name == key.Table && other.HasDetail)
            )
            is not { } first
        )
            return;
        var to = all.First(other => other.Table.Name == first.Table)!.Name;
        var path = record.Path;
        var by = record.Key.All(key => Parameter(key) == key)
            ? ""
            : $", by: {{ {string.Join(", ", record.Key.Select(key => $"{Parameter(key)}: {Quoted(key)}"))} }}";
        text.Line(0, "");
        text.Line(
            1,
            $"{record.Name}-new: {{ path: "
                + $"{Quoted($"{path}/new{{?{string.Join(",", record.Key.Select(Parameter))}}}")}, new: "
                + $"{record.Name}{by}, then: {to} }}"
        );
        text.Line(
            1,
            $"{record.Name}-delete: {{ path: "
                + $"{Quoted($"{path}/{string.Join("/", record.Key.Select(key => $"{{{Parameter(key)}}}"))}/delete")}, "
                + $"delete: {record.Name}{by}, then: {to} }}"
        );
        text.Pages += 2;
    }

    private void WriteDetail(DraftRecord record, string path)
    {
        var ids = record.Key.Count == 1 ? "{id}" : string.Join("/", record.Key.Select(key => $"{{{Parameter(key)}}}"));
        var by = Bound(record);
        text.Line(0, "");
        text.Line(1, $"{record.Name}:");
        text.Line(2, $"path: {Quoted($"{path}/{ids}")}");
        text.Line(2, $"detail: {record.Name}");
        if (by is not null)
            text.Line(2, by);
        var related = Related(record);
        var lacking = record.Table.Columns.FirstOrDefault(column =>
            column is { Type: FieldType.Bytes, Nullable: false, Default: null, Automatic: false }
            && !record.References.Exists(reference => reference.Column == column.Name)
        );
        var isText = record.Key.Count == 1 && record.Table.Find(record.Key[0])!.Type == FieldType.Text;
        var owners = Owners(record);
        var isUsual = lacking is null && !isText && owners.Count == 0;
        if (record.IsEdited(schema))
        {
            text.Line(2, isUsual ? "forms: [edit, new, delete]" : "forms: [edit, delete]");
            text.Pages += isUsual ? 3 : 2;
            if (lacking is not null)
                text.Line(2, $"# No page for a new {record.One}: {lacking.Name} holds bytes, which a form cannot ask for.");
        }

        if (related.Count > 0)
        {
            text.Line(2, "related:");
            foreach (var block in related)
                text.Line(3, $"- {block}");
        }

        text.Pages++;
        if (!record.IsEdited(schema) || lacking is not null || isUsual)
            return;

        // If keys are texts, a key could be “new”. The link to this page passes the record that the new one belongs to.
        var place =
            (isText ? $"/new-{record.Name}" : $"{path}/new") + (owners.Count == 0 ? "" : $"{{?{string.Join(",", owners)}}}");
        text.Line(0, "");
        text.Line(1, $"{record.Name}-new: {{ path: {Quoted(place)}, new: {record.Name} }}");
        text.Pages++;
    }

    /// <summary>The foreign keys by which pages of other records link to a new one of these.</summary>
    private static List<string> Owners(DraftRecord record) =>
        [
            .. record
                .References.Where(reference =>
                    reference.Other.HasDetail
                    && reference.Other != record
                    && Parameter(reference.Column) == reference.Column
                    && !record.Secrets.Any(secret => secret.Name == reference.Column)
                )
                .Select(reference => reference.Column)
                .Take(3),
        ];

    /// <summary>Which field each parameter means; null if the names say it.</summary>
    private static string? Bound(DraftRecord record)
    {
        if (record.Key is [var only])
            return record.Table.Find("id") is null || only == "id" ? null : $"by: {{ id: {Quoted(only)} }}";
        return record.Key.All(key => Parameter(key) == key)
            ? null
            : $"by: {{ {string.Join(", ", record.Key.Select(key => $"{Parameter(key)}: {Quoted(key)}"))} }}";
    }

    /// <summary>A list of the records of one parent, so that the parent's page can link to all of them.</summary>
    private void WriteListOf(DraftRecord record, string column, DraftRecord to, List<string> shown)
    {
        text.Line(0, "");
        text.Line(1, $"{$"{record.ListName}-of-{to.Name}"}:");
        text.Line(2, $"path: {Quoted($"{to.Path}/{{{Parameter(column)}}}/{record.ListName}")}");
        text.Line(2, $"list: {record.Name}");
        text.Line(2, $"where: {{ {Quoted(column)}: \"{{{Parameter(column)}}}\" }}");
        text.Line(2, $"show: {List(shown.Where(name => name != column))}");
        text.Pages++;
    }

    /// <summary>
    /// The parents whose page links to a list of its own: large tables, by a foreign key of one column that is not part of their
    /// own key.
    /// </summary>
    private static IEnumerable<(string Column, DraftRecord To)> Parents(DraftRecord record) =>
        record.Table.AboutRows <= ManyRows || record.Shown().Count < 2
            ? []
            : record
                .References.Where(reference =>
                    reference.Other != record
                    && reference.Other.Key.Count == 1
                    && reference.Other.HasDetail
                    && record.References.Count(other => other.Other == reference.Other) == 1
                    && Shown(reference.Other).Any(shown => shown.From == record)
                    && record.Shown().Exists(name => name != reference.Column)
                )
                .Select(reference => (reference.Column, reference.Other))
                .Take(2);

    /// <summary>
    /// The records shown on another record's page: tables before views, large ones first. They include records of the same kind
    /// that refer to it.
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
}
