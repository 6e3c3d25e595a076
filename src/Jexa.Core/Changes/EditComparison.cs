using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Compares a form that was sent with the values that it was made from, and with the record as it is now.</summary>
internal sealed class EditComparison(Visit visit, EditPage page, FormMaker forms)
{
    /// <summary>What a form carries of the value in its record.</summary>
    /// <param name="token">That of the form's contract.</param>
    public static TypedValue BaseOf(FormEntry entry, Row row, string token) =>
        entry.Field.IsWithheld(row)
            ? StoredValue.Withheld
            : FormContract.Carried(token, entry.Field.Secret, StoredValue.Of(row, entry.Field.Stored));

    /// <summary>Whether anybody else changed a field of the form, or the version, since the form was made.</summary>
    public bool Clashes(FormContract contract, Row now) =>
        page.Form.Entries.Any(entry =>
            contract.Base.TryGetValue(entry.Name, out var was) && !StoredValue.AreSame(was, BaseOf(entry, now, contract.Token))
        )
        || (
            page.Changes.Kept.FirstOrDefault(kept => kept.Kind == KeptKind.Version) is { } version
            && contract.Base.TryGetValue(version.Field.Name, out var number)
            && !StoredValue.AreSame(number, StoredValue.Of(now, page.OrdinalOf(version.Field)))
        );

    /// <summary>
    /// Compares what was typed with the original values and the present record. Only fields that the visitor changed stay as
    /// typed, so that the form cannot overwrite changes of others.
    /// </summary>
    public async ValueTask CompareAsync(Draft draft, FormContract contract, Row now)
    {
        draft.Undecided.Clear();
        foreach (var entry in page.Form.Entries)
            if (contract.Base.TryGetValue(entry.Name, out var was))
                await CompareAsync(draft, contract, now, entry, was);
    }

    private async ValueTask CompareAsync(Draft draft, FormContract contract, Row now, FormEntry entry, TypedValue was)
    {
        var text = draft.TextOf(entry.Name);
        var before =
            entry.Field.Secret ? ""
            : IsDigest(entry, was) ? "(a long text)"
            : FieldText.OfStored(entry.Field, was);
        var mine = text is not null && IsMine(contract, entry, was, text, before);
        if (StoredValue.AreSame(was, BaseOf(entry, now, contract.Token)))
        {
            if (!mine)
                draft.Leave(entry.Name);
            return;
        }

        var theirs = FieldText.Of(entry.Field, now);
        if (!mine)
            draft.Leave(entry.Name);
        else if (entry.Field.Secret || (text != theirs && !SameValue(entry.Field, text!, theirs)))
            draft.Undecided[entry.Name] = null;
        draft.Clashes[entry.Name] = new FormClash(
            await forms.ShownAsync(visit, entry, before),
            await forms.ShownAsync(visit, entry, theirs),
            mine ? await forms.ShownAsync(visit, entry, text!) : null
        );
    }

    /// <summary>Whether a contract has the digest of a value instead of the value.</summary>
    private static bool IsDigest(FormEntry entry, TypedValue was) =>
        !entry.Field.Secret && was is TypedValue.Bytes { Value.Length: 32 };

    /// <summary>Whether the visitor changed what the form showed.</summary>
    /// <param name="before">What the form showed.</param>
    private static bool IsMine(FormContract contract, FormEntry entry, TypedValue was, string text, string before)
    {
        if (entry.Field.Secret)
            return text.Length > 0;
        if (!IsDigest(entry, was))
            return text != before && !SameValue(entry.Field, text, before);
        string[] spellings = [text, text.Replace("\n", "\r\n")];
        return !spellings.Any(one =>
            StoredValue.AreSame(was, FormContract.Carried(contract.Token, true, new TypedValue.Text(one)))
        );
    }

    private static bool SameValue(FormField field, string one, string other) =>
        FieldReader.Read(field, one).Value is { } a && FieldReader.Read(field, other).Value is { } b && a.Equals(b);
}
