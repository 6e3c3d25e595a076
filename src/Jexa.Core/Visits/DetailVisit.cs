using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Visits one record: reads its ID, loads it, decides, and only then loads what stands around it.</summary>
internal sealed class DetailVisit
{
    private readonly QueryRunner _queries;
    private readonly ListCursor _cursors;
    private readonly RuntimeFindings _findings;
    private readonly ListVisit _lists;
    private readonly PlainLists _plains;
    private readonly NeighbourVisit _neighbours;

    public DetailVisit(QueryRunner queries, ListCursor cursors, RuntimeFindings findings, ListVisit lists)
    {
        (_queries, _cursors, _findings, _lists) = (queries, cursors, findings, lists);
        _plains = new PlainLists(cursors);
        _neighbours = new NeighbourVisit(queries, cursors, _plains);
    }

    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    public async ValueTask<Answer> RunAsync(
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
                refused ??= Answer.Say(new Outcome.Malformed(parameter.Name, reading.Fault), Messages.Malformed(site, page, parameter, raw, reading.Fault));
            else if (reading.Value is null)
                refused ??= Missing(site, page, parameter, request);
            else
                (keys[i], texts[i], canonical) = (reading.Value, raw.Text!, canonical && reading.IsCanonical);
        }

        foreach (var pair in target.Query)
            if (!asked.Template.QueryParameters.Contains(pair.Name) && pair.Name != ParameterReader.From) trace.AddIgnored(pair.Name);
        trace.End(VisitStep.Parse);
        if (refused is not null) return await WithListAsync(site, page, refused, target, trace, cancellation);
        if (asked != page.Head)
        {
            trace.Why = VisitRunner.FormerPath;
            return RedirectToCanonical(page, asked, target, keys);
        }

