using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Makes the inputs of a form: their texts, choices and faults.</summary>
internal sealed class FormMaker(QueryRunner queries)
{
    /// <param name="row">The record as it is; null for a new one.</param>
    public async ValueTask<IReadOnlyList<FormInput>> InputsAsync(Visit visit, Draft draft, Row? row)
    {
        var inputs = new List<FormInput>();
        var tied =
            visit.Request.Reader == Reader.Program ? [] : draft.Form.Tied.Where(one => IsOneChoice(one, draft, row)).ToList();
        foreach (var entry in draft.Form.Entries)
        {
            if (tied.Find(one => one.Last == entry) is { } choice)
                inputs.Add(await TiedAsync(visit, choice, draft, row));
            if (!tied.Exists(one => one.Own.Contains(entry)) || draft.Fixed.ContainsKey(entry.Name))
                inputs.Add(await InputAsync(visit, draft, entry, row));
        }

        return inputs;
    }

    private async ValueTask<FormInput> InputAsync(Visit visit, Draft draft, FormEntry entry, Row? row)
    {
        var text = draft.TextOf(entry.Name) ?? (row is { } held ? FieldText.Of(entry.Field, held) : Beginning(entry.Field));
        // Secrets are not shown, even to the person who typed them.
        if (entry.Field.Secret)
            text = "";
        var field = entry.Field;
        if (text == StoredValue.WithheldText && entry.Reference is null)
        {
            // An empty input leaves it unchanged.
            text = "";
            field = field with { Rules = field.Rules with { Required = false } };
        }
        else if (row is { } now && text == FieldText.Of(entry.Field, now) && FieldReader.Read(field, text).Fault is not null)
        {
            // The present value may stay, whatever the rules say now. So the browser must not refuse to send it.
            field = field with { Rules = FieldRules.None };
        }

        var search = draft.Searches.GetValueOrDefault(entry.Name);
        var (options, note, isSearched) = entry.Reference is { } reference
            ? await ReferencesAsync(
                visit,
                new AskedReference(reference, entry.Field.Rules.Required, text, search, row is not null, [])
            )
            : (Choices(entry.Field, text, row is not null), null, false);
        return new FormInput(
            field,
            text,
            draft.FaultsOf(entry.Name),
            options,
            isSearched ? search ?? "" : null,
            note,
            Picture(entry, row),
            draft.Clashes.GetValueOrDefault(entry.Name),
            draft.Fixed.GetValueOrDefault(entry.Name)
        )
        {
            IsAsTyped = draft.IsAsTyped(entry.Name),
        };
    }

    /// <summary>
    /// The parts cannot be chosen as one if two people changed a part, a part may not be seen, or the address decides most of it.
    /// </summary>
    private static bool IsOneChoice(TiedChoice tied, Draft draft, Row? row) =>
        tied.Entries.Count(entry => draft.Fixed.ContainsKey(entry.Name)) < 2
        && !draft.Fixed.ContainsKey(tied.Last.Name)
        && !tied.Entries.Any(entry =>
            draft.Clashes.ContainsKey(entry.Name)
            || draft.Undecided.ContainsKey(entry.Name)
            || (row is { } held && entry.Field.IsWithheld(held))
        );

    /// <summary>The input of a foreign key of several columns.</summary>
    private async ValueTask<FormInput> TiedAsync(Visit visit, TiedChoice tied, Draft draft, Row? row)
    {
        var texts = tied
            .Entries.Select(entry =>
                draft.TextOf(entry.Name) ?? (row is { } held ? FieldText.Of(entry.Field, held) : Beginning(entry.Field))
            )
            .ToList();
        var text = draft.TextOf(tied.Name) ?? (texts.Contains("") ? "" : ReferenceChoices.Joined(texts));
        var search = draft.Searches.GetValueOrDefault(tied.Name);

        // If the address decides a part, only records with that part are offered.
        var at = tied.Entries.ToList().FindIndex(entry => draft.Fixed.ContainsKey(entry.Name));
        var given = at < 0 ? null : tied.Reference.Keys[at].Type.Read(texts[at]).Value;
        var (options, note, isSearched) = await ReferencesAsync(
            visit,
            new AskedReference(
                given is null ? tied.Reference : tied.Within[at],
                tied.IsRequired,
                text,
                search,
                row is not null,
                given is null ? [] : [given]
            )
        );
        var field = tied.Last.Field with
        {
            Name = tied.Name,
            Label = tied.Label,
            Input = InputKind.Reference,
            Rules = FieldRules.None with { Required = tied.IsRequired },
        };
        var faults = tied
            .Own.Where(entry => !draft.Fixed.ContainsKey(entry.Name))
            .SelectMany(entry => draft.FaultsOf(entry.Name))
            .Distinct()
            .ToList();
        return new FormInput(field, text, faults, options, isSearched ? search ?? "" : null, note, null, null, null);
    }

    /// <summary>How a value is shown: the label of a choice, or of another record.</summary>
    public async ValueTask<string> ShownAsync(Visit visit, FormEntry entry, string text)
    {
        if (entry.Field.Secret)
            return "(secret)";
        if (text.Length == 0)
            return "";
        if (text == StoredValue.WithheldText)
            return "not available";
        if (entry.Field.Choices.FirstOrDefault(choice => choice.Value == text) is { } known)
            return known.Label;
        if (entry.Field.Input == InputKind.Boolean)
            return text == "true" ? "Yes" : "No";
        if (entry.Reference is not { } reference || reference.KeyOf(text) is not { } key)
            return NumberText.Shown(entry.Field, text);
        return await LabelAsync(visit, reference, key) ?? "not available";
    }

