using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Reads an ID, loads its record and decides: the same for every page about one record and every method. Where a page is only
/// read, a spelling that is not canonical leads to the one that is; a change goes on with it.
/// </summary>
internal sealed class RecordFinder(QueryRunner queries, RuntimeFindings findings, KeyHistory? history)
{
    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    public async ValueTask<FoundRecord> FindAsync(
        Site site,
        RecordPage page,
        PageHead asked,
        VisitRequest request,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var record = Read(site, page, asked, request, trace);
        if (record.Refused is { } refused)
            return new FoundRecord(default, record.Keys, refused);
        var rows = loans.Lend(page.Lookup.Load.Width);
        await queries.RunAsync(page.Lookup.Load, record.Keys, rows, trace, cancellation);
        return await DecideAsync(site, page, asked, request, record, rows, loans, trace, cancellation);
    }

    /// <summary>Reads the ID of an address.</summary>
    public static AskedRecord Read(Site site, RecordPage page, PageHead asked, VisitRequest request, VisitTrace trace)
    {
        var target = request.Target;
        var count = page.Parameters.Count;
        var keys = new TypedValue[count];
        var canonical = true;
        Answer? refused = null;
        for (var i = 0; i < count; i++)
        {
            var parameter = page.Parameters[i];
            var raw = ParameterReader.Read(target, asked.Find(parameter.Name));
            var reading =
                raw.Fault != KeyFault.None ? KeyReading.Failed(raw.Fault)
                : string.IsNullOrEmpty(raw.Text) ? default
                : parameter.Key.Read(raw.Text);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None)
                refused ??= Answer.Of(
                    new Outcome.Malformed(parameter.Name, reading.Fault),
                    Messages.Malformed(site, page, parameter, raw, reading.Fault)
                );
            else if (reading.Value is null)
                refused ??= Missing(site, page, parameter, request);
            else
                (keys[i], canonical) = (reading.Value, canonical && reading.IsCanonical);
        }

        for (var i = 0; i < target.Query.Count; i++)
            if (!asked.Template.QueryParameters.Contains(target.Query[i].Name) && target.Query[i].Name != ParameterReader.From)
                trace.AddIgnored(target.Query[i].Name);
        trace.End(VisitStep.Parse);
        if (refused is not null)
            return new AskedRecord(keys, refused);
        if (request.IsSafe && asked != page.Head)
        {
            trace.Why = VisitTrace.FormerPath;
            return new AskedRecord(keys, Redirect(page, asked, target, keys, new Outcome.NotCanonical()));
        }

