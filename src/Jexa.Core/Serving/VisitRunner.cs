using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>
/// Runs visits, forward only: match, parse, load, decide, answer; the same for people and programs, lists and records.
/// Exactly one outcome each. Throws only where the visitor has left.
/// </summary>
public sealed class VisitRunner
{
    private readonly TimeProvider _clock;
    private readonly SourceShares _shares;
    private readonly RuntimeFindings _findings;
    private readonly ListVisit _lists;
    private readonly DetailVisit _details;
    private readonly MediaVisit _media;
    private readonly TextVisit _texts;
    private readonly ChoiceVisit _choices;
    private readonly ChangeVisits? _changes;

    /// <param name="editing">Null where nothing is ever to be changed: pages with forms are then unavailable.</param>
    public VisitRunner(TimeProvider clock, ListCursor cursors, RuntimeFindings findings, EditServices? editing = null)
    {
        (_clock, _findings) = (clock, findings);
        _shares = new SourceShares(clock);
        var queries = new QueryRunner(clock);
        var finder = new RecordFinder(queries, findings, editing is null ? null : new KeyHistory(editing.Log));
        _lists = new ListVisit(queries, cursors, findings);
        _details = new DetailVisit(queries, cursors, finder, _lists);
        _media = new MediaVisit(queries);
        _texts = new TextVisit(queries);
        _choices = new ChoiceVisit(queries);
        if (editing is not null)
            _changes = new ChangeVisits(queries, finder, editing);
    }

