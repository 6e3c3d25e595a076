using System.Diagnostics;
using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>
/// Runs visits: match, parse, load, decide, answer. The steps are the same for people and programs, for lists and records. Each
/// visit has exactly one outcome. Throws only if the visitor has left.
/// </summary>
public sealed class VisitRunner
{
    private readonly SourceShares _shares;
    private readonly QueryRunner _queries;
    private readonly RuntimeFindings _findings;
    private readonly ListVisit _lists;
    private readonly DetailVisit _details;
    private readonly MediaVisit _media;
    private readonly TextVisit _texts;
    private readonly ChoiceVisit _choices;
    private readonly ChangeVisits? _changes;

    /// <param name="editing">Null if nothing can ever be changed. Pages with forms are then unavailable.</param>
    public VisitRunner(TimeProvider clock, ListCursor cursors, RuntimeFindings findings, EditServices? editing = null)
    {
        _findings = findings;
        _shares = new SourceShares(clock);
        var queries = _queries = new QueryRunner(clock);
        var finder = new RecordFinder(queries, findings, editing is null ? null : new KeyHistory(editing.Log));
        _lists = new ListVisit(queries, cursors, findings);
        _details = new DetailVisit(queries, cursors, finder, _lists);
        _media = new MediaVisit(queries);
        _texts = new TextVisit(queries);
        _choices = new ChoiceVisit(queries);
        if (editing is not null)
            _changes = new ChangeVisits(queries, finder, editing);
    }

