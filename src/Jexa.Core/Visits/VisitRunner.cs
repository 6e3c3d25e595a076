using System.Collections.Concurrent;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>
/// Runs visits, forward only: match, parse, load, decide, answer; the same for people and programs, lists and records.
/// Exactly one outcome each. Throws only where the visitor has left.
/// </summary>
public sealed class VisitRunner(TimeProvider clock, ListCursor cursors, RuntimeFindings findings)
{
    private const string FormerPath = "The page had this path before.";
    private const int KeptBlocks = 64;
    private const int LargestKeptBlock = 1024 * 1024;

    private readonly ConcurrentBag<RowBlock> _blocks = [];

    public async ValueTask<Answer> RunAsync(Site site, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        trace.Site = site;
        trace.Reading = request.Target;
        Answer answer;
        try
        {
            answer = await MatchAsync(site, request, trace, cancellation);
        }
        catch (SourceException trouble)
        {
            trace.Why = trouble.Message;
            answer = trouble.Trouble == SourceTrouble.Failed
                ? Say(new Outcome.Failed(), Messages.Failed(site, trace.Page))
                : Say(new Outcome.Unavailable(trouble.Trouble), Messages.Unavailable(site, trace.Page)) with { RetryAfterSeconds = 5 };
        }
        catch (Exception unforeseen) when (unforeseen is not OperationCanceledException || !cancellation.IsCancellationRequested)
        {
            return Failure(site, trace, unforeseen);
        }

        return Traced(answer, trace);
    }

    /// <summary>The answer to a visit that met something nobody foresaw, also while its page was being written.</summary>
    public static Answer Failure(Site site, VisitTrace trace, Exception unforeseen)
    {
        trace.Why = $"{unforeseen.GetType().Name}: {unforeseen.Message}";
        return Traced(Say(new Outcome.Failed(), Messages.Failed(site, trace.Page)), trace);
    }

    private static Answer Traced(Answer answer, VisitTrace trace)
    {
        trace.Outcome = answer.Outcome;
        trace.Status = answer.Status;
        trace.Location = answer.Location;
        return answer;
    }

    private async ValueTask<Answer> MatchAsync(Site site, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        var target = request.Target;
        var reads = request.Method is "GET" or "HEAD";
        if (target.Fault == TargetFault.OutsideMount)
        {
            trace.Why = $"The pages stand below {site.Frame.Mount}/, and this address does not.";
            return Say(new Outcome.NoPage(), Messages.NoPage(site, target));
        }

        if (target.Fault != TargetFault.None)
        {
            trace.Why = $"The target is no address: {target.Fault}.";
            return Say(new Outcome.Malformed(null, KeyFault.WrongForm), Messages.BadTarget(site));
        }

        if (target.Path.IsEmpty && reads)
        {
            trace.End(VisitStep.Match);
            trace.Why = "The mount itself leads to the root below it.";
            return new Answer(new Outcome.NotCanonical(), 301, null, $"{site.Frame.Mount}/{target.QueryString}");
        }

        if (target.IsReserved) return Reserved(site, target);
        var depth = target.Segments.Length;
        var pages = site.Paths.Match(target, depth);
        if (depth == 0 && pages.Count == 0 && site.Home is { } home && reads)
        {
            trace.End(VisitStep.Match);
            trace.Why = $"The root leads to the home page, “{home.Name}”.";
            return new Answer(new Outcome.NotCanonical(), 302, null, home.Head.Builder.Fixed);
        }

        var slashless = target.HasTrailingSlash && !HasEmptySegmentBefore(target) ? site.Paths.Match(target, depth - 1) : [];
        if (slashless.Count > 0 && reads)
        {
            trace.End(VisitStep.Match);
            trace.Page = slashless[0];
            trace.Why = "The path without its trailing slash is a page.";
            return new Answer(new Outcome.NotCanonical(), 301, null, $"{site.Frame.Mount}{target.Path[..^1]}{target.QueryString}");
        }

        if (pages.Count == 0) pages = slashless;
        if (pages.Count == 0)
        {
            trace.End(VisitStep.Match);
            return Say(new Outcome.NoPage(), Messages.NoPage(site, target));
        }

        var page = ParameterReader.Choose(pages, target);
        var asked = page.Head;
        if (page is FormerPage former) page = former.Now;
        trace.Page = page;
        trace.End(VisitStep.Match);
        if (!reads) return Say(new Outcome.NotAllowed(), Messages.NotAllowed(site, page)) with { Allow = "GET, HEAD" };
        if (page is DetailPage detail) return await ParseDetailAsync(site, detail, asked, request, trace, cancellation);
        if (asked == page.Head) return await ParseListAsync(site, (ListPage)page, request, trace, cancellation);
        trace.Why = FormerPath;
        return new Answer(new Outcome.NotCanonical(), 301, null, $"{page.Head.Builder.Fixed}{target.QueryString}");
    }