    /// <summary>The first value in the form of a new record.</summary>
    public string Beginning(FormField field) =>
        field is { Input: InputKind.Boolean, Default.Length: 0, Column.Nullable: false } ? "false"
        : field.Default != FormField.Now ? field.Default
        : FieldText.Of(
            field,
            field.Type == FieldType.Date
                ? new TypedValue.Date(Today(field))
                : new TypedValue.Moment(Whole(queries.Clock.GetUtcNow().UtcDateTime))
        );

    public DateOnly Today(FormField field) =>
        DateOnly.FromDateTime(field.Conventions.Shown(queries.Clock.GetUtcNow().UtcDateTime));

    private static DateTime Whole(DateTime moment) => new(moment.Ticks - (moment.Ticks % TimeSpan.TicksPerMinute));

    /// <summary>A boolean column may hold other values. A checkbox would change them.</summary>
    private static bool IsNoTruth(string text, bool isThere) => isThere && text is not ("true" or "false");

    private static List<FormOption> Choices(FormField field, string text, bool isThere)
    {
        var choices =
            field.Choices.Count > 0 ? field.Choices
            : field.Input == InputKind.Boolean && (field.Column.Nullable || IsNoTruth(text, isThere))
                ? [new FieldChoice("true", "Yes"), new FieldChoice("false", "No")]
            : [];
        if (choices.Count == 0)
            return [];
        var options = new List<FormOption>();
        if (!field.Column.Nullable && field.Input == InputKind.Boolean)
        {
            options.Add(new FormOption(SentForm.AsItIs, $"{(text.Length == 0 ? "empty" : text)} (as it is)", true));
            options.AddRange(choices.Select(choice => new FormOption(choice.Value, choice.Label, false)));
            return options;
        }

        if (!field.Rules.Required || text.Length == 0)
            options.Add(new FormOption("", field.Rules.Required ? "Please choose" : "—", text.Length == 0));
        options.AddRange(choices.Select(choice => new FormOption(choice.Value, choice.Label, choice.Value == text)));

        // The present value may not be a choice any more. It can stay.
        if (text.Length > 0 && isThere && !choices.Any(choice => choice.Value == text))
            options.Insert(0, new FormOption(SentForm.AsItIs, $"{text} (as it is)", true));
        return options;
    }

    private async ValueTask<(List<FormOption> Options, string? Note, bool IsSearched)> ReferencesAsync(
        Visit visit,
        AskedReference asked
    )
    {
        var (reference, isRequired, text, search, isThere, given) = asked;
        var rows = await RunAsync(visit, reference.All, given);
        var options = new List<FormOption>();
        if (!isRequired || text.Length == 0)
            options.Add(new FormOption("", isRequired ? "Please choose" : "—", text.Length == 0));
        if (rows.Count <= ReferenceChoices.MostInList)
        {
            Add(reference, rows, int.MaxValue, text, options);
            if (text.Length > 0 && isThere && !options.Exists(option => option.IsSelected))
                options.Insert(0, new FormOption(SentForm.AsItIs, "not available (as it is)", true));
            return (options, null, false);
        }

        if (text.Length > 0)
        {
            var label = reference.KeyOf(text) is { } key ? await LabelAsync(visit, reference, key) : null;
            if (label is not null)
                options.Add(new FormOption(text, label, true));
            else if (isThere)
                options.Add(new FormOption(SentForm.AsItIs, "not available (as it is)", true));
        }

        return (options, string.IsNullOrEmpty(search) ? null : await SearchAsync(visit, asked, search, options), true);
    }

    private async ValueTask<string> SearchAsync(Visit visit, AskedReference asked, string search, List<FormOption> options)
    {
        var (reference, text, given) = (asked.Reference, asked.Text, asked.Given);
        var before = options.Count;
        var more = false;
        if (reference.Found is { } found && search.Length <= 200)
        {
            var rows = await RunAsync(visit, found, [new TypedValue.Text(search), .. given]);
            more = rows.Count > ReferenceChoices.MostFound;
            Add(reference, rows, ReferenceChoices.MostFound, text, options);
        }

        if (reference.KeyOf(search) is { } key)
            Add(reference, await RunAsync(visit, reference.One, key), 1, text, options);
        var count = options.Count - before;
        return more ? $"More than {ReferenceChoices.MostFound} found; here are the first. Write more of the name to see fewer."
            : count == 0 ? $"Nothing else was found for “{search}”."
            : count == 1 ? "One found: choose it above."
            : $"{count} found: choose one above.";
    }

    private static void Add(ReferenceChoices reference, RowBlock rows, int most, string text, List<FormOption> options)
    {
        foreach (var (value, label) in ChoiceVisit.Of(reference, rows, most))
            if (!options.Exists(option => option.Value == value))
                options.Add(new FormOption(value, label, value == text));
    }

    private async ValueTask<string?> LabelAsync(Visit visit, ReferenceChoices reference, TypedValue[] key)
    {
        var rows = await RunAsync(visit, reference.One, key);
        if (rows.Count == 0 || !reference.Is(rows[0], key))
            return null;
        using var buffer = new Utf8Buffer(64);
        reference.Label.Write(rows[0], buffer);
        return buffer.ToString();
    }

    private async ValueTask<RowBlock> RunAsync(Visit visit, IPreparedQuery query, IReadOnlyList<TypedValue> arguments)
    {
        var rows = visit.Rows.Lend(query.Width);
        await queries.RunAsync(query, arguments, rows, visit.Trace, visit.Cancellation);
        return rows;
    }

    private static string? Picture(FormEntry entry, Row? row)
    {
        if (entry.Picture is not { } picture || row is not { } held)
            return null;
        using var address = new Utf8Buffer(128);
        return picture.TryWrite(held, address) ? address.ToString() : null;
    }
}
