using System.Text;
using System.Text.Json;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Changes;

/// <summary>What was sent for the fields of a form, and what is wrong with it.</summary>
internal sealed class Draft(FormPlan form)
{
    private const int MostNamed = 5;

    private readonly Dictionary<string, string> _texts = [];
    private readonly Dictionary<string, List<string>> _faults = [];

    /// <summary>Whether a program sent it.</summary>
    private bool _isJson;

    /// <summary>Moments in stored time, as programs send them. Local time can be ambiguous.</summary>
    private readonly Dictionary<string, TypedValue.Moment> _kept = [];

    /// <summary>Fields whose texts are not numbers of the app's locale. They are shown as typed.</summary>
    private readonly HashSet<string> _asTyped = [];

    /// <summary>Fields for which a program sent a value of another type.</summary>
    private readonly HashSet<string> _mistyped = [];

    public FormPlan Form { get; } = form;

    /// <summary>What is wrong with the form as a whole.</summary>
    public List<string> General { get; } = [];

    /// <summary>Search texts for other records, by field.</summary>
    public Dictionary<string, string> Searches { get; } = [];

    /// <summary>Whether a button other than the one that saves was pressed.</summary>
    public bool OnlyAsks { get; private set; }

    /// <summary>What others changed meanwhile.</summary>
    public Dictionary<string, FormClash> Clashes { get; } = [];

    /// <summary>
    /// Fields that two people changed, and the value to keep: <c>theirs</c>, <c>mine</c>, or null if nobody has chosen yet.
    /// </summary>
    public Dictionary<string, string?> Undecided { get; } = [];

    /// <summary>Fields that the address decides, and their text.</summary>
    public Dictionary<string, string> Fixed { get; } = [];

    public bool HasFaults => General.Count > 0 || _faults.Count > 0;

    /// <summary>Wrong members of the JSON body, as JSON Pointers (RFC 6901).</summary>
    public List<(string Pointer, string Text)> Strays { get; } = [];

    /// <summary>The text of a field; null if it does not change.</summary>
    public string? TextOf(string field) => _texts.GetValueOrDefault(field);

    public bool IsAsTyped(string field) => _asTyped.Contains(field);

    public IReadOnlyList<string> FaultsOf(string field) => _faults.GetValueOrDefault(field) ?? [];

    public void Set(string field, string text) => _texts[field] = text;

    /// <summary>Leaves a field unchanged.</summary>
    public void Leave(string field) => _texts.Remove(field);

    public void AddFault(string field, string text)
    {
        if (!_faults.TryGetValue(field, out var list))
            _faults[field] = list = [];
        if (!list.Contains(text))
            list.Add(text);
    }

    /// <summary>Reads a sent form. A field that is missing, occurs twice or does not belong to the form is a fault.</summary>
    public static Draft OfForm(FormPlan form, SentForm sent)
    {
        var draft = new Draft(form);
        var tied = form.Tied.Where(one => sent.Count(one.Name) > 0).ToList();
        foreach (var entry in form.Entries.Where(entry => !tied.Exists(one => one.Own.Contains(entry))))
        {
            if (draft.SetFile(entry, sent))
                continue;
            var box = entry.Field is { Input: InputKind.Boolean, Column.Nullable: false };
            switch (sent.Count(entry.Name))
            {
                case 1:
                    if (sent.One(entry.Name) is { } text && text != SentForm.AsItIs)
                        draft.SetTyped(entry.Field, text);
                    break;
                case 0 when box:
                    draft.Set(entry.Name, "false");
                    break;
                case 0:
                    draft.AddFault(entry.Name, "This did not arrive. Please send the form again.");
                    break;
                default:
                    draft.AddFault(entry.Name, "This arrived more than once.");
                    break;
            }

            if (sent.One(SentForm.Find + entry.Name) is { } search)
                draft.Searches[entry.Name] = search.Trim();
        }

        foreach (var one in tied)
            draft.SetTied(one, sent);
        draft.OnlyAsks = sent.Count(SentForm.Ask) > 0;
        var strange = sent
            .Pairs.Select(pair => pair.Name)
            .Where(name => form.Find(name) is null && !name.StartsWith(SentForm.Contract, StringComparison.Ordinal))
            .Distinct()
            .ToList();
        if (strange.Count > 0)
            draft.General.Add(
                $"The form does not have {string.Join(", ", strange.Take(MostNamed).Select(name => $"“{Cut(name)}”"))}."
            );
        return draft;
    }

