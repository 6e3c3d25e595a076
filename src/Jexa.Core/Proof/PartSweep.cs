using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Lists;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>Proves the rows of one part of a sweep, and reports what is wrong with them.</summary>
internal sealed class PartSweep
{
    /// <summary>The rows of each fault that are read once more.</summary>
    private const int MostConfirmed = 20;

    private readonly SweepPart _part;
    private readonly FaultPlaces _places;
    private readonly FaultList _faults;
    private readonly RecordSample _sample;
    private readonly List<LinkProof> _links;
    private readonly List<ValueProof> _values;
    private readonly int[] _key;

    /// <summary>The cells of the row that something was told of.</summary>
    private readonly HashSet<int> _wrong = [];

    /// <summary>The keys of the first rows of each fault.</summary>
    private readonly Dictionary<(string Code, string About), List<IReadOnlyList<TypedValue>?>> _met = [];

    /// <summary>Addresses in texts that are yet to be visited.</summary>
    private readonly List<(ViewColumn Column, RowKey Key, string Target)> _targets = [];

    /// <param name="hasFile">Whether a folder has a file of this name that can be shown.</param>
    public PartSweep(
        Site site,
        SweepPart part,
        FaultPlaces places,
        FaultList faults,
        RecordSample sample,
        Func<FilePlan, string, bool> hasFile
    )
    {
        (_part, _places, _faults, _sample) = (part, places, faults, sample);
        _key = [.. part.Rows.Key.Select(key => key.Ordinal)];
        _links =
        [
            .. part
                .Rows.Links.Select(link => LinkProof.Of(site, part.Rows, link, KeyOf, isShown: part.Page is not null))
                .OfType<LinkProof>(),
        ];
        _values = part.Kind is null
            ? []
            :
            [
                .. part.Rows.Columns.Select(column => new ValueProof(
                    column,
                    part.Rows.Record.Find(column.Name)!,
                    hasFile,
                    target => LeadsNowhere(site, target)
                )),
            ];
    }

    private SiteRecord Record => _part.Rows.Record;

    /// <summary>How many links were proved, and how many records they lead to were looked for.</summary>
    public (long Links, long Lookups) Seen { get; private set; }

    /// <summary>Proves the rows of a window.</summary>
    /// <exception cref="Sources.SourceException">The source is away, too slow or refused.</exception>
    public async Task ProveAsync(RowBlock rows, TextVisits visits, CancellationToken cancellation)
    {
        using var scratch = new Utf8Buffer(256);
        for (var i = 0; i < rows.Count; i++)
            Prove(rows[i], scratch);
        foreach (var link in _links)
        foreach (var found in await link.LookAsync(cancellation))
            if (!IsTold(link, found))
                Report(link, found);
        foreach (var (column, key, target) in _targets)
            if (await visits.FailsAsync(target, cancellation) is { } outcome)
                Report(ProofCodes.TextLinkToNothing, column, key, target, outcome);
        _targets.Clear();
        Seen = (Seen.Links + ((long)_links.Count * rows.Count), _links.Sum(link => link.Lookups));
    }

    /// <summary>
    /// Reads the examples of all faults once more. A fault of which none is left was data that changed meanwhile: it is taken
    /// away. The others learn how to find them.
    /// </summary>
    /// <exception cref="Sources.SourceException">The source is away, too slow or refused.</exception>
    public async Task ConfirmAsync(PartSweep again, TextVisits visits, CancellationToken cancellation)
    {
        foreach (var fault in _faults.All)
        {
            if (!_met.TryGetValue((fault.Code.Id, fault.About), out var keys))
                continue;
            var known = keys.OfType<IReadOnlyList<TypedValue>>().ToList();
            if (known.Count < keys.Count)
                continue;
            var rows = await RowsByKey.ReadAsync(_part.Rows, known, cancellation);
            await again.ProveAsync(rows, visits, cancellation);
            if (!again._met.ContainsKey((fault.Code.Id, fault.About)))
                _faults.Remove(fault);
            else if (fault.Query is null)
                _faults.Put(fault with { Query = Shown(known) });
        }
    }

