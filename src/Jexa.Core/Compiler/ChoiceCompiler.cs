using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the choices of a form for a foreign key: how they are listed, found and labelled.</summary>
internal sealed class ChoiceCompiler(RecordGraph graph)
{
    /// <summary>Foreign keys of several columns that the form asks for, at least one of them without another input.</summary>
    /// <param name="isNew">Only the address of a new record can decide a part of the key.</param>
    public List<TiedChoice> Tied(SiteRecord record, List<FormEntry> entries, bool isNew)
    {
        var tied = new List<TiedChoice>();
        foreach (var step in graph.Steps(record).Where(step => step.Key.Columns.Count > 1))
        {
            var parts = step
                .Key.Columns.Select(column => entries.Find(entry => entry.Of.Column.Name == column))
                .OfType<FormEntry>()
                .ToList();
            if (
                parts.Count < step.Key.Columns.Count
                || parts.Exists(part => part.Field.Secret || tied.Exists(other => other.Own.Contains(part)))
            )
                continue;

            // A required column beside an optional one means something even if no record is chosen.
            var isOptional = parts.Exists(part => part.Of.Column.Nullable);
            var own = isOptional ? parts.Where(part => part.Reference is null && part.Of.Column.Nullable).ToList() : parts;
            if (own.Count == 0 || Of(step) is not { } reference)
                continue;
            var last = parts.FindLast(part => own.Contains(part) && part.Reference is null) ?? own[^1];
            List<ReferenceChoices> within = isNew ? [.. parts.Select((_, i) => Of(step, i)!)] : [];
            tied.Add(
                new TiedChoice(
                    SentForm.Tied + last.Name,
                    last.Of.Label ?? Labels.OfReference(last.Name),
                    parts,
                    own,
                    last,
                    reference,
                    within
                )
            );
        }

        return tied;
    }

    /// <param name="within">
    /// The part of the key with a given value: only records with it are listed and found. Its value is the last argument.
    /// </param>
    public ReferenceChoices? Of(FieldStep step, int within = -1)
    {
        var other = step.Other;
        var fields = step.Key.References.Select(column => other.Fields.First(one => one.Column.Name == column)).ToList();
        var types = fields.Select(field => KeyType.For(field.Column, field.Type, field.Form)).OfType<KeyType>().ToList();
        if (types.Count < fields.Count)
            return null;
        var load = new Projections(other);
        var (label, texts, named) = ChoiceLabel(step, load);
        var keys = fields.Zip(types, (field, type) => new ChoiceKey(type, load.Add(field), load.AddStored(field))).ToList();
        var order = named
            .Take(2)
            .Concat(fields.Select(field => ColumnRef.Own(field.Column.Name)))
            .Distinct()
            .Select(
                (column, i) => (Ordering)new Ordering.ByColumn(column, false, i == 0 && named.Count > 0 ? EmptyPlace.Last : null)
            )
            .ToList();
        Sources.IPreparedQuery Query(IReadOnlyList<Condition> where, int limit) =>
            other.Source.Prepare(new RecordQuery(other.Seen, load.Joins, load.Columns, where, null, order, limit));
        List<Condition> Given(int argument) =>
            within < 0
                ? []
                :
                [
                    new Condition.Equal(
                        ColumnRef.Own(fields[within].Column.Name),
                        new Operand.Argument(argument, types[within].Type)
                    ),
                ];
        var holds = texts.Select(one => (Condition)new Condition.Contains(one, new Operand.Argument(0, FieldType.Text))).ToList();
        var isKey = fields
            .Select(
                (field, i) =>
                    (Condition)new Condition.Equal(ColumnRef.Own(field.Column.Name), new Operand.Argument(i, types[i].Type))
            )
            .ToList();
        return new ReferenceChoices(
            other,
            Query(Given(0), ReferenceChoices.MostInList + 1),
            holds.Count == 0 ? null : Query([new Condition.Any(holds), .. Given(1)], ReferenceChoices.MostFound + 1),
            Query(isKey, 2),
            keys,
            label
        );
    }

    /// <summary>
    /// The step to the record that this one belongs to: its parent, else the record that a part of its key refers to; null for
    /// neither.
    /// </summary>
    private FieldStep? Above(SiteRecord record)
    {
        if (record.Parent is { } key && graph.Other(record, key) is { } parent && parent != record)
            return new FieldStep(key, parent);
        var steps = graph
            .Steps(record)
            .Where(step =>
                step.Other != record && step.Key.Columns.All(column => record.Key.Any(field => field.Column.Name == column))
            )
            .ToList();
        return steps is [var only] ? only : null;
    }

    /// <summary>
    /// The label of a choice, its texts, and all of its columns. A record with a key of several parts is labelled with the record
    /// it belongs to: “Otter Bridge, Span 1”.
    /// </summary>
    private (TextPlan Label, List<ColumnRef> Texts, List<ColumnRef> Named) ChoiceLabel(FieldStep step, Projections load)
    {
        var other = step.Other;
        var label = load.Label(other, 0);
        var parts = new List<(SiteRecord Of, int Table)> { (other, 0) };
        if (step.Key.Columns.Count > 1 && other.LabelPaths.Count == 0 && Above(other) is { Other: var parent } above)
        {
            var table = load.Join(0, above);
            label = new TextPlan(
                [
                    .. load.Text(parent, parent.Label, table, null).Pieces,
                    TextPiece.Of(", "),
                    .. load.Text(other, other.Label, 0, null).Pieces,
                ],
                label
            );
            parts.Insert(0, (parent, table));
        }

        var columns = parts
            .SelectMany(part =>
                part.Of.Label.Where(hole => hole.Field is not null)
                    .Select(hole => part.Of.Find(hole.Field!.Value))
                    .OfType<SiteField>()
                    .Select(field =>
                        (
                            field.Type,
                            Column: part.Table == 0
                                ? load.Ref(FieldPath.Own(field))
                                : new ColumnRef(part.Table, field.Column.Name)
                        )
                    )
            )
            .ToList();
        var texts = columns.Where(one => one.Type is FieldType.Text or FieldType.Any).Select(one => one.Column).ToList();
        return (label, texts, texts.Count > 0 ? texts : [.. columns.Select(one => one.Column)]);
    }
}