        if (canonical) return await LoadAsync(site, page, target, keys, texts, trace, cancellation);
        trace.Why = "The ID is a value, but not in its canonical spelling.";
        return RedirectToCanonical(page, asked, target, keys);
    }

    private async ValueTask<Answer> LoadAsync(
        Site site, DetailPage page, RequestTarget target, Constant[] keys, string[] texts, VisitTrace trace, CancellationToken cancellation)
    {
        var loans = _queries.Begin();
        try
        {
            var rows = loans.Lend(page.Lookup.Load.Width);
            await _queries.RunAsync(page.Lookup.Load, keys, rows, trace, cancellation);
            trace.End(VisitStep.Load);
            var decision = Loading.Decide(page.Lookup, rows, keys);
            trace.Why = decision.Why;
            switch (decision.Outcome)
            {
                case Outcome.Found:
                    var view = await AroundAsync(site, page, rows[decision.Row], target, loans, trace, cancellation);
                    trace.End(VisitStep.Decide);
                    var found = new Answer(decision.Outcome, 200, view) { Return = loans.Dispose };
                    loans = null;
                    return found;
                case Outcome.NotCanonical:
                    trace.End(VisitStep.Decide);
                    return RedirectToCanonical(page, page.Head, target, Loading.KeyOf(page.Lookup, rows[decision.Row]));
                case Outcome.Ambiguous:
                    trace.End(VisitStep.Decide);
                    _findings.AddAmbiguous(page, string.Join(", ", texts));
                    return await WithListAsync(site, page, Answer.Say(decision.Outcome, Messages.Ambiguous(site, page)), target, trace, cancellation);
                default:
                    trace.End(VisitStep.Decide);
                    return await WithListAsync(site, page, Answer.Say(decision.Outcome, Messages.Unknown(site, page, texts)), target, trace, cancellation);
            }
        }
        finally
        {
            loans?.Dispose();
        }
    }

    /// <summary>What stands around a record that has been found; a part that fails does so by itself.</summary>
    private async ValueTask<DetailView> AroundAsync(
        Site site, DetailPage page, Row row, RequestTarget target, RowLoans loans, VisitTrace trace, CancellationToken cancellation)
    {
        var ask = FromMark.Read(site, page.Record!, target, _cursors);
        var blocks = page.Blocks.Count == 0 ? [] : new BlockView[page.Blocks.Count];
        for (var i = 0; i < blocks.Length; i++) blocks[i] = await BlockAsync(page.Blocks[i], row, loans, trace, cancellation);
        var neighbours = await _neighbours.RunAsync(site, page, row, ask, loans, trace, cancellation);
        var beside = page.Beside is null ? null : await BesideAsync(site, page, row, ask, neighbours.Ask, loans, trace, cancellation);
        return new DetailView(site.Frame, page.Name, page.Shape, row, neighbours.Back ?? page.Shape.Back, neighbours.Previous, neighbours.Next, blocks)
        {
            Trail = Trails.Of(page.Trail, row),
            Beside = beside,
        };
    }

    private async ValueTask<BlockView> BlockAsync(BlockPlan block, Row row, RowLoans loans, VisitTrace trace, CancellationToken cancellation)
    {
        if (block.Query is not { } query) return new BlockView(block.Shape, null, default, null, false);
        var arguments = new Constant[block.Fillers.Count];
        for (var i = 0; i < arguments.Length; i++)
        {
            var filler = block.Fillers[i];
            if (!filler.Key.Holds(row[filler.Ordinal])) return new BlockView(block.Shape, loans.Lend(query.Width), new Total(0, true), null, false);
            arguments[i] = filler.Key.ValueOf(row, filler.Ordinal);
        }

        try
        {
            var rows = loans.Lend(query.Width);
            await _queries.RunAsync(query, arguments, rows, trace, cancellation);
            var count = rows.Count == 0 ? 0 : rows[0][query.Width - 1].Integer;
            using var address = new Utf8Buffer(128);
            var all = block.All?.TryWrite(row, address) == true ? new PlainLink(block.All.Page, block.All.Text, address.ToString()) : null;
            return new BlockView(block.Shape, rows, new Total(Math.Min(count, BlockPlan.CountLimit), count <= BlockPlan.CountLimit), all, false);
        }
        catch (SourceException)
        {
            return new BlockView(block.Shape, null, default, null, true);
        }
    }

    /// <summary>The list beside a record, at the window the visitor came from, or where the record is.</summary>
    /// <param name="placed">The list at the place of the record.</param>
    private async ValueTask<ListView?> BesideAsync(
        Site site, DetailPage page, Row row, ListAsk? came, ListAsk? placed, RowLoans loans, VisitTrace trace, CancellationToken cancellation)
    {
        try
        {
            var plain = PlainAsk(site, page);
            if (plain is null) return null;
            var ask = came?.Page == plain.Page ? came : plain;
            var view = await _lists.ViewAsync(site, ask, [], null, loans, trace, cancellation);
            var current = RowOf(page, view, row);
            if (current < 0 && placed is not null && placed.Page == plain.Page)
            {
                view = await _lists.ViewAsync(site, placed, [], null, loans, trace, cancellation);
                current = RowOf(page, view, row);
            }

            // A click keeps the window that is shown, whichever that is.
            return view with { CurrentRow = current, Sides = [], FromMark = view.FromMark.Length > 0 ? view.FromMark : plain.Page.Name };
        }
        catch (SourceException)
        {
            return null;
        }
    }

    /// <summary>An answer without a record keeps the list that would stand beside it.</summary>
    private async ValueTask<Answer> WithListAsync(Site site, DetailPage page, Answer answer, RequestTarget target, VisitTrace trace, CancellationToken cancellation)
    {
        if (page.Beside is null || answer.View is null || PlainAsk(site, page) is not { } plain) return answer;
        var loans = _queries.Begin();
        try
        {
            var came = FromMark.Read(site, page.Record!, target, _cursors);
            var view = await _lists.ViewAsync(site, came?.Page == plain.Page ? came : plain, [], null, loans, trace, cancellation);
            trace.End(VisitStep.Decide);
            var whole = answer with { View = answer.View with { Beside = view with { Sides = [], FromMark = view.FromMark.Length > 0 ? view.FromMark : plain.Page.Name } }, Return = loans.Dispose };
            loans = null;
            return whole;
        }
        catch (SourceException)
        {
            return answer;
        }
        finally
        {
            loans?.Dispose();
        }
    }

    private ListAsk? PlainAsk(Site site, DetailPage page) =>
        site.Find(page.Beside!.Name) is ListPage list ? _plains.Of(list) : null;

    /// <summary>Which row of a list is the record that is shown.</summary>
    private static int RowOf(DetailPage page, ListView view, Row record)
    {
        if (view.Shape.RecordLink is not { } link) return -1;
        using var own = new Utf8Buffer(128);
        using var other = new Utf8Buffer(128);
        if (link.Page != page.Name || !page.Shape.Own.TryWrite(record, own)) return -1;
        for (var i = 0; i < view.Rows.Count; i++)
        {
            other.Truncate(0);
            if (link.TryWrite(view.Rows[i], other) && other.Written.SequenceEqual(own.Written)) return i;
        }

        return -1;
    }

    private static Answer Missing(Site site, DetailPage page, PageParameter parameter, VisitRequest request)
    {
        var outcome = new Outcome.Missing(parameter.Name);
        if (!request.WantsJson && page.MissingPage is { } list)
            return new Answer(outcome, 302, null, ListAsk.With(list.Alone!, ParameterReader.Lacking, $"{page.Name}.{parameter.Name}"));
        var status = page.Ids.MissingStatus ?? (request.WantsJson ? 400 : 404);
        return Answer.Say(outcome, Messages.Missing(site, page, parameter, status));
    }

    /// <param name="asked">Under whose path the address was read: its parameters are not kept, all others are.</param>
    private static Answer RedirectToCanonical(DetailPage page, PageHead asked, RequestTarget target, Constant[] keys)
    {
        using var address = new Utf8Buffer(256);
        if (!page.Head.Builder.TryBuild(new KeyTexts(page, keys), address))
            throw new InvalidOperationException("A value that was read from an address could not be written into one.");
        var rest = ParameterReader.RestOfQuery(target, [.. asked.Template.QueryParameters]);
        var joint = rest.Length == 0 ? "" : page.Head.Template.QueryParameters.Count > 0 ? "&" : "?";
        return new Answer(new Outcome.NotCanonical(), 301, null, $"{address}{joint}{rest}");
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