    private void Prove(Row row, Utf8Buffer scratch)
    {
        _wrong.Clear();
        foreach (var value in _values)
            if (value.Prove(row) is var (code, says))
            {
                Report(code, value.Column, KeyOf(row), null, says);
                _wrong.Add(value.Column.Ordinal);
            }
            else
                _targets.AddRange(value.PathsOf(row).Select(path => (value.Column, KeyOf(row), path)));
        foreach (var link in _links)
        {
            if (link.Prove(row, scratch) is { } found)
            {
                if (!IsTold(link, found))
                    Report(link, found);
            }
            else if (_part.Kind is not null && scratch.Written.Length > 0 && link.Target is RecordPage page && _sample.Wants())
            {
                Put(page, row, scratch);
            }
        }

        if (_part.Kind is not { } kind)
            return;
        // A key of several fields often holds a shorter one: its record is lost for the same reason.
        ReferenceCells? lost = null;
        foreach (var reference in kind.References)
            if (lost is null || lost.Own.Any(cell => !reference.Own.Contains(cell)))
                lost = Prove(reference, row) ? lost : reference;
        if (kind.Label.IsBlank(row, scratch))
            ReportLabel(row);
    }

    /// <summary>Takes a record into the sample, with the address just built, unless its key cannot be sent back.</summary>
    private void Put(RecordPage page, Row row, Utf8Buffer address)
    {
        if (KeyOf(row) is { Values: { } values } key)
            _sample.Put(new SampledRecord(page, key.Text, values, address.ToString()));
    }

    /// <summary>Whether the record that a foreign key names is there and may be seen.</summary>
    private bool Prove(ReferenceCells reference, Row row)
    {
        if (
            !row[reference.Seen].IsNull
            || reference.Own.Any(cell => row[cell].IsNull || row[cell] is { Kind: CellKind.Text, Length: 0 })
        )
            return true;
        var isThere = !row[reference.There].IsNull;
        var (field, other) = (string.Join(" with ", reference.Step.Key.Columns), reference.Step.Other);
        var code = isThere ? ProofCodes.LinkToHidden : ProofCodes.LinkToNothing;
        Add(
            () =>
                New(
                    code,
                    _places.Of(Record, reference.Step.Key.Columns[0]),
                    $"{Record.Name}.{field}",
                    $"{field} of some {Record.Many} names a {other.One} that " + (isThere ? "may not be seen." : "is not there."),
                    isThere
                        ? $"Hide these {Record.Many} as well, with visible:, or show the {other.Many}."
                        : $"Correct or empty {field} in these rows, and let the source keep the foreign key."
                ) with
                {
                    Query = Record.Source.Prepare(isThere ? reference.Hidden : reference.Lost).Shown([]),
                },
            (code, $"{Record.Name}.{field}"),
            KeyOf(row),
            string.Join(", ", reference.Own.Select(cell => TextOf(row, cell)))
        );
        return false;
    }

    /// <summary>Whether the cause of a missing link was told already: with the field that fills it, or with the record.</summary>
    private bool IsTold(LinkProof link, LinkCase found)
    {
        if (found.Verdict is LinkVerdict.Lost or LinkVerdict.Hidden)
            return _part is { Page: not null, IsAlone: false } && link.IsOfReference;
        if (found.Verdict is not (LinkVerdict.Empty or LinkVerdict.Unwritable))
            return false;
        // That a value may be empty was told by the check; a record without a key has no address at all.
        if (_part.Kind is null)
            return found.Verdict == LinkVerdict.Empty || (!_part.IsAlone && link.Link.Fillers.All(IsOfKey));
        if (link.Link.Fillers.Any(filler => _wrong.Contains(filler.Ordinal)))
            return true;
        foreach (var filler in link.Link.Fillers)
            _wrong.Add(filler.Ordinal);
        return false;
    }

