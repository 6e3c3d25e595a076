using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>What all pages that change records share: contracts, used tokens, redirects after a change.</summary>
internal sealed class SaveSteps(QueryRunner queries, EditServices editing, ChangeMaker maker)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(3);

    public const string Undetermined =
        "This form was sent before, and it is not known whether it was saved then. Below is what you "
        + "typed: please look at what is there now before you save again.";

    /// <summary>For a form whose source cannot take the change just now.</summary>
    public const string Later = "This could not be saved just now. What you typed is still here: please save again in a moment.";

    public IChangeLog Log => editing.Log;

    public IFormSeal Seal => editing.Seal;

    public byte[] VersionKey => editing.VersionKey;

    public DateTimeOffset Now => queries.Clock.GetUtcNow();

    public TimeProvider Clock => queries.Clock;

    public ChangeMaker Maker => maker;

    public QueryRun Plainly(Visit visit) => (query, arguments, rows) => queries.RunAsync(query, arguments, rows, visit);

    /// <summary>Runs queries within the transaction of a change.</summary>
    public QueryRun Within(IWriteSession session, Visit visit) =>
        async (query, arguments, rows) =>
        {
            var started = queries.Clock.GetTimestamp();
            await session.RunAsync(query, arguments, rows, visit.Cancellation);
            visit.Trace.Add(query, arguments, rows, rows.Count, started);
        };

    /// <summary>Locks the record of a change and reads it, so that nobody else changes it before this transaction ends.</summary>
    public async ValueTask LockAsync(
        IWriteSession session,
        IPreparedQuery query,
        IReadOnlyList<Values.TypedValue> arguments,
        Values.RowBlock rows,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var started = queries.Clock.GetTimestamp();
        await session.LockAsync(query, arguments, rows, cancellation);
        trace.Add(query, arguments, rows, rows.Count, started);
    }

    /// <summary>The contract that was sent, and why it is not accepted.</summary>
    /// <param name="ids">The ID texts in the address, and those they stand for now.</param>
    public (FormContract? Contract, ContractFault Fault) Open(
        Visit visit,
        Page page,
        params IReadOnlyList<IReadOnlyList<string>> ids
    )
    {
        var contract = FormContract.Open(Seal, visit.Request.Sent.One(SentForm.Contract) ?? "");
        return contract is null ? (null, ContractFault.Unknown)
            : contract.Page != page.Name || !ids.Any(texts => texts.SequenceEqual(contract.Ids))
                ? (contract, ContractFault.OtherRecord)
            : visit.Request.Visitor is null || contract.Visitor != visit.Request.Visitor ? (contract, ContractFault.OtherVisitor)
            : Now - contract.MadeAt > FormContract.Lifetime ? (contract, ContractFault.Expired)
            : (contract, ContractFault.None);
    }

    /// <summary>The change that used a token. Waits a little for one that is being made. Null if the token is unused.</summary>
    public async ValueTask<LoggedChange?> FindAsync(string token, bool awaitIt, CancellationToken cancellation)
    {
        var started = Clock.GetTimestamp();
        while (true)
        {
            var found = Log.Find(token);
            if (found is not { State: ChangeState.Intended } || !awaitIt || Clock.GetElapsedTime(started) > Patience)
                return found;
            await Task.Delay(TimeSpan.FromMilliseconds(25), Clock, cancellation);
        }
    }

    /// <summary>
    /// Whether a token was used while this change waited for its turn. The session's claim makes it certain: whoever used it has
    /// committed, and an intent without a note in the source was left behind.
    /// </summary>
    public async ValueTask<bool> IsUsedAsync(IWriteSession session, string token, CancellationToken cancellation)
    {
        await session.ClaimAsync(token, cancellation);
        if (Log.Find(token) is not { } found)
            return false;
        return found.State != ChangeState.Intended
            || !session.KeepsNotes
            || (await session.FindNoteAsync(token, CancellationToken.None)).Noted;
    }

    /// <summary>The answer to a form that was sent before with the same content: it leads to what the first one made.</summary>
    public static Answer Again(Visit visit, LoggedChange made)
    {
        visit.Trace.Why = $"The form was sent before, and is change {made.Number}.";
        return new Answer(new Outcome.Spent(), 303, null, made.What.Location);
    }

    /// <summary>The answer to a program whose change is for an old version.</summary>
    public static Answer Stale(Visit visit, Page page)
    {
        visit.Trace.Why = "If-Match names another version than the record has.";
        return Refuse(
            visit,
            page,
            new Outcome.Conflict(),
            412,
            "The record has changed",
            "It is not the version that If-Match names any more."
        );
    }

    /// <summary>The answer to a program that does not say which version its change is for.</summary>
    public static Answer WhichVersion(Visit visit, Page page)
    {
        visit.Trace.Why = "There is no If-Match: a change must say which version it is for.";
        return Refuse(
            visit,
            page,
            new Outcome.Refused(),
            428,
            "Which version?",
            "A change must say in If-Match which version of the record it is for: the ETag that this address gives."
        );
    }

    private static Answer Refuse(Visit visit, Page page, Outcome outcome, int status, string heading, string sentence) =>
        Answer.Of(
            outcome,
            new Views.MessageView(
                visit.Site.Frame,
                page.Name,
                outcome.PublicWord,
                status,
                heading,
                [sentence, "Nothing was changed."],
                null,
                null,
                []
            )
        );

    /// <summary>Another change with the same token is being made, or nobody can tell yet.</summary>
    public static Answer Busy(Visit visit, Page page) =>
        Answer.Of(new Outcome.Unavailable(SourceTrouble.TooSlow), Messages.InFlight(visit.Site, page)) with
        {
            RetryAfterSeconds = 5,
        };

    /// <summary>
    /// Whether If-Match names this version (strong comparison, RFC 9110 section 8.8.3.2), or any.
    /// </summary>
    public static bool IsWanted(string ifMatch, string version) =>
        ifMatch == "*" || ifMatch.Split(',').Any(tag => tag.Trim() == $"\"{version}\"");

    public static Answer Led(Outcome outcome, string location, string say) => new(outcome, 303, null, location) { Say = say };

    /// <summary>The fields that Jexa fills by itself.</summary>
    /// <param name="before">The record as it was, in the order of the plan's columns; null for a new one.</param>
    public IEnumerable<Plans.ColumnValue> Kept(ChangePlan plan, IReadOnlyList<Values.TypedValue>? before)
    {
        var now = Now.UtcDateTime;
        var moment = new DateTime(now.Ticks - (now.Ticks % TimeSpan.TicksPerSecond));
        foreach (var kept in plan.Kept)
        {
            if (kept.Kind == KeptKind.Created && before is not null)
                continue;
            Values.TypedValue value = kept.Kind switch
            {
                KeptKind.Version => new Values.TypedValue.Whole(
                    before?[IndexOf(plan, kept.Field)] is Values.TypedValue.Whole was && was.Value < long.MaxValue
                        ? was.Value + 1
                        : 1
                ),
                _ when kept.Field.Type == Values.FieldType.Date => new Values.TypedValue.Date(
                    DateOnly.FromDateTime(kept.Field.Style.Conventions.Shown(moment))
                ),
                _ => new Values.TypedValue.Moment(moment),
            };
            yield return new Plans.ColumnValue(kept.Field.Column.Name, value);
        }
    }

    private static int IndexOf(ChangePlan plan, SiteField field) =>
        plan.Columns.ToList().FindIndex(column => column.Field == field);
}
