using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Reads the choices for a field that refers to another record: only records that may be seen, by label.</summary>
internal sealed class ChoiceVisit(QueryRunner queries)
{
    private const int MaxFind = 200;

    /// <summary>The choices; null if the page has no such field, or the field has no choices.</summary>
    /// <param name="find">A part of the label, or the key; empty for the first ones.</param>
    public async ValueTask<FieldChoices?> RunAsync(
        Site site,
        string page,
        string field,
        string find,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var form = site.Find(page) switch
        {
            EditPage edit => edit.Form,
            NewPage fresh => fresh.Form,
            _ => null,
        };
        if (form?.Find(field) is not { Field.Secret: false } entry || find.Length > MaxFind)
            return null;
        if (entry.Field.Choices.Count > 0)
            return new FieldChoices([.. entry.Field.Choices.Select(choice => (choice.Value, choice.Label))], false);
        if (entry.Reference is not { } reference)
            return null;
        using var loans = queries.Begin();
        var choices = new List<(string Value, string Label)>();
        var isMore = false;
        if (find.Length == 0)
        {
            isMore = Add(reference, await RowsAsync(reference.All, []), ReferenceChoices.MostInList, choices);
        }
        else
        {
            if (reference.Found is { } found)
                isMore = Add(reference, await RowsAsync(found, [new TypedValue.Text(find)]), ReferenceChoices.MostFound, choices);
            if (reference.KeyOf(find) is { } key)
                Add(reference, await RowsAsync(reference.One, key), 1, choices);
        }

        return new FieldChoices(choices, isMore);

        async ValueTask<RowBlock> RowsAsync(IPreparedQuery query, IReadOnlyList<TypedValue> arguments)
        {
            var rows = loans.Lend(query.Width);
            await queries.RunAsync(query, arguments, rows, trace, cancellation);
            return rows;
        }
    }

    /// <summary>Adds the first rows; true if there are more.</summary>
    private static bool Add(ReferenceChoices reference, RowBlock rows, int most, List<(string Value, string Label)> choices)
    {
        choices.AddRange(Of(reference, rows, most).Where(one => !choices.Exists(choice => choice.Value == one.Value)));
        return rows.Count > most;
    }

    /// <summary>Rows as choices, without those that no address can contain.</summary>
    public static IEnumerable<(string Value, string Label)> Of(ReferenceChoices reference, RowBlock rows, int most)
    {
        using var text = new Utf8Buffer(64);
        for (var i = 0; i < rows.Count && i < most; i++)
        {
            if (reference.ValueOf(rows[i]) is not { } value)
                continue;
            text.Truncate(0);
            reference.Label.Write(rows[i], text);
            yield return (value, text.ToString());
        }
    }
}