    private bool IsOfKey(LinkFiller filler) =>
        _part.Rows.Key.Any(key => key.Column == _part.Rows.Query.Columns[filler.Ordinal].Column);

    private void Report(LinkProof link, LinkCase found)
    {
        var page = link.Target.Name;
        var from = _part.Page is { } own ? $"The link to “{page}” on “{own.Name}”" : $"The address of {Record.Many} on “{page}”";
        var others = link.Target.Record?.Many ?? "records";
        var fields = string.Join(" with ", link.Link.Fillers.Select(filler => filler.Field));
        var about =
            _part.Page is { } shown ? $"{shown.Name}{Slash(_part.Rows.Part)} → {page}"
            : found.Verdict is LinkVerdict.Empty or LinkVerdict.Unwritable ? $"{Record.Name}.{fields}"
            : page;
        var (code, cause, remedy) = found.Verdict switch
        {
            LinkVerdict.Lost => (
                ProofCodes.LinkToNothing,
                $"{from} leads to {others} that are not there.",
                "Correct the values that the link is filled from, or show the link only where they hold: when: {…}."
            ),
            LinkVerdict.Hidden => (
                ProofCodes.LinkToHidden,
                $"{from} leads to {others} that “{page}” may not show.",
                $"Give the two pages the same where: and visible:, or show the link only where they hold: when: {{…}}."
            ),
            LinkVerdict.Ambiguous => (
                FindingCodes.AmbiguousRecord,
                $"Several {others} answer to one ID on “{page}”.",
                $"Make {string.Join(" with ", link.Target.Parameters.Select(one => one.Field.Name))} unique in the source, "
                    + "in every spelling."
            ),
            LinkVerdict.Astray => (
                ProofCodes.LinkAstray,
                $"Addresses of {Record.Many} on “{page}” lead to another page, or are read as another ID.",
                "Change the path of one of the pages, or the keys of these records."
            ),
            _ => (
                FindingCodes.KeyOfOtherClass,
                $"No address on “{page}” can hold the {fields} of these {Record.Many}.",
                "Correct the keys in the source: no empty ones, no control characters, not “.” or “..”, at most 4 kB, and of "
                    + "the type of their column."
            ),
        };
        Add(
            () => New(code, Place(page), about, cause, remedy),
            (code, about),
            found.Key,
            Words(found.Verdict),
            found.Address,
            found.Times
        );
    }

    private Place Place(string to) => _part.Page is { } page ? FaultPlaces.Of(page, to) : _places.Of(Record);

    private static string Word(FieldType type) =>
        type switch
        {
            FieldType.Integer => "a whole number",
            FieldType.Real or FieldType.Decimal => "a number",
            FieldType.Boolean => "true or false",
            FieldType.Date => "a date",
            FieldType.Timestamp => "a moment",
            FieldType.Uuid => "a UUID",
            _ => "text",
        };

    private static string Words(LinkVerdict verdict) =>
        verdict switch
        {
            LinkVerdict.Lost => "no such record",
            LinkVerdict.Hidden => "a record that may not be seen",
            LinkVerdict.Ambiguous => "several records",
            LinkVerdict.Astray => "taken by another page, or read as another ID",
            LinkVerdict.Empty => "the key is empty",
            _ => "no address can hold the key",
        };

    private void Report(FindingCode code, ViewColumn column, RowKey key, string? address, string says)
    {
        var about = $"{Record.Name}.{column.Name}";
        var field = Record.Find(column.Name)!;
        var (cause, remedy) =
            code == ProofCodes.StoredAsOtherType
                ? (
                    $"{column.Name} of some {Record.Many} is not {Word(field.Type)}.",
                    "Correct these values in the source, or say the type that they have."
                )
            : code == ProofCodes.FileNotThere
                ? (
                    $"{column.Name} of some {Record.Many} names a file that is not in its folder.",
                    "Put the files there, correct the names, or correct the folder: under:."
                )
            : code == ProofCodes.TextLinkToNothing
                ? (
                    $"{column.Name} of some {Record.Many} has a link that leads nowhere.",
                    "Correct the links: page:NAME for a page of this app, a path of one, or a whole address."
                )
            : code == FindingCodes.PictureWithoutPlace
                ? (
                    $"{column.Name} of some {Record.Many} names a file, and the app file does not say in which folder it is.",
                    "Add under: FOLDER or base: ADDRESS to the field."
                )
            : (
                $"{column.Name} of some {Record.Many} is not what the field allows.",
                "Correct these values, or what the app file says of the field: choices:, pattern:, length:, as: web."
            );
        Add(() => New(code, _places.Of(Record, column.Name), about, cause, remedy), (code, about), key, says, address);
    }

