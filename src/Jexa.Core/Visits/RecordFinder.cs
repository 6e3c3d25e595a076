using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>
/// Reads an ID, loads its record and decides, for every page about one record and every method. A page that only reads redirects
/// to the canonical spelling; a change accepts any spelling.
/// </summary>
internal sealed class RecordFinder(QueryRunner queries, RuntimeFindings findings, KeyHistory? history)
{
    public async ValueTask<FoundRecord> FindAsync(Visit visit, RecordPage page)
    {
        var record = Read(visit, page);
        if (record.Refused is { } refused)
            return new FoundRecord(default, record.Keys, refused);
        var keys = record.Keys;
        var rows = visit.Rows.Lend(page.Lookup.Load.Width);
        await queries.RunAsync(page.Lookup.Load, keys, rows, visit);
        visit.Trace.End(VisitStep.Load);
        var decision = Loading.Decide(page.Lookup, rows, keys);
        visit.Trace.Why = decision.Why;
        switch (decision.Outcome)
        {
            case Outcome.Found:
                return new FoundRecord(rows[decision.Row], keys, null);
            case Outcome.NotCanonical:
                var now = Loading.KeyOf(page.Lookup, rows[decision.Row]);
                return visit.Request.IsSafe
                    ? new FoundRecord(default, keys, Redirect(visit, page, now, decision.Outcome))
                    : new FoundRecord(rows[decision.Row], now, null) { Asked = keys };
            case Outcome.Ambiguous:
                findings.AddAmbiguous(page, string.Join(", ", Texts(visit.Trace)));
                return new FoundRecord(default, keys, Answer.Of(decision.Outcome, Messages.Ambiguous(visit.Site, page)));
            case Outcome.Unknown or Outcome.Hidden:
                // A hidden record takes the same steps as an unknown one.
                return await FollowAsync(visit, page, keys) is { } followed
                    ? followed with
                    {
                        Asked = keys,
                    }
                    : new FoundRecord(
                        default,
                        keys,
                        Answer.Of(decision.Outcome, Messages.Unknown(visit.Site, page, Texts(visit.Trace)))
                    );
            default:
                throw new UnreachableException($"Finding a record does not end with {decision.Outcome}.");
        }
    }

    /// <summary>Reads the ID of an address.</summary>
    private static AskedRecord Read(Visit visit, RecordPage page)
    {
        var (target, trace) = (visit.Target, visit.Trace);
        var keys = new TypedValue[page.Parameters.Count];
        var canonical = true;
        Answer? refused = null;
        for (var i = 0; i < keys.Length; i++)
        {
            var parameter = page.Parameters[i];
            var raw = ParameterReader.Read(target, visit.Asked.Find(parameter.Name));
            var reading = ParameterReader.Value(raw, parameter.Key);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None)
                refused ??= Answer.Of(
                    new Outcome.Malformed(parameter.Name, reading.Fault),
                    Messages.Malformed(visit.Site, page, parameter, raw, reading.Fault)
                );
            else if (reading.Value is null)
                refused ??= Missing(visit, page, parameter);
            else
                (keys[i], canonical) = (reading.Value, canonical && reading.IsCanonical);
        }

        for (var i = 0; i < target.Query.Count; i++)
            if (
                !visit.Asked.Template.QueryParameters.Contains(target.Query[i].Name)
                && target.Query[i].Name != ParameterReader.From
                && !Chooses(page, target.Query[i].Name)
            )
                trace.AddIgnored(target.Query[i].Name);
        trace.End(VisitStep.Parse);
        if (refused is not null || !visit.Request.IsSafe || (canonical && visit.Asked == page.Head))
            return new AskedRecord(keys, refused);
        trace.Why = visit.Asked == page.Head ? "The ID is a value, but not in its canonical spelling." : VisitTrace.FormerPath;
        return new AskedRecord(keys, Redirect(visit, page, keys, new Outcome.NotCanonical()));
    }

    /// <summary>Whether a block of the page is chosen from by this name.</summary>
    private static bool Chooses(RecordPage page, string name) =>
        page is DetailPage detail && detail.Blocks.Any(block => block.Shape.Choice?.Parameter == name);

    /// <summary>Follows a record that was deleted or has another key now, but only to what exists and may be seen.</summary>
    private async ValueTask<FoundRecord?> FollowAsync(Visit visit, RecordPage page, TypedValue[] keys)
    {
        var texts = TextsOf(page, keys);
        if (history?.Follow(page, texts) is not { } end)
            return null;
        if (end.MovedTo is not { } moved)
        {
            visit.Trace.Why = "The change log has it that the record was deleted.";
            return new FoundRecord(default, keys, Answer.Of(new Outcome.Gone(), Messages.Gone(visit.Site, page, texts)));
        }

        var readings = moved.Select((text, i) => page.Parameters[i].Key.Read(text).Value).ToArray();
        if (Array.Exists(readings, reading => reading is null))
            return null;
        var now = readings.OfType<TypedValue>().ToArray();
        var rows = visit.Rows.Lend(page.Lookup.Load.Width);
        await queries.RunAsync(page.Lookup.Load, now, rows, visit);
        var decision = Loading.Decide(page.Lookup, rows, now);
        if (decision.Outcome is not Outcome.Found)
            return null;
        visit.Trace.Why = "The change log has it that the record's key was changed.";
        return visit.Request.IsSafe
            ? new FoundRecord(default, now, Redirect(visit, page, now, new Outcome.Moved()))
            : new FoundRecord(rows[decision.Row], now, null);
    }

    private static Answer Missing(Visit visit, RecordPage page, PageParameter parameter)
    {
        var outcome = new Outcome.Missing(parameter.Name);
        var request = visit.Request;
        return request is { IsSafe: true, Reader: Reader.Person } && page.MissingPage is { } list
            ? MissingParameters.LeadTo(list, page, outcome)
            : Answer.Of(
                outcome,
                Messages.Missing(visit.Site, page, parameter, MissingParameters.StatusFor(request, page.Ids.MissingStatus))
            );
    }

    /// <summary>Leads to another ID. The parameters of the path that was asked for are not kept, all others are.</summary>
    private static Answer Redirect(Visit visit, RecordPage page, TypedValue[] keys, Outcome outcome)
    {
        var address = AddressOf(page, keys)
            ?? throw new InvalidOperationException("A value that was read from an address could not be written into one.");
        var rest = ParameterReader.RestOfQuery(visit.Target, [.. visit.Asked.Template.QueryParameters]);
        return new Answer(outcome, 301, null, AddressQuery.WithRest(address, rest));
    }

    /// <summary>The ID texts as the address has them.</summary>
    private static string[] Texts(VisitTrace trace) => [.. trace.Parameters.Select(parameter => parameter.Raw!)];

    /// <summary>The ID texts of a key, in canonical spelling.</summary>
    public static string[] TextsOf(RecordPage page, TypedValue[] keys) =>
        [.. keys.Select((key, i) => page.Parameters[i].Key.Write(key))];

    /// <summary>The page's address for a record; null if no address can contain its key.</summary>
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
