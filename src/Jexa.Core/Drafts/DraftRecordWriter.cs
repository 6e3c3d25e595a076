using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>Writes the record kinds of a draft: key, label, parent and fields.</summary>
/// <param name="guesses">Columns that look like foreign keys but are not declared.</param>
internal sealed class DraftRecordWriter(
    DraftText text,
    IReadOnlyList<DraftRecord> all,
    SourceSchema schema,
    IReadOnlyList<RelationGuess> guesses
)
{
    public void Write(DraftRecord record)
    {
        var table = record.Table;
        text.Line(0, "");
        if (record.IsTie)
            text.Line(
                1,
                $"# {table.Name} ties {string.Join(" and ", table.ForeignKeys.Select(key => key.Table).Distinct())} together."
            );
        text.Line(1, $"{record.Name}:");
        text.Line(2, $"from: {Quoted($"data.{table.Name}")}");
        if (table.PrimaryKey.Count == 0)
            WriteKey(record);
        WriteLabel(record);
        if (Parent(record) is { } parent)
            text.Line(2, $"parent: {Quoted(parent)}");
        foreach (var secret in record.Secrets)
            text.Doubt($"{table.Name}.{secret.Name} looks secret and is never shown.");
        WriteFields(record);
    }

    /// <summary>The key of a table that has none of its own.</summary>
    private void WriteKey(DraftRecord record)
    {
        var note = record.IsKeyProven ? "" : "          # nothing keeps it unique: name what tells these apart";
        text.Line(2, $"key: {List(record.Key)}{note}");
        if (record.IsKeyProven)
            return;
        if (record.Table.Kind == TableKind.View)
            text.Line(2, "unique: assumed");
        text.Doubt($"{record.Table.Name} has no key: it gets a list and no page of its own.");
    }

    private void WriteLabel(DraftRecord record)
    {
        if (record.Label is not { } label)
        {
            if (
                record.IsTie
                && record.References.Count > 0
                && record.References.TrueForAll(reference => reference.Other.Label is not null)
            )
                text.Line(2, $"label: {Quoted(LabelOfTie(record))}");
            else if (record.IsKeyProven)
                text.Line(2, $"label: {Quoted(LabelByKey(record))}");
            return;
        }

        text.Line(2, $"label: {Quoted(label.Name)}");
        if (
            !record.Table.IsUnique([label.Name])
            && record.Table.UniqueKeys.Count > 0
            && !label.Name.Contains("name", StringComparison.OrdinalIgnoreCase)
            && !label.Name.Contains("title", StringComparison.OrdinalIgnoreCase)
        )
            text.Doubt($"{record.Name} is called by {label.Name}, which need not tell two of them apart.");
    }

    private void WriteFields(DraftRecord record)
    {
        var table = record.Table.Name;
        var (fields, proposals) = (DraftFields.Of(record, record.IsEdited(schema)), DraftFields.Proposed(record));
        foreach (var guess in guesses.Where(guess => guess.Table == table && !fields.ContainsKey(guess.Column)))
        {
            if (all.FirstOrDefault(other => other.Table.Name == guess.Target) is not { } to)
                continue;
            proposals[guess.Column] = (
                $"refers_to: {to.Name}",
                $"all {guess.Values} values that were looked at are keys of {guess.Target}"
            );
            text.Doubt(
                $"{table}.{guess.Column} looks like the key of {guess.Target}: if it is, take the # away before its line."
            );
        }

        if (fields.Count == 0 && proposals.Count == 0)
            return;
        text.Line(2, fields.Count == 0 ? "# fields:" : "fields:");
        foreach (var (column, said) in fields)
            text.Line(3, $"{Quoted(column)}: {{ {said} }}");
        foreach (var (column, (said, why)) in proposals)
            text.Line(
                fields.Count == 0 ? 2 : 3,
                $"# {(fields.Count == 0 ? "  " : "")}{Quoted(column)}: {{ {said} }}          # {why}"
            );
    }

    /// <summary>The label of a record without a name: what it belongs to, if that has a name, and the rest of its key.</summary>
    private static string LabelByKey(DraftRecord record)
    {
        var parent = record.References.Find(reference => reference.Column == Parent(record));
        if (parent.Other?.Label is not { } above)
            return $"{Labels.Capital(record.One)} {string.Join("/", record.Key.Select(key => $"{{{key}}}"))}";
        var own = record.Key.Where(key => key != parent.Column || record.Key.Count == 1);
        return $"{{{parent.Column}.{above.Name}}}, {record.One} {string.Join("/", own.Select(key => $"{{{key}}}"))}";
    }

    /// <summary>The label of a record that connects others: their labels.</summary>
    private static string LabelOfTie(DraftRecord record) =>
        string.Join(", ", record.References.Select(reference => $"{{{reference.Column}.{reference.Other.Label!.Name}}}"));

    /// <summary>
    /// The foreign key to the record that this one is part of: one within its own key, else the only one that is never empty.
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

        // Two records that are each other's parent would never end.
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

        return parent.HasDetail ? key.Columns[0] : null;
    }
}