    private void ReportLabel(Row row) =>
        Add(
            () =>
                New(
                    ProofCodes.LabelEmpty,
                    _places.Of(Record),
                    Record.Name,
                    $"Some {Record.Many} have an empty label: links to them say only their kind and key.",
                    "Fill the field of the label in these rows, or name another label: label:."
                ),
            (ProofCodes.LabelEmpty, Record.Name),
            KeyOf(row),
            "empty"
        );

    private void Add(
        Func<Fault> make,
        (FindingCode Code, string About) what,
        RowKey key,
        string says,
        string? address = null,
        long times = 1
    )
    {
        if (!_met.TryGetValue((what.Code.Id, what.About), out var keys))
            _met[(what.Code.Id, what.About)] = keys = [];
        if (keys.Count < MostConfirmed)
            keys.Add(key.Values);
        _faults.Add(what.Code, what.About, make, new FaultExample(key.Text, address, says), times);
    }

    private static Fault New(FindingCode code, Place at, string about, string message, string remedy) =>
        new(code, at, about, message, remedy, 0, [], null);

    private static string Slash(string part) => part.Length == 0 ? "" : $" / {part}";

    private RowKey KeyOf(Row row) => new(string.Join(", ", _key.Select(cell => TextOf(row, cell))), CellValues.Of(row, _key));

    private static string TextOf(Row row, int cell)
    {
        if (row[cell].IsNull)
            return "(empty)";
        using var text = new Utf8Buffer(64);
        TextPiece.Of(cell, FieldType.Any, isId: true).Write(row, text);
        return text.ToString();
    }

    /// <summary>The query that finds the rows with these keys, as text for the engine's own shell.</summary>
    private string Shown(IReadOnlyList<IReadOnlyList<TypedValue>> keys)
    {
        var rows = _part.Rows;
        var (where, arguments) = RowsByKey.OneOf(rows, keys);
        var query = rows.Query with
        {
            Columns = [.. rows.Key.Select(key => rows.Query.Columns[key.Ordinal])],
            Where = [.. rows.Query.Where, where],
            Order = [.. rows.Key.Select(key => new Ordering.ByColumn(key.Column, false, null))],
            // The joins are for what is shown: nothing of that is asked for here.
            Joins = rows.Query.Conditions.Append(where).SelectMany(one => one.Columns).All(column => column.Table == 0)
                ? []
                : rows.Query.Joins,
            Limit = 1000,
        };
        return Record.Source.Prepare(query).Shown(arguments);
    }

    /// <summary>Whether a link in a text of a record is no address of this app, and leads to no other.</summary>
    private static bool LeadsNowhere(Site site, string target)
    {
        if (target.StartsWith(TextLinks.PageScheme, StringComparison.Ordinal))
            return !site.Frame.Addresses.ContainsKey(target[TextLinks.PageScheme.Length..]);
        if (!target.StartsWith('/') || target.StartsWith("//", StringComparison.Ordinal))
            return !TextLinks.LeadsOutside(target);
        var read = RequestTarget.Read(target.Split('#')[0], site.Frame.Mount);
        return read.Fault != TargetFault.OutsideMount
            && !read.IsReserved
            && PageMatch.Of(site, read, isSafe: true).Kind is MatchKind.NoPage or MatchKind.NoAddress;
    }
}