        if (canonical || !request.IsSafe)
            return new AskedRecord(keys, null);
        trace.Why = "The ID is a value, but not in its canonical spelling.";
        return new AskedRecord(keys, Redirect(page, asked, target, keys, new Outcome.NotCanonical()));
    }

    /// <summary>Decides what an ID came to whose record has been looked for.</summary>
    /// <param name="rows">What the lookup gave.</param>
    public ValueTask<FoundRecord> DecideAsync(
        Site site,
        RecordPage page,
        PageHead asked,
        VisitRequest request,
        AskedRecord record,
        RowBlock rows,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        trace.End(VisitStep.Load);
        var keys = record.Keys;
        var decision = Loading.Decide(page.Lookup, rows, keys);
        trace.Why = decision.Why;
        switch (decision.Outcome)
        {
            case Outcome.Found:
                return new ValueTask<FoundRecord>(new FoundRecord(rows[decision.Row], keys, null));
            case Outcome.NotCanonical when request.IsSafe:
                return Refuse(
                    Redirect(page, asked, request.Target, Loading.KeyOf(page.Lookup, rows[decision.Row]), decision.Outcome)
                );
            case Outcome.NotCanonical:
                return new ValueTask<FoundRecord>(
                    new FoundRecord(rows[decision.Row], Loading.KeyOf(page.Lookup, rows[decision.Row]), null) { Asked = keys }
                );
            case Outcome.Ambiguous:
                findings.AddAmbiguous(page, string.Join(", ", Texts(trace)));
                return Refuse(Answer.Of(decision.Outcome, Messages.Ambiguous(site, page)));
            default:
                // A record that may not be seen is answered by the same steps as one that is not there.
                return AwayAsync(site, page, asked, request, record, decision.Outcome, loans, trace, cancellation);
        }

        ValueTask<FoundRecord> Refuse(Answer answer) => new(new FoundRecord(default, keys, answer));
    }

    private async ValueTask<FoundRecord> AwayAsync(
        Site site,
        RecordPage page,
        PageHead asked,
        VisitRequest request,
        AskedRecord record,
        Outcome outcome,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    ) =>
        await FollowAsync(site, page, asked, request, record.Keys, loans, trace, cancellation) is { } followed
            ? followed with
            {
                Asked = record.Keys,
            }
            : new FoundRecord(default, record.Keys, Answer.Of(outcome, Messages.Unknown(site, page, Texts(trace))));

    /// <summary>Where a record went that is not there: only to what is there now and may be seen.</summary>
    private async ValueTask<FoundRecord?> FollowAsync(
        Site site,
        RecordPage page,
        PageHead asked,
        VisitRequest request,
        TypedValue[] keys,
        RowLoans loans,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var texts = TextsOf(page, keys);
        if (history?.Follow(page, texts) is not { } fate)
            return null;
        if (fate.MovedTo is not { } moved)
        {
            trace.Why = "The change log has it that the record was deleted.";
            return new FoundRecord(default, keys, Answer.Of(new Outcome.Gone(), Messages.Gone(site, page, texts)));
        }

        var readings = moved.Select((text, i) => page.Parameters[i].Key.Read(text).Value).ToArray();
        if (Array.Exists(readings, reading => reading is null))
            return null;
        var now = readings.OfType<TypedValue>().ToArray();
        var rows = loans.Lend(page.Lookup.Load.Width);
        await queries.RunAsync(page.Lookup.Load, now, rows, trace, cancellation);
        var decision = Loading.Decide(page.Lookup, rows, now);
        if (decision.Outcome is not Outcome.Found)
            return null;
        trace.Why = "The change log has it that the record's key was changed.";
        return request.IsSafe
            ? new FoundRecord(default, now, Redirect(page, asked, request.Target, now, new Outcome.Moved()))
            : new FoundRecord(rows[decision.Row], now, null);
    }

    private static Answer Missing(Site site, RecordPage page, PageParameter parameter, VisitRequest request)
    {
        var outcome = new Outcome.Missing(parameter.Name);
        if (request.IsSafe && !request.WantsJson && page.MissingPage is { } list)
            return new Answer(
                outcome,
                302,
                null,
                AddressQuery.With(list.AddressWithoutParameters!, ParameterReader.Lacking, $"{page.Name}.{parameter.Name}")
            );
        var status = page.Ids.MissingStatus ?? (request.WantsJson ? 400 : 404);
        return Answer.Of(outcome, Messages.Missing(site, page, parameter, status));
    }

    /// <param name="asked">Under whose path the address was read: its parameters are not kept, all others are.</param>
    private static Answer Redirect(RecordPage page, PageHead asked, RequestTarget target, TypedValue[] keys, Outcome outcome)
    {
        var address = AddressOf(page, keys)
            ?? throw new InvalidOperationException("A value that was read from an address could not be written into one.");
        var rest = ParameterReader.RestOfQuery(target, [.. asked.Template.QueryParameters]);
        var joint =
            rest.Length == 0 ? ""
            : page.Head.Template.QueryParameters.Count > 0 ? "&"
            : "?";
        return new Answer(outcome, 301, null, $"{address}{joint}{rest}");
    }

    /// <summary>The ID texts as they were asked.</summary>
    private static string[] Texts(VisitTrace trace) => [.. trace.Parameters.Select(parameter => parameter.Raw!)];

    /// <summary>The ID texts of a key, in their canonical spelling.</summary>
    public static string[] TextsOf(RecordPage page, TypedValue[] keys) =>
        [.. keys.Select((key, i) => page.Parameters[i].Key.Write(key))];

    /// <summary>The page's address for a record; null if no address can carry its key.</summary>
    public static string? AddressOf(RecordPage page, TypedValue[] keys)
    {
        using var address = new Utf8Buffer(256);
        return page.Head.Builder.TryBuild(new KeyTexts(page, keys), address) ? address.ToString() : null;
    }

    private readonly struct KeyTexts(RecordPage page, TypedValue[] keys) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(page.Parameters[parameter].Key.Write(keys[parameter]));
            return true;
        }
    }
}