    /// <summary>
    /// A picture or bytes of a record, by the address that its pages give them; null if there are none to be seen.
    /// </summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public ValueTask<MediaFile?> FindMediaAsync(
        Site site,
        RequestTarget target,
        VisitTrace trace,
        CancellationToken cancellation
    ) => _media.RunAsync(site, target, trace, cancellation);

    /// <summary>What a field of a page's form can be; null if there is no such field, or nothing to choose.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public ValueTask<FieldChoices?> FindChoicesAsync(
        Site site,
        string page,
        string field,
        string find,
        VisitTrace trace,
        CancellationToken cancellation
    ) => _choices.RunAsync(site, page, field, find, trace, cancellation);

    public async ValueTask<Answer> RunAsync(Site site, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        try
        {
            return End(await StartAsync(site, request, trace, cancellation), trace);
        }
        catch (Exception met) when (met is not OperationCanceledException || !cancellation.IsCancellationRequested)
        {
            return Fail(met, site, trace);
        }
    }

    /// <summary>
    /// Avoids one async state machine. The caller gives the answer to <see cref="End"/>, and an exception to <see cref="Fail"/>
    /// unless the visitor has left.
    /// </summary>
    public ValueTask<Answer> StartAsync(Site site, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        trace.Site = site;
        trace.Reading = request.Target;
        var turned = Match(site, request, trace, out var page, out var asked, out var rival)
            ?? RedirectOrRefuse(site, page, asked, rival, request, trace);
        return turned is not null ? new ValueTask<Answer>(turned)
            : page.Record is null ? VisitAsync(site, page, asked, request, trace, cancellation)
            : SharedAsync(site, page, asked, request, trace, cancellation);
    }

    /// <summary>Visits a page when it is its turn among those of the same source.</summary>
    private ValueTask<Answer> SharedAsync(
        Site site,
        Page page,
        PageHead asked,
        VisitRequest request,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var share = _shares.Of(page);
        var entering = share.EnterAsync(trace.Visitor, cancellation);
        if (!entering.IsCompletedSuccessfully)
            return WaitingAsync(entering, share, site, page, asked, request, trace, cancellation);
        var wasSlow = entering.Result;
        var began = _clock.GetTimestamp();
        var isOver = true;
        try
        {
            var visiting = VisitAsync(site, page, asked, request, trace, cancellation);
            if (visiting.IsCompleted)
                return visiting;
            isOver = false;
            return EndingAsync(visiting, share, wasSlow, trace.Visitor, began);
        }
        finally
        {
            if (isOver)
                share.Leave(wasSlow, trace.Visitor, began);
        }
    }

    private static async ValueTask<Answer> EndingAsync(
        ValueTask<Answer> visiting,
        PageShare share,
        bool wasSlow,
        System.Net.IPAddress? client,
        long began
    )
    {
        try
        {
            return await visiting;
        }
        finally
        {
            share.Leave(wasSlow, client, began);
        }
    }

    private async ValueTask<Answer> WaitingAsync(
        ValueTask<bool> entering,
        PageShare share,
        Site site,
        Page page,
        PageHead asked,
        VisitRequest request,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var wasSlow = await entering;
        var began = _clock.GetTimestamp();
        return await EndingAsync(
            VisitAsync(site, page, asked, request, trace, cancellation),
            share,
            wasSlow,
            trace.Visitor,
            began
        );
    }

    /// <summary>The answer of a visit that has been started.</summary>
    public Answer End(Answer answer, VisitTrace trace)
    {
        if (trace.Page is { } page)
        {
            if (trace.Finding is { } told)
                _findings.AddSource(page, told);
            if (page.LacksPictures)
                _findings.NotePictures(page, answer.View);
        }

        return Traced(answer, trace);
    }

    /// <summary>The answer of a visit that could not go on.</summary>
    public Answer Fail(Exception met, Site site, VisitTrace trace)
    {
        if (met is not SourceException trouble)
            return Failure(site, trace, met);
        trace.Why = trouble.Message;
        return End(
            trouble.Trouble == SourceTrouble.Failed
                ? Answer.Of(new Outcome.Failed(), Messages.Failed(site, trace.Page))
                : Answer.Of(new Outcome.Unavailable(trouble.Trouble), Messages.Unavailable(site, trace.Page)) with
                {
                    RetryAfterSeconds = 5,
                },
            trace
        );
    }

    /// <summary>The answer to a visit that met something nobody foresaw, also while its page was being written.</summary>
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
    /// Finds the page that an address means. Where it means none, or another address, that is the answer, and there is no page.
    /// </summary>
    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    /// <param name="rival">Another page that the address means as well.</param>
    private static Answer? Match(
        Site site,
        VisitRequest request,
        VisitTrace trace,
        out Page page,
        out PageHead asked,
        out Page? rival
    )
    {
        (page, asked, rival) = (null!, null!, null);
        var target = request.Target;
        if (target.Fault != TargetFault.None)
            return NoAddress(site, target, trace);
        if (target.Path.IsEmpty && request.IsSafe)
            return Redirect(
                trace,
                "The mount itself leads to the root below it.",
                301,
                $"{site.Frame.Mount}/{target.QueryString}"
            );
        if (target.IsReserved)
            return Reserved(site, target);
        var depth = target.Segments.Length;
        var pages = site.Paths.Match(target, depth);
        if (pages.Count == 0)
        {
            if (depth == 0 && request.IsSafe && site.Home is { Head.AddressWithoutParameters: { } alone } home)
                return Redirect(trace, $"The root leads to the home page, “{home.Name}”.", 302, alone);
            if (!request.IsSafe && target.HasOneTrailingSlash)
                pages = site.Paths.Match(target, depth - 1);
        }

        if (request.IsSafe && target.HasOneTrailingSlash && site.Paths.Match(target, depth - 1) is [var slashless, ..])
        {
            trace.Page = slashless;
            return Redirect(
                trace,
                "The path without its trailing slash is a page.",
                301,
                $"{site.Frame.Mount}{target.Path[..^1]}{target.QueryString}"
            );
        }

        if (site.Waiting.Count > 0 && Waiting(site, ref pages, depth, trace) is { } waits)
            return waits;
        if (pages.Count == 0)
        {
            trace.End(VisitStep.Match);
            return Answer.Of(new Outcome.NoPage(), Messages.NoPage(site, target));
        }

        page = ParameterReader.Choose(pages, target, out rival);
        asked = page.Head;
        if (page is FormerPage former)
            page = former.Now;
        trace.Page = page;
        trace.ReadsLatest = request.HasWritten || !request.IsSafe || page.Head.Definition.Writes;
        trace.End(VisitStep.Match);
        return null;
    }

    private static Answer NoAddress(Site site, RequestTarget target, VisitTrace trace)
    {
        if (target.Fault == TargetFault.OutsideMount)
        {
            trace.Why = $"The pages stand below {site.Frame.Mount}/, and this address does not.";
            return Answer.Of(new Outcome.NoPage(), Messages.NoPage(site, target));
        }

        trace.Why = $"The target is no address: {target.Fault}.";
        return Answer.Of(new Outcome.Malformed(null, KeyFault.WrongForm), Messages.BadTarget(site));
    }

    private static Answer Redirect(VisitTrace trace, string why, int status, string address)
    {
        trace.End(VisitStep.Match);
        trace.Why = why;
        return new Answer(new Outcome.NotCanonical(), status, null, address);
    }

    /// <summary>The answer where a page does not take the request as it is; null if it does.</summary>
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
        if (page.Head.DrawnAt is { } drawnAt && asked == page.Head && request is { IsSafe: true, WantsJson: false })
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

    /// <summary>Leaves the rest to the class of the page's kind.</summary>
    private ValueTask<Answer> VisitAsync(
        Site site,
        Page page,
        PageHead asked,
        VisitRequest request,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        if (page is DetailPage detail)
            return _details.RunAsync(site, detail, asked, request, trace, cancellation);
        if (page.Head.Definition.Writes)
        {
            if (_changes is not null)
                return _changes.RunAsync(site, page, asked, request, trace, cancellation);
            trace.Why = "Nothing can be changed here: there is no change log.";
            return new ValueTask<Answer>(
                Answer.Of(new Outcome.Unavailable(SourceTrouble.Away), Messages.Unavailable(site, page))
            );
        }

        if (asked != page.Head)
            return new ValueTask<Answer>(Former(page, asked, request.Target, trace));
        return page is ListPage list
            ? _lists.RunAsync(site, list, request, trace, cancellation)
            : _texts.RunAsync(site, (TextPage)page, request.Target, trace, cancellation);
    }

    /// <summary>
    /// The answer where nothing but waiting pages has this address; those are left out where others have it too.
    /// </summary>
    private static Answer? Waiting(Site site, ref IReadOnlyList<Page> pages, int depth, VisitTrace trace)
    {
        var first = pages.OfType<WaitingPage>().FirstOrDefault();
        if (first is null && (pages.Count > 0 || depth > 0))
            return null;
        pages = [.. pages.Where(page => page is not WaitingPage)];
        if (pages.Count > 0)
            return null;
        trace.End(VisitStep.Match);
        trace.Why = first is null
            ? "The home page's source has not answered since the service began."
            : $"The page “{first.Name}” waits for the source “{first.Source}”, which has not answered since the service began.";
        return Answer.Of(new Outcome.Unavailable(SourceTrouble.Away), Messages.Unavailable(site, null)) with
        {
            RetryAfterSeconds = 5,
        };
    }

    /// <summary>
    /// The same address under the path that the page has now: what stands in the query string in both stays as it is.
    /// </summary>
    private static Answer Former(Page page, PageHead asked, RequestTarget target, VisitTrace trace)
    {
        trace.Why = VisitTrace.FormerPath;
        var texts = new Dictionary<string, string>();
        foreach (
            var parameter in asked.Parameters.Where(parameter =>
                parameter.Segment >= 0 || !page.Head.Template.QueryParameters.Contains(parameter.Name)
            )
        )
        {
            var raw = ParameterReader.Read(target, parameter);
            if (raw.Text is not null)
                texts[parameter.Name] = raw.Text;
        }

        var address = page.Head.Builder.Build([
            .. page.Head.Template.Parameters.Select(name => texts.TryGetValue(name, out var text) ? new[] { text } : []),
        ]);
        if (address is null)
            return Answer.Of(new Outcome.Malformed(null, KeyFault.WrongForm), Messages.BadTarget(trace.Site!));
        var rest = ParameterReader.RestOfQuery(target, texts.Keys);
        return new Answer(
            new Outcome.NotCanonical(),
            301,
            null,
            rest.Length == 0 ? address : $"{address}{(address.Contains('?') ? '&' : '?')}{rest}"
        );
    }

    /// <summary>What is not even looked at: sent from elsewhere, or not to be read at all.</summary>
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