    private static Answer Reserved(Site site, RequestTarget target)
    {
        var unwritten = target.Segments.Length == 3 && target.Text(1).SequenceEqual(LinkCompiler.UnwrittenSegment);
        return Say(new Outcome.NoPage(), unwritten ? Messages.Unwritten(site, target.Text(2).ToString()) : Messages.NoPage(site, target));
    }

    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    private async ValueTask<Answer> ParseDetailAsync(
        Site site, DetailPage page, PageHead asked, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        var target = request.Target;
        var count = page.Parameters.Count;
        var keys = new Constant[count];
        var texts = new string[count];
        var canonical = true;
        Answer? refused = null;
        for (var i = 0; i < count; i++)
        {
            var parameter = page.Parameters[i];
            var raw = ParameterReader.Read(target, asked == page.Head ? parameter : asked.Parameters.First(p => p.Name == parameter.Name));
            var reading = raw.Fault != KeyFault.None ? KeyReading.Failed(raw.Fault)
                : string.IsNullOrEmpty(raw.Text) ? default : parameter.Key.Read(raw.Text);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None)
                refused ??= Say(new Outcome.Malformed(parameter.Name, reading.Fault), Messages.Malformed(site, page, parameter, raw, reading.Fault));
            else if (reading.Value is null)
                refused ??= Missing(site, page, parameter, request);
            else
                (keys[i], texts[i], canonical) = (reading.Value, raw.Text!, canonical && reading.IsCanonical);
        }

        NoteIgnored(target, asked.Template.QueryParameters, trace);
        trace.End(VisitStep.Parse);
        if (refused is not null) return refused;
        if (asked != page.Head)
        {
            trace.Why = FormerPath;
            return RedirectToCanonical(page, asked, target, keys);
        }