    /// <summary>A picture or bytes of a record, by the address on its pages; null if there is nothing to see.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public ValueTask<MediaFile?> FindMediaAsync(
        Site site,
        RequestTarget target,
        VisitTrace trace,
        CancellationToken cancellation
    ) => _media.RunAsync(site, target, trace, cancellation);

    /// <summary>Whether a record names a file; a hidden one too.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public async ValueTask<bool> IsNamedAsync(UploadLookup lookup, string name, CancellationToken cancellation)
    {
        using var rows = _queries.Begin();
        var found = rows.Lend(lookup.Named.Width);
        var trace = new VisitTrace("GET", "", _queries.Clock);
        await _queries.RunAsync(lookup.Named, [new TypedValue.Text(name)], found, trace, cancellation);
        return found.Count > 0;
    }

    /// <summary>The form that a request means to send; null if it does not mean a page with a form.</summary>
    public static FormPlan? FormAt(Site site, RequestTarget target) =>
        PageMatch.Of(site, target, isSafe: false) is { Kind: MatchKind.Page } match
            ? ParameterReader.Choose(match.Pages, target, out _) switch
            {
                EditPage edit => edit.Form,
                NewPage fresh => fresh.Form,
                _ => null,
            }
            : null;

    /// <summary>The choices for a field of a page's form; null if there is no such field, or nothing to choose.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public ValueTask<FieldChoices?> FindChoicesAsync(
        Site site,
        string page,
        string field,
        string find,
        VisitTrace trace,
        CancellationToken cancellation
    ) => _choices.RunAsync(site, page, field, find, trace, cancellation);

    /// <summary>
    /// Runs a visit from its address to its answer, which the caller disposes. Throws only if the visitor has left.
    /// </summary>
    public async ValueTask<Answer> RunAsync(Site site, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        trace.Site = site;
        trace.Reading = request.Target;
        var rows = _queries.Begin();
        var turn = default(PageTurn);
        try
        {
            var answer = Match(site, request, trace, out var page, out var asked);
            if (answer is null)
            {
                var visit = new Visit(site, request, asked!, trace, rows, cancellation);
                // Visits of one source have their turns.
                if (page!.Record is not null)
                    turn = await _shares.Of(page).EnterAsync(trace.Visitor, cancellation);
                answer = await ByKindAsync(page, visit);
            }

            NoteFindings(answer, trace);
            answer.Rows = rows;
            return Traced(answer, trace);
        }
        catch (Exception met)
        {
            rows.Dispose();
            if (met is OperationCanceledException && cancellation.IsCancellationRequested)
                throw;
            return Fail(met, site, trace);
        }
        finally
        {
            turn.Dispose();
        }
    }

    /// <summary>Leaves a visit to the class of its page's kind.</summary>
    private ValueTask<Answer> ByKindAsync(Page page, Visit visit) =>
        page switch
        {
            DetailPage detail => _details.RunAsync(visit, detail),
            EditPage or NewPage or DeletePage => _changes?.RunAsync(visit, page)
                ?? new ValueTask<Answer>(CannotWrite(page, visit)),
            ListPage or TextPage when visit.Asked != page.Head => new ValueTask<Answer>(Former(page, visit)),
            ListPage list => _lists.RunAsync(visit, list),
            TextPage text => _texts.RunAsync(visit, text),
            DesignedPage designed => new ValueTask<Answer>(Designed(designed, visit)),
            _ => throw new UnreachableException($"Nobody visits a page of kind {page.Kind}."),
        };

    private static Answer Designed(DesignedPage page, Visit visit)
    {
        visit.Trace.Why = $"The table “{page.Table}” is not there yet: the page is shown as it was designed.";
        var text = $"The table “{page.Table}” is not there yet.";
        return new Answer(new Outcome.Shown(), 200, new TextView(visit.Site.Frame, page.Name, page.Head.Heading, text));
    }

    private static Answer CannotWrite(Page page, Visit visit)
    {
        visit.Trace.Why = "Nothing can be changed here: there is no change log.";
        return Answer.Of(new Outcome.Unavailable(SourceTrouble.Away), Messages.Unavailable(visit.Site, page));
    }

    private void NoteFindings(Answer answer, VisitTrace trace)
    {
        if (trace.Page is not { } page)
            return;
        if (trace.Finding is { } told)
            _findings.AddSource(page, told);
        if (page.LacksPictures)
            _findings.NotePictures(page, answer.View);
    }

    /// <summary>The answer to a visit that failed.</summary>
    private Answer Fail(Exception met, Site site, VisitTrace trace)
    {
        if (met is not SourceException trouble)
            return Failure(site, trace, met);
        trace.Why = trouble.Message;
        var answer =
            trouble.Trouble == SourceTrouble.Failed
                ? Answer.Of(new Outcome.Failed(), Messages.Failed(site, trace.Page))
                : Answer.Of(new Outcome.Unavailable(trouble.Trouble), Messages.Unavailable(site, trace.Page)) with
                {
                    RetryAfterSeconds = 5,
                };
        NoteFindings(answer, trace);
        return Traced(answer, trace);
    }

    /// <summary>The answer to a visit with an unexpected exception, also while its page was written.</summary>
    public static Answer Failure(Site site, VisitTrace trace, Exception unforeseen)
    {
        trace.Why = $"{unforeseen.GetType().Name}: {unforeseen.Message}";
        return Traced(Answer.Of(new Outcome.Failed(), Messages.Failed(site, trace.Page)), trace);
    }

    private static Answer Traced(Answer answer, VisitTrace trace)
    {
        trace.Outcome = answer.Outcome;
        trace.Status = answer.Status;
        trace.Location = answer.Location;
        return answer;
    }

    /// <summary>
    /// Finds the page that an address means. If it means none, or the page does not take the request as it is, that is the
    /// answer.
    /// </summary>
    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    private static Answer? Match(Site site, VisitRequest request, VisitTrace trace, out Page? page, out PageHead? asked)
    {
        (page, asked) = (null, null);
        var target = request.Target;
        if (target.Fault == TargetFault.None && target.Path.IsEmpty && request.IsSafe)
            return Redirect(
                trace,
                "The mount itself leads to the root below it.",
                301,
                $"{site.Frame.Mount}/{target.QueryString}"
            );
        var match = PageMatch.Of(site, target, request.IsSafe);
        if (match.Kind != MatchKind.Page)
            return Unmatched(site, target, match, trace);
        page = ParameterReader.Choose(match.Pages, target, out var rival);
        asked = page.Head;
        if (page is FormerPage former)
            page = former.Now;
        trace.Page = page;
        trace.ReadsLatest = request.HasWritten || !request.IsSafe || page.Head.Definition.Writes;
        trace.End(VisitStep.Match);
        return RedirectOrRefuse(site, page, asked, rival, request, trace);
    }

    private static Answer Unmatched(Site site, RequestTarget target, PageMatch match, VisitTrace trace)
    {
        switch (match.Kind)
        {
            case MatchKind.OutsideMount:
                trace.Why = $"The pages stand below {site.Frame.Mount}/, and this address does not.";
                return Answer.Of(new Outcome.NoPage(), Messages.NoPage(site, target));
            case MatchKind.NoAddress:
                trace.Why = $"The target is no address: {target.Fault}.";
                return Answer.Of(new Outcome.Malformed(null, KeyFault.WrongForm), Messages.BadTarget(site));
            case MatchKind.Reserved:
                return Reserved(site, target);
            case MatchKind.Home:
                var home = site.Home!;
                return Redirect(
                    trace,
                    $"The root leads to the home page, “{home.Name}”.",
                    302,
                    home.Head.AddressWithoutParameters!
                );
            case MatchKind.TrailingSlash:
                trace.Page = match.Pages[0];
                return Redirect(
                    trace,
                    "The path without its trailing slash is a page.",
                    301,
                    $"{site.Frame.Mount}{target.Path[..^1]}{target.QueryString}"
                );
            case MatchKind.Waiting:
                trace.End(VisitStep.Match);
                trace.Why = match.Pages is [WaitingPage first, ..]
                    ? $"The page “{first.Name}” waits for the source “{first.Source}”, which has not answered yet."
                    : "The source of the home page has not answered yet.";
                return Answer.Of(new Outcome.Unavailable(SourceTrouble.Away), Messages.Unavailable(site, null)) with
                {
                    RetryAfterSeconds = 5,
                };
            case MatchKind.NoPage:
                trace.End(VisitStep.Match);
                return Answer.Of(new Outcome.NoPage(), Messages.NoPage(site, target));
            default:
                throw new UnreachableException($"A match of kind {match.Kind} has a page.");
        }
    }

    private static Answer Redirect(VisitTrace trace, string why, int status, string address)
    {
        trace.End(VisitStep.Match);
        trace.Why = why;
        return new Answer(new Outcome.NotCanonical(), status, null, address);
    }

    /// <summary>The answer if a page does not take the request as it is; null if it does.</summary>
    private static Answer? RedirectOrRefuse(
        Site site,
        Page page,
        PageHead asked,
        Page? rival,
        VisitRequest request,
        VisitTrace trace
    )
    {
        if (!page.Allows(request.Method))
            return Answer.Of(new Outcome.NotAllowed(), Messages.NotAllowed(site, page)) with { Allow = page.Methods };
        if (page.Head.DrawnAt is { } drawnAt && asked == page.Head && request is { IsSafe: true, Reader: Reader.Person })
        {
            trace.Why = $"The page is drawn by another program, below {drawnAt}.";
            return new Answer(new Outcome.Elsewhere(), 302, null, $"{drawnAt}{request.Target.Path}{request.Target.QueryString}");
        }

        if (!request.IsSafe && Refused(site, page, request, trace) is { } refused)
            return refused;
        if (rival is null)
            return null;
        trace.Why = $"The pages “{page.Name}” and “{rival.Name}” share this path, and the address gives what each of them needs.";
        var names = ParameterReader.RequiredOf(page).Union(ParameterReader.RequiredOf(rival)).ToList();
        return Answer.Of(new Outcome.Malformed(names[0], KeyFault.Exclusive), Messages.Exclusive(site, page, rival, names));
    }

    /// <summary>
    /// The same address under the page's present path. What both paths have in the query string stays the same.
    /// </summary>
    private static Answer Former(Page page, Visit visit)
    {
        visit.Trace.Why = VisitTrace.FormerPath;
        var texts = new Dictionary<string, string>();
        foreach (
            var parameter in visit.Asked.Parameters.Where(parameter =>
                parameter.Segment >= 0 || !page.Head.Template.QueryParameters.Contains(parameter.Name)
            )
        )
        {
            var raw = ParameterReader.Read(visit.Target, parameter);
            if (raw.Text is not null)
                texts[parameter.Name] = raw.Text;
        }

        var address = page.Head.Builder.Build([
            .. page.Head.Template.Parameters.Select(name => texts.TryGetValue(name, out var text) ? new[] { text } : []),
        ]);
        return address is null
            ? Answer.Of(new Outcome.Malformed(null, KeyFault.WrongForm), Messages.BadTarget(visit.Site))
            : new Answer(
                new Outcome.NotCanonical(),
                301,
                null,
                AddressQuery.WithRest(address, ParameterReader.RestOfQuery(visit.Target, texts.Keys))
            );
    }

    /// <summary>Refuses requests from other origins, and requests that cannot be read.</summary>
    private static Answer? Refused(Site site, Page page, VisitRequest request, VisitTrace trace)
    {
        if (request.IsForeign)
        {
            trace.Why = "Origin or Sec-Fetch-Site say that it comes from a page of another origin.";
            return Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(site, page, "It comes from a page of another site."));
        }

        if (
            request.Sent.Fault == SentFault.None
            && (page.Takes(request.Method, request.Sent.Json is not null) || request.Method == "DELETE")
        )
            return null;
        var fault = request.Sent.Fault == SentFault.None ? SentFault.OtherType : request.Sent.Fault;
        trace.Why = $"What was sent cannot be read: {fault}.";
        return Answer.Of(new Outcome.Unreadable(fault), Messages.Unreadable(site, page, fault)) with
        {
            Accepts = fault == SentFault.OtherType ? page.Accepts(request.Method) : null,
        };
    }

    private static Answer Reserved(Site site, RequestTarget target)
    {
        var isStub = target.Segments.Length == 3 && target.Text(1).SequenceEqual(UnwrittenPage.Segment);
        var unwritten = isStub ? site.Unwritten.GetValueOrDefault(target.Text(2).ToString()) : null;
        return Answer.Of(
            new Outcome.NoPage(),
            unwritten is null ? Messages.NoPage(site, target) : Messages.Unwritten(site, unwritten, target)
        );
    }
}