    /// <summary>Takes a file that was sent for a field, or takes its file away. False if neither was asked.</summary>
    private bool SetFile(FormEntry entry, SentForm sent)
    {
        if (entry.Field.Upload is null)
            return false;
        if (sent.Files.GetValueOrDefault(entry.Name) is { } file)
        {
            if (file.Fault is { } fault)
                AddFault(entry.Name, fault);
            Set(entry.Name, file.Fault is null ? file.Name : sent.One(entry.Name) ?? "");
            return true;
        }

        if (sent.Count(SentForm.Drop + entry.Name) == 0)
            return false;
        Set(entry.Name, "");
        return true;
    }

    /// <summary>
    /// Reads a record chosen for a foreign key of several columns. Its key fills the columns without an input, and must agree
    /// with those that have one.
    /// </summary>
    private void SetTied(TiedChoice tied, SentForm sent)
    {
        if (sent.One(SentForm.Find + tied.Name) is { } search)
            Searches[tied.Name] = search.Trim();
        var text = sent.One(tied.Name);
        if (text == SentForm.AsItIs)
            return;
        var parts = text is { Length: > 0 } ? tied.Reference.PartsOf(text) : [.. tied.Entries.Select(_ => "")];
        if (text is null || parts is null)
        {
            AddFault(tied.Last.Name, text is null ? "This arrived more than once." : $"“{Cut(text)}” cannot be chosen here.");
            return;
        }

        if (text.Length == 0 && tied.IsRequired)
        {
            AddFault(tied.Last.Name, "Please choose one.");
            return;
        }

        foreach (var (entry, part) in tied.Entries.Zip(parts))
        {
            // This part has an input of its own, or the address decides it.
            var also =
                sent.Count(entry.Name) == 0 ? null
                : tied.Own.Contains(entry) ? sent.One(entry.Name)
                : TextOf(entry.Name) ?? "";
            if (text.Length > 0 && also is not null && also != part)
                AddFault(tied.Last.Name, $"This belongs to another {entry.Field.Label.ToLowerInvariant()} than the one above.");
            if (tied.Own.Contains(entry))
                Set(entry.Name, also ?? part);
        }

        Set(tied.Name, text);
    }

    private void SetTyped(FormField field, string typed)
    {
        var (text, fault) = NumberText.Read(field, typed);
        Set(field.Name, text);
        if (fault is null)
            return;
        AddFault(field.Name, fault);
        _asTyped.Add(field.Name);
    }

    /// <summary>
    /// Reads what a program sent: the member <c>fields</c>, each value with the type of its field, null for an empty one.
    /// </summary>
    /// <param name="files">The files that were sent in it.</param>
    public static Draft OfJson(FormPlan form, JsonElement body, IReadOnlyDictionary<string, SentFile> files)
    {
        var draft = new Draft(form) { _isJson = true };
        draft.AddStrays(
            [
                .. body.EnumerateObject()
                    .Where(member => member.Name != "fields")
                    .Select(member => $"/{JsonPointer.Escaped(member.Name)}"),
            ],
            "There is no such member; what is to be written goes into “fields”."
        );
        if (!body.TryGetProperty("fields", out var fields) || fields.ValueKind != JsonValueKind.Object)
        {
            draft.Strays.Add(("/fields", "“fields” must be an object: a value for each field that is to be written."));
            return draft;
        }

        draft.AddStrays(
            [
                .. fields
                    .EnumerateObject()
                    .Where(member => form.Find(member.Name) is null)
                    .Select(member => $"/fields/{JsonPointer.Escaped(member.Name)}"),
            ],
            "This page has no such field to be written."
        );
        foreach (var member in fields.EnumerateObject())
        {
            if (form.Find(member.Name) is not { } entry)
                continue;
            if (entry.Field.Upload is not null && files.GetValueOrDefault(entry.Name) is { } file)
            {
                draft.Set(entry.Name, file.Name);
                if (file.Fault is { } refused)
                    draft.AddFault(entry.Name, refused);
            }
            else if (TextOf(entry.Field, member.Value) is { } text)
                draft.SetKept(entry.Field, text);
            else if (Scalar(member.Value) is { } other)
                draft.SetMistyped(entry.Name, other);
            else
                draft.AddFault(entry.Name, $"This must be {Expected(entry.Field)}.");
        }

        return draft;
    }