        if (canonical) return await LoadDetailAsync(site, page, request, keys, texts, trace, cancellation);
        trace.Why = "The ID is a value, but not in its canonical spelling.";
        return RedirectToCanonical(page, asked, target, keys);
    }

    private async ValueTask<Answer> LoadDetailAsync(
        Site site, DetailPage page, VisitRequest request, Constant[] keys, string[] texts, VisitTrace trace, CancellationToken cancellation)
    {
        var rows = Lend(page.Load.Width);
        try
        {
            await RunAsync(page.Load, keys, rows, trace, cancellation);
            trace.End(VisitStep.Load);
            var decision = Loading.Decide(page, rows, keys);
            trace.End(VisitStep.Decide);
            trace.Why = decision.Why;
            switch (decision.Outcome)
            {
                case Outcome.Found:
                    var found = new Answer(decision.Outcome, 200, new DetailView(site.Frame, page.Name, page.Shape, rows[decision.Row]))
                    {
                        Return = Returning(rows),
                    };
                    rows = null;
                    return found;
                case Outcome.NotCanonical:
                    return RedirectToCanonical(page, page.Head, request.Target, Loading.KeyOf(page, rows[decision.Row]));
                case Outcome.Ambiguous:
                    findings.AddAmbiguous(page, string.Join(", ", texts));
                    return Say(decision.Outcome, Messages.Ambiguous(site, page));
                default:
                    return Say(decision.Outcome, Messages.Unknown(site, page, texts));
            }
        }
        finally
        {
            if (rows is not null) GiveBack(rows);
        }
    }

    private async ValueTask<Answer> ParseListAsync(Site site, ListPage page, VisitRequest request, VisitTrace trace, CancellationToken cancellation)
    {
        var window = WindowReader.Read(page, request.Target, cursors, trace);
        NoteIgnored(request.Target, [ParameterReader.After, ParameterReader.Before, ParameterReader.Lacking], trace);
        trace.End(VisitStep.Parse);
        return window.Fault != KeyFault.None
            ? Say(new Outcome.Malformed(window.Control, window.Fault), Messages.MalformedControl(site, page, window.Control, window.Fault))
            : await LoadListAsync(site, page, request, window, trace, cancellation);
    }

    private async ValueTask<Answer> LoadListAsync(
        Site site, ListPage page, VisitRequest request, WindowRequest window, VisitTrace trace, CancellationToken cancellation)
    {
        var rows = Lend(page.Windows.Width);
        var counted = Lend(1);
        try
        {
            await RunAsync(page.Count, [], counted, trace, cancellation);
            var count = counted[0][0].Integer;
            var total = new Total(Math.Min(count, page.CountLimit), count <= page.CountLimit);
            await FillAsync(window.Queries(page), rows, trace, cancellation);
            if (window.Backwards && rows.Count <= ListPage.WindowSize)
            {
                // It reaches the beginning: what is shown is the first window, whole.
                window = WindowRequest.Start;
                rows.Reset(page.Windows.Width);
                await FillAsync(window.Queries(page), rows, trace, cancellation);
            }

            trace.End(VisitStep.Load);
            NoteUnlinked(page, rows);
            var view = WindowReader.View(site, page, window, rows, total, cursors, Notice(site, page, request.Target));
            trace.End(VisitStep.Decide);
            var answer = new Answer(new Outcome.Listed(), 200, view) { Return = Returning(rows) };
            rows = null;
            return answer;
        }
        finally
        {
            GiveBack(counted);
            if (rows is not null) GiveBack(rows);
        }
    }

    /// <summary>Runs a window's queries in turn until there is one row more than it shows.</summary>
    private async ValueTask FillAsync(IEnumerable<WindowQuery> queries, RowBlock rows, VisitTrace trace, CancellationToken cancellation)
    {
        foreach (var query in queries)
        {
            await RunAsync(query.Query, query.Arguments, rows, trace, cancellation);
            if (rows.Count > ListPage.WindowSize) return;
        }
    }

    private async ValueTask RunAsync(
        IPreparedQuery query, IReadOnlyList<Constant> arguments, RowBlock rows, VisitTrace trace, CancellationToken cancellation)
    {
        var started = clock.GetTimestamp();
        var before = rows.Count;
        try
        {
            await query.RunAsync(arguments, rows, cancellation);
        }
        catch (SourceException)
        {
            trace.Add(query, arguments, null, 0, started);
            throw;
        }

        trace.Add(query, arguments, rows, rows.Count - before, started);
    }

    private static Answer Missing(Site site, DetailPage page, PageParameter parameter, VisitRequest request)
    {
        var outcome = new Outcome.Missing(parameter.Name);
        if (!request.WantsJson && page.MissingPage is { } list)
            return new Answer(outcome, 302, null, $"{list.Builder.Fixed}?{ParameterReader.Lacking}={page.Name}.{parameter.Name}");
        var status = page.Ids.MissingStatus ?? (request.WantsJson ? 400 : 404);
        return Say(outcome, Messages.Missing(site, page, parameter, status));
    }

    /// <param name="asked">Under whose path the address was read: its parameters are not kept, all others are.</param>
    private static Answer RedirectToCanonical(DetailPage page, PageHead asked, RequestTarget target, Constant[] keys)
    {
        using var address = new Utf8Buffer(256);
        if (!page.Head.Builder.TryBuild(new KeyTexts(page, keys), address))
            throw new InvalidOperationException("A value that was read from an address could not be written into one.");
        var rest = ParameterReader.RestOfQuery(target, asked.Template.QueryParameters);
        var joint = rest.Length == 0 ? "" : page.Head.Template.QueryParameters.Count > 0 ? "&" : "?";
        return new Answer(new Outcome.NotCanonical(), 301, null, $"{address}{joint}{rest}");
    }

    /// <summary>Why the visitor was led to this list, if a page's missing ID led here.</summary>
    private static string? Notice(Site site, ListPage page, RequestTarget target)
    {
        if (ParameterReader.FromQuery(target, ParameterReader.Lacking) is not { Fault: KeyFault.None, Text: { } lacking }) return null;
        var point = lacking.LastIndexOf('.');
        if (point < 0 || site.Find(lacking[..point]) is not DetailPage from || from.MissingPage?.Name != page.Name) return null;
        return from.Parameters.FirstOrDefault(p => p.Name == lacking[(point + 1)..]) is { } parameter ? Messages.Lacking(from, parameter) : null;
    }

    /// <summary>A row whose key is of another storage class is listed without a link; the developer gets a finding.</summary>
    private void NoteUnlinked(ListPage page, RowBlock rows)
    {
        if (page.Shape.RecordLink is not { } link) return;
        for (var i = 0; i < rows.Count; i++)
        {
            if (link.Fits(rows[i])) continue;
            findings.AddUnlinked(page);
            return;
        }
    }

    private static void NoteIgnored(RequestTarget target, IReadOnlyList<string> read, VisitTrace trace)
    {
        foreach (var pair in target.Query)
            if (!read.Contains(pair.Name)) trace.AddIgnored(pair.Name);
    }

    private static bool HasEmptySegmentBefore(RequestTarget target)
    {
        foreach (var segment in target.Segments[..^1])
            if (segment.Length == 0) return true;
        return false;
    }

    private static Answer Say(Outcome outcome, MessageView message) => new(outcome, message.Status, message);

    private RowBlock Lend(int width)
    {
        var rows = _blocks.TryTake(out var kept) ? kept : new RowBlock();
        rows.Reset(width);
        return rows;
    }

    private Action Returning(RowBlock rows) => () => GiveBack(rows);

    private void GiveBack(RowBlock rows)
    {
        if (_blocks.Count < KeptBlocks && rows.Capacity <= LargestKeptBlock) _blocks.Add(rows);
    }

    private readonly struct KeyTexts(DetailPage page, Constant[] keys) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(page.Parameters[parameter].Key.Write(keys[parameter]));
            return true;
        }
    }
}
