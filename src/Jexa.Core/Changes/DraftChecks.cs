using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Checks what is to be written against other rows: referenced records and unique values.</summary>
/// <param name="stored">
/// The value of a field that is not proposed: its stored value, or the first value of a new record; null if it is not known.
/// </param>
/// <param name="own">The record's own stored key; null for a new one.</param>
/// <param name="run">Runs a query, within the change's transaction if there is one.</param>
internal sealed class DraftChecks(
    Draft draft,
    Func<SiteField, TypedValue?> stored,
    TypedValue[]? own,
    QueryRun run,
    RowLoans loans
)
{
    /// <summary>
    /// Adds faults to the draft. Returns the values to write: a foreign key is spelled like the key that it refers to.
    /// </summary>
    public async ValueTask<List<ColumnValue>> RunAsync(IReadOnlyList<Proposal> proposals)
    {
        var values = new List<ColumnValue>();
        foreach (var proposal in proposals)
        {
            var value = proposal.Value;
            if (proposal.Entry.Reference is { } reference && value is not TypedValue.Empty)
            {
                var rows = loans.Lend(reference.One.Width);
                await run(reference.One, [value], rows);
                if (rows.Count == 1 && reference.Is(rows[0], [value]))
                    value = StoredValue.Of(rows[0], reference.Keys[0].Stored);
                else
                    draft.AddFault(proposal.Entry.Name, $"There is no such {reference.Other.One}.");
            }

            values.Add(new ColumnValue(proposal.Entry.Field.Column.Name, value, proposal.Entry.Field.Secret));
        }

        foreach (var check in draft.Form.References)
            await CheckReferenceAsync(check, values);
        foreach (var check in draft.Form.Unique)
            await CheckUniqueAsync(check, values);
        return values;
    }

    private async ValueTask CheckReferenceAsync(ReferenceCheck check, List<ColumnValue> values)
    {
        if (Arguments(check.Fields, values) is not { } arguments)
            return;
        var rows = loans.Lend(1);
        await run(check.Query, arguments, rows);
        if (rows.Count > 0)
            return;
        var at = check.Fields.Last(field => draft.Form.Find(field.Name) is not null);
        draft.AddFault(
            at.Name,
            check.Fields.Count == 1
                ? $"There is no such {check.One}."
                : $"There is no such {check.One}: "
                    + string.Join(" and ", check.Fields.Select(LabelOf)).ToLowerInvariant()
                    + " do not belong together."
        );
    }

    private async ValueTask CheckUniqueAsync(UniqueCheck check, List<ColumnValue> values)
    {
        if (Arguments(check.Fields, values) is not { } arguments)
            return;
        var rows = loans.Lend(check.Query.Width);
        await run(check.Query, arguments, rows);
        for (var i = 0; i < rows.Count; i++)
        {
            if (
                own is not null
                && Enumerable.Range(0, own.Length).All(part => StoredValue.AreSame(own[part], StoredValue.Of(rows[i], part)))
            )
                continue;
            foreach (var field in check.Fields.Where(field => draft.Form.Find(field.Name) is not null).Take(1))
                draft.AddFault(
                    field.Name,
                    check.Fields.Count == 1
                        ? "Another record has this already; it must be different."
                        : "Another record has the same already; together they must be different."
                );
            return;
        }
    }

    /// <summary>The future values of some fields; null if none of them changes, one is empty, or one is faulty.</summary>
    private TypedValue[]? Arguments(IReadOnlyList<SiteField> fields, List<ColumnValue> values)
    {
        if (!fields.Any(field => values.Exists(value => value.Column == field.Column.Name)))
            return null;
        var arguments = new TypedValue[fields.Count];
        for (var i = 0; i < arguments.Length; i++)
        {
            if (draft.FaultsOf(fields[i].Name).Count > 0)
                return null;
            var at = values.FindIndex(value => value.Column == fields[i].Column.Name);
            if ((at >= 0 ? values[at].Value : stored(fields[i])) is not { } value || value is TypedValue.Empty)
                return null;
            arguments[i] = value;
        }

        return arguments;
    }

    /// <summary>Says which rule of the source forbids a change, at the field if that is known.</summary>
    /// <param name="changed">The fields to change; null for a new record, which nothing refers to yet.</param>
    public static void Explain(Draft draft, RefusedException refusal, SiteRecord record, IReadOnlyList<SiteField>? changed)
    {
        var one = record.One;
        var fields = refusal
            .Columns.Where(column =>
                draft.Form.Entries.Any(entry => entry.Field.Column.Name.Equals(column, StringComparison.OrdinalIgnoreCase))
            )
            .Select(column =>
                draft.Form.Entries.First(entry => entry.Field.Column.Name.Equals(column, StringComparison.OrdinalIgnoreCase)).Name
            )
            .Distinct()
            .ToList();
        if (refusal.Reason == RefusalReason.Own)
        {
            // A message is about the field that it begins with, else about the only field that it names.
            var named = draft
                .Form.Entries.Where(entry =>
                    new[] { entry.Name, entry.Field.Label }.Any(word =>
                        refusal.Words.Contains(word, StringComparison.OrdinalIgnoreCase)
                    )
                )
                .ToList();
            var first = named.Find(entry =>
                new[] { entry.Name, entry.Field.Label }.Any(word =>
                    refusal.Words.StartsWith(word, StringComparison.OrdinalIgnoreCase)
                )
            );
            fields = first is not null ? [first.Name] : [.. named.Select(entry => entry.Name)];
        }

        var said = refusal.Reason switch
        {
            RefusalReason.Unique => "Another record has this already; it must be different.",
            RefusalReason.Empty => "Please fill this in.",
            RefusalReason.Check => fields.Count == 1
                ? "This value is not allowed here."
                : $"These values do not go together for {(("aeiou".Contains(one[0]) ? "an " : "a "))}{one}.",
            RefusalReason.Reference when refusal.Columns.Count > 0 => NotThere,
            RefusalReason.Reference => Broken(record, changed ?? []),
            RefusalReason.Own => Sentence(refusal.Words),
            RefusalReason.Type => "This value cannot be kept here.",
            _ => "A rule of the data forbids this.",
        };
        if (fields.Count == 1 || (fields.Count > 1 && refusal.Reason is RefusalReason.Unique or RefusalReason.Empty))
            draft.AddFault(fields[0], said);
        else
            draft.General.Add(said);
    }

    private const string NotThere = "A record that this one refers to is not there.";

    private static string LabelOf(SiteField field) => field.Label ?? Formats.Labels.OfField(field.Name);

    /// <summary>Which end of a foreign key forbids a change. Not every source says it.</summary>
    private static string Broken(SiteRecord record, IReadOnlyList<SiteField> changed)
    {
        var referred = changed
            .Where(field => record.Key.Contains(field) || record.Table.UniqueKeys.Any(key => key.Contains(field.Column.Name)))
            .ToList();
        var refers = changed.Any(field => record.References.Any(key => key.Columns.Contains(field.Column.Name)));
        if (referred.Count == 0)
            return NotThere;
        var kept = $"Other records refer to this {record.One} by its " + $"{string.Join(" and ", referred.Select(LabelOf))}";
        return refers ? $"{kept}, or a record that it refers to is not there." : $"{kept}: it cannot change while they do.";
    }

    private static string Sentence(string words)
    {
        var text = new string([.. words.Where(c => !char.IsControl(c)).Take(300)]).Trim();
        return text.Length == 0
            ? "A rule of the data forbids this."
            : Formats.Labels.Capital(text) + (text[^1] is '.' or '!' or '?' ? "" : ".");
    }
}