    /// <summary>A value of another type than its field's is accepted only if the record has that value already.</summary>
    private void SetMistyped(string field, string text)
    {
        _mistyped.Add(field);
        Set(field, text);
    }

    /// <summary>The text of a single value of any type; null for an object or array.</summary>
    private static string? Scalar(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.String => value.GetString()!.Replace("\r\n", "\n"),
            JsonValueKind.Number or JsonValueKind.True or JsonValueKind.False => value.GetRawText(),
            _ => null,
        };

    /// <summary>A value for programs: moments in stored time.</summary>
    private void SetKept(FormField field, string text)
    {
        if (field.Type == FieldType.Timestamp)
            text = InUtc(text);
        if (field.Type == FieldType.Timestamp && TypedText.TryTimestamp(Encoding.UTF8.GetBytes(text), out var ticks))
        {
            _kept[field.Name] = new TypedValue.Moment(new DateTime(ticks));
            text = FieldText.OfStored(field, new TypedValue.Text(text));
        }

        Set(field.Name, text);
    }

    /// <summary>A moment with an offset (RFC 3339) in UTC, without the offset. Other text is unchanged.</summary>
    private static string InUtc(string text) =>
        (text.EndsWith('Z') || (text.Length > 16 && text[^6] is '+' or '-' && text[^3] == ':'))
        && DateTimeOffset.TryParse(
            text,
            System.Globalization.CultureInfo.InvariantCulture,
            System.Globalization.DateTimeStyles.None,
            out var moment
        )
            ? moment.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.FFFFFFF", System.Globalization.CultureInfo.InvariantCulture)
            : text;

    private static string? TextOf(FormField field, JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => "",
            JsonValueKind.String when field.Type is not (FieldType.Integer or FieldType.Real or FieldType.Boolean) => value
                .GetString()!
                .Replace("\r\n", "\n"),
            JsonValueKind.Number when field.Type is FieldType.Integer or FieldType.Real or FieldType.Decimal =>
                value.GetRawText(),
            JsonValueKind.True or JsonValueKind.False when field.Type == FieldType.Boolean => value.GetBoolean()
                ? "true"
                : "false",
            _ => null,
        };

    private static string Expected(FormField field) =>
        field.Type switch
        {
            FieldType.Integer => "a whole number",
            FieldType.Real => "a number",
            FieldType.Decimal => "a decimal number, as text or as a number",
            FieldType.Boolean => "true or false",
            FieldType.Date => "a date as text, such as \"2024-02-29\"",
            FieldType.Timestamp => "a moment as text, such as \"2024-02-29T14:30:00Z\"",
            _ => "a text",
        };

    /// <summary>The first few unknown members, and the number of others: the answer must not grow with the request.</summary>
    private void AddStrays(List<string> pointers, string fault)
    {
        Strays.AddRange(pointers.Take(MostNamed).Select(pointer => (Cut(pointer), fault)));
        if (pointers.Count > MostNamed)
            Strays.Add(("", $"The same is wrong with {pointers.Count - MostNamed} more members."));
    }

    private static string Cut(string text) => text.Length <= 60 ? text : text[..60] + "…";

    /// <summary>
    /// The values to write, and what is wrong with them. Unchanged fields are not checked: an existing value need not satisfy a
    /// newer rule.
    /// </summary>
    /// <param name="row">The record as it is; null for a new one.</param>
    public List<Proposal> Propose(Row? row)
    {
        var proposals = new List<Proposal>();
        foreach (var entry in Form.Entries)
            if (
                TextOf(entry.Name) is { } text
                && FaultsOf(entry.Name).Count == 0
                && !IsLeft(entry, text, row)
                && ProposalOf(entry, text, row) is { } proposal
            )
                proposals.Add(proposal);
        return proposals;
    }

    /// <summary>Whether a text leaves a field as it is.</summary>
    private bool IsLeft(FormEntry entry, string text, Row? row)
    {
        var field = entry.Field;
        if (field.Input == InputKind.Secret && text.Length == 0)
            return true;
        if (row is not { } now)
            return false;
        var was = FieldText.Of(field, now);

        // A visitor who is told nothing of a value leaves it unchanged by sending an empty text. Only a form that offers “—”
        // beside it can mean “empty”.
        if (was == StoredValue.WithheldText && text.Length == 0 && (_isJson || entry.Reference is null))
            return true;

        // JSON has no number for infinity and the like, and shows null.
        if (
            _isJson
            && text.Length == 0
            && StoredValue.Of(now, field.Stored) is TypedValue.Real { Value: var real }
            && !double.IsFinite(real)
        )
            return true;
        return !_kept.ContainsKey(entry.Name)
            && !field.Secret
            && (_isJson ? was == text : FieldText.IsSentBack(field, was, text));
    }

    /// <summary>The value that a text changes a field to; null if it changes nothing, or is faulty.</summary>
    private Proposal? ProposalOf(FormEntry entry, string text, Row? row)
    {
        var field = entry.Field;
        if (_mistyped.Contains(entry.Name))
        {
            AddFault(entry.Name, $"This must be {Expected(field)}.");
            return null;
        }

        var reading =
            field.Input == InputKind.Reference && text.Length > 0
                ? ReadKey(entry, text)
                : FieldReader.Read(field, text, _isJson ? Formats.Conventions.Default : field.Conventions);
        if (reading.Fault is { } fault)
        {
            AddFault(entry.Name, fault);
            return null;
        }

        if (_kept.TryGetValue(entry.Name, out var kept))
            return row is { } now && IsSameMoment(StoredValue.Of(now, field.Stored), kept) ? null : new Proposal(entry, kept);
        return row is { } held && !field.Secret && MeansTheSame(field, FieldText.Of(field, held), reading.Value!)
            ? null
            : new Proposal(entry, AsBefore(field, row, reading.Value!));
    }

    private static bool IsSameMoment(TypedValue stored, TypedValue.Moment moment) =>
        stored is TypedValue.Text { Value: var text }
        && TypedText.TryTimestamp(Encoding.UTF8.GetBytes(text), out var ticks)
        && ticks == moment.Value.Ticks;

    private static FieldReading ReadKey(FormEntry entry, string text) =>
        entry.Reference!.KeyOf(text) is [var key]
            ? FieldReading.Of(key)
            : FieldReading.Failed($"There is no such {entry.Reference.Other.One}.");

    private static bool MeansTheSame(FormField field, string was, TypedValue value) =>
        FieldReader.Read(field, was).Value is { } before && before.Equals(value);

    /// <summary>Line ends stay as they were.</summary>
    private static TypedValue AsBefore(FormField field, Row? row, TypedValue value) =>
        value is TypedValue.Text { Value: var text }
        && text.Contains('\n')
        && row is { } held
        && StoredValue.Of(held, field.Stored) is TypedValue.Text { Value: var old }
        && old.Contains("\r\n")
            ? new TypedValue.Text(text.Replace("\n", "\r\n"))
            : value;

    /// <summary>All faults: first those at the inputs of a form, then the others.</summary>
    public List<FormFault> FaultsIn(IReadOnlyList<FormInput> inputs) =>
        [
            .. inputs.SelectMany(input => input.Faults.Select(fault => new FormFault(input, fault))),
            .. General.Select(fault => new FormFault(null, fault)),
        ];
}
