using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>Visits a list: reads the question, looks up the records that its parameters name, and loads one window.</summary>
internal sealed class ListVisit(QueryRunner queries, ListCursor cursors, RuntimeFindings findings)
{
    private readonly SideVisit _sides = new(queries);
    private readonly PartBudget _budget = new(queries);
    private readonly ConditionalWeakTable<ListPage, ListControls> _plainControls = [];

    public async ValueTask<Answer> RunAsync(Visit visit, ListPage page)
    {
        var (target, trace) = (visit.Target, visit.Trace);
        var (ask, fault) = ListReader.Read(
            page,
            target.Query,
            parameter => ParameterReader.Read(target, parameter),
            cursors,
            trace
        );
        NoteIgnored(page, target, trace);
        trace.End(VisitStep.Parse);
        if (fault is not null)
            return Refused(visit, page, fault);
        if (!ask!.IsCanonical)
        {
            trace.Why = "The list is asked for in another spelling than the canonical one, or by controls that say nothing.";
            return Canonical(ask, target);
        }

        var parents = new Row?[page.Parents.Count];
        for (var i = 0; i < parents.Length; i++)
        {
            var (row, refused) = await ParentAsync(visit, ask, page.Parents[i]);
            if (refused is not null)
                return refused;
            parents[i] = row;
        }

        var view = await ViewAsync(visit, ask, parents, Notice(visit.Site, page, target));
        trace.End(VisitStep.Decide);
        return new Answer(new Outcome.Listed(), 200, view);
    }

    private static void NoteIgnored(ListPage page, RequestTarget target, VisitTrace trace)
    {
        foreach (var pair in target.Query)
            if (
                !page.Head.Template.QueryParameters.Contains(pair.Name)
                && !ParameterReader.Controls.Contains(pair.Name)
                && pair.Name != ParameterReader.Lacking
            )
                trace.AddIgnored(pair.Name);
    }

    /// <summary>One window of a list, on its own page or beside a record.</summary>
    /// <param name="parents">
    /// The rows of the records that the parameters name, null for absent ones; empty beside a record.
    /// </param>
    public async ValueTask<ListView> ViewAsync(Visit visit, ListAsk ask, Row?[] parents, string? notice)
    {
        var page = ask.Page;
        var query = ask.Query;
        var counted = visit.Rows.Lend(1);
        var showsNone = visit.Request.ShowsNoRows;
        var isCounted =
            !showsNone && await _budget.RunAsync(page.Record!, new WindowQuery(query.Count, query.Arguments), counted, visit);
        var shown = await LoadAsync(
            visit,
            ask,
            showsNone ? new Total(0, true)
                : isCounted ? Total.Of(counted[0][0].Integer, page.Plan.CountLimit)
                : null
        );
        NoteUnlinked(page, shown.Rows);
        var sides = parents.Length == page.Parents.Count && !showsNone ? await _sides.RunAsync(visit, ask) : [];
        return new ListView(
            visit.Site.Frame,
            page.Name,
            page.Shape,
            Heading(ask, parents),
            shown.Rows,
            shown.Total,
            shown.Rows.Count == 0 ? null : shown.From,
            shown.Links,
            shown.HasUnreachable,
            notice,
            ask.IsUnasked ? _plainControls.GetValue(page, _ => Controls(ask)) : Controls(ask),
            sides
        )
        {
            Trail = Trail(page, parents),
            FromMark = Mark(ask, shown.Window),
            Add = Add(ask),
        };
    }

    /// <param name="total">Null if counting took too long.</param>
    private async ValueTask<ShownWindow> LoadAsync(Visit visit, ListAsk ask, Total? total)
    {
        var query = ask.Query;
        var rows = visit.Rows.Lend(query.Windows.Width);
        var window = ask.Window;
        await FillAsync(visit, window, query, rows);
        if (window.Backwards && rows.Count <= query.Size)
        {
            // It reaches the beginning: the whole first window is shown instead.
            window = WindowRequest.Start;
            rows.Reset(query.Windows.Width);
            await FillAsync(visit, window, query, rows);
        }

        visit.Trace.End(VisitStep.Load);
        var more = rows.Count > query.Size;
        while (rows.Count > query.Size)
            rows.DropLastRow();
        if (window.Backwards)
            rows.Reverse();
        var (isFirst, isLast) = window.Backwards ? (!more, window.Place is null) : (window.Place is null, !more);
        var from = WindowReader.From(window, rows.Count, total ?? default, isFirst, isLast);
        var previous = isFirst || rows.Count == 0 ? null : cursors.Write(query, rows[0], from ?? -1);
        var next =
            isLast || rows.Count == 0
                ? null
                : cursors.Write(query, rows[rows.Count - 1], from is { } first ? first + rows.Count - 1 : -1);
        var address = ask.Address();
        var links = new WindowLinks(
            isFirst ? null : address,
            previous is null ? null : AddressQuery.With(address, ParameterReader.Before, previous),
            next is null ? null : AddressQuery.With(address, ParameterReader.After, next),
            isLast ? null : AddressQuery.With(address, ParameterReader.Before, ParameterReader.End)
        );
        // If the rows were not counted, there are at least those up to the end of the window.
        return new ShownWindow(
            rows,
            window,
            from,
            total ?? new Total((from ?? 1) + rows.Count - 1, isLast && from is not null),
            links,
            !isLast && next is null
        );
    }

    /// <summary>The link to a new record that belongs to the records in the list's address.</summary>
    private static PlainLink? Add(ListAsk ask)
    {
        if (ask.Page.Add is not { } add)
            return null;
        var texts = add.From.Select(number => number < 0 ? [] : ask.Texts[number]).ToArray();
        return
            add.Page.Builder.Build(texts) is { } address
            && add.From.Where((_, i) => add.Page.Parameters[i].Required && texts[i].Count == 0).Any() == false
            ? new PlainLink(add.Page.Name, add.Text, address)
            : null;
    }

    /// <summary>The records above the nearest record that the address names.</summary>
    private static IReadOnlyList<PlainLink> Trail(ListPage page, Row?[] parents)
    {
        for (var i = parents.Length - 1; i >= 0; i--)
            if (parents[i] is { } row)
                return Trails.Of(page.Parents[i].Trail, row);
        return [];
    }

    /// <summary>What the list's own links say about it: nothing if its bare address leads back here.</summary>
    public static string Mark(ListAsk ask, WindowRequest window)
    {
        var isStart = window == WindowRequest.Start || ask.WindowText is null;
        if (isStart && ask.Page.IsOwnList && (ask with { Window = WindowRequest.Start }).IsPlain)
            return "";
        return FromMark.Write(
            ask,
            isStart ? null : (window.Backwards ? ParameterReader.Before : ParameterReader.After, ask.WindowText!)
        );
    }

    private async ValueTask FillAsync(Visit visit, WindowRequest window, ListQuery query, RowBlock rows)
    {
        if (visit.Request.ShowsNoRows)
            return;
        foreach (var part in window.Queries(query))
        {
            await queries.RunAsync(part.Query, part.Arguments, rows, visit);
            if (rows.Count > query.Size)
                return;
        }
    }

    /// <summary>
    /// The row of a record that the list's parameters name, or the answer if it does not exist or may not be seen.
    /// </summary>
    private async ValueTask<(Row? Row, Answer? Refused)> ParentAsync(Visit visit, ListAsk ask, ParentPlan parent)
    {
        var values = ask.Request.Values;
        if (parent.Parameters.Any(number => !values.Has(number)))
            return default;
        var (decision, rows, keys) = await LookUpAsync(visit, parent, values);
        if (decision.Outcome is Outcome.Found)
            return (rows[decision.Row], null);
        visit.Trace.End(VisitStep.Load);
        visit.Trace.Why = $"The {parent.Record.One} that the address names: {decision.Why}";
        if (decision.Outcome is Outcome.NotCanonical)
        {
            var exact = Loading.KeyOf(parent.Lookup, rows[decision.Row]);
            var texts = ask.Texts.ToArray();
            for (var i = 0; i < exact.Length; i++)
                texts[parent.Parameters[i]] = [parent.Lookup.Keys[i].Write(exact[i])];
            return (default, Canonical(ask with { Texts = texts }, visit.Target));
        }

        if (decision.Outcome is Outcome.Ambiguous)
            findings.AddAmbiguous(ask.Page, string.Join(", ", keys.Select(key => key.ToString())));
        return (
            default,
            Answer.Of(
                decision.Outcome,
                decision.Outcome is Outcome.Ambiguous
                    ? Messages.AmbiguousParent(visit.Site, ask.Page, parent)
                    : Messages.UnknownParent(visit.Site, ask.Page, parent, ask.Texts)
            )
        );
    }

    /// <summary>
    /// Whether the records that a list's parameters name exist and may be seen. If not, the visitor could not open the list.
    /// </summary>
    public async ValueTask<bool> CanOpenAsync(Visit visit, ListAsk ask)
    {
        var values = ask.Request.Values;
        foreach (var parent in ask.Page.Parents.Where(parent => parent.Parameters.All(values.Has)))
        {
            if ((await LookUpAsync(visit, parent, values)).Decision.Outcome is not Outcome.Found)
                return false;
        }

        return true;
    }

    private async ValueTask<(LoadDecision Decision, RowBlock Rows, TypedValue[] Keys)> LookUpAsync(
        Visit visit,
        ParentPlan parent,
        ParameterValues values
    )
    {
        var keys = parent.Parameters.Select(values.One).ToArray();
        var rows = visit.Rows.Lend(parent.Lookup.Load.Width);
        await queries.RunAsync(parent.Lookup.Load, keys, rows, visit);
        return (Loading.Decide(parent.Lookup, rows, keys), rows, keys);
    }

    private static string Heading(ListAsk ask, Row?[] parents)
    {
        var plan = ask.Page.Heading;
        if (plan.Pieces.Count == 0)
            return plan.Fallback;
        using var text = new Utf8Buffer(64);
        foreach (var piece in plan.Pieces)
        {
            if (piece.Literal is { } literal)
                text.Append(literal);
            else if (!ask.Request.Values.Has(piece.Parameter))
                return plan.Fallback;
            else if (piece.Parent >= 0 && piece.Parent < parents.Length && parents[piece.Parent] is { } parent)
                ask.Page.Parents[piece.Parent].Label.Write(parent, text);
            else
                text.Append(string.Join(", ", ask.Texts[piece.Parameter].Select(value => Shown(piece, value))));
        }

        return text.ToString();
    }

    /// <summary>A parameter's value as its field shows it.</summary>
    private static string Shown(HeadingPiece piece, string text)
    {
        var style = piece.Field!.Style;
        if (piece.Key == DatePartKey.Month)
            return style.Conventions.MonthAlone(int.Parse(text));
        return style.Choices.TryGetValue(text, out var label) ? label : text;
    }

    private static ListControls Controls(ListAsk ask)
    {
        var page = ask.Page;
        var kept = new List<(string, string)>();
        for (var i = 0; i < page.Parameters.Count; i++)
            if (page.Parameters[i].Segment < 0)
                kept.AddRange(ask.Texts[i].Select(text => (page.Parameters[i].Name, text)));
        var action = page.Head.Builder.Build([.. ask.Texts.Select((texts, i) => page.Parameters[i].Segment < 0 ? [] : texts)])!;
        IReadOnlyList<OrderStep> now = ask.Request.Order is { } asked ? [asked] : page.Plan.OwnOrder;
        var orders = page
            .Shape.Columns.Where(column => column.OrderName is not null)
            .Select(column =>
            {
                var own =
                    page.Plan.OwnOrder is [var only] && page.Plan.Orders[only.Choice].Name == column.OrderName
                        ? only
                        : (OrderStep?)null;
                var direction =
                    now.Count > 0 && page.Plan.Orders[now[0].Choice].Name == column.OrderName
                        ? now[0].Descending
                            ? -1
                            : 1
                        : 0;
                var order = (direction == 1 ? "-" : "") + column.OrderName;
                var isOwn = own is { } step && step.Descending == (direction == 1);
                return new OrderLink(column.OrderName!, column.Label, direction, ask.Address(ask.Texts, isOwn ? "" : order));
            })
            .ToList();
        var narrowed =
            ask.Find is not null
            || page.Parameters.Select((parameter, i) => !parameter.Required && ask.Texts[i].Count > 0).Any(given => given);
        return new ListControls(
            action,
            kept,
            page.Plan.CanSearch ? ask.Find ?? "" : null,
            orders,
            ask.Order,
            page.Sizes,
            ask.Request.Size,
            page.Size,
            narrowed,
            ask.IsUnasked
        );
    }

    private static Answer Canonical(ListAsk ask, RequestTarget target)
    {
        var address = ask.WindowAddress;
        var rest = ParameterReader.RestOfQuery(target, [.. ask.Page.Head.Template.QueryParameters, .. ParameterReader.Controls]);
        return new Answer(new Outcome.NotCanonical(), 301, null, AddressQuery.WithRest(address, rest));
    }

    private static Answer Refused(Visit visit, ListPage page, ListFault fault)
    {
        var parameter = page.Parameters.FirstOrDefault(parameter => parameter.Name == fault.Name);
        if (!fault.IsMissing)
            return Answer.Of(
                new Outcome.Malformed(fault.Name, fault.Fault),
                parameter is null
                    ? Messages.MalformedControl(visit.Site, page, fault)
                    : Messages.MalformedParameter(visit.Site, page, parameter, fault)
            );
        var outcome = new Outcome.Missing(fault.Name);
        if (visit.Request.Reader == Reader.Person && page.MissingPage is { } list)
            return MissingParameters.LeadTo(list, page, outcome);
        var status = MissingParameters.StatusFor(visit.Request, page.Head.Definition.Ids.MissingStatus);
        return Answer.Of(outcome, Messages.MissingParameter(visit.Site, page, parameter!, status));
    }

    /// <summary>Why the visitor was sent to this list, if an address without a parameter led here.</summary>
    private static string? Notice(Site site, ListPage page, RequestTarget target)
    {
        if (ParameterReader.FromQuery(target.Query, ParameterReader.Lacking) is not { Fault: KeyFault.None, Text: { } lacking })
            return null;
        var point = lacking.LastIndexOf('.');
        if (point < 0 || site.Find(lacking[..point]) is not { } from)
            return null;
        if (from.Parameters.FirstOrDefault(p => p.Name == lacking[(point + 1)..]) is not { } parameter)
            return null;
        return from switch
        {
            NewPage fresh when fresh.MissingPage?.Name == page.Name => Messages.LackingParent(fresh, parameter),
            RecordPage detail when detail.MissingPage?.Name == page.Name => Messages.Lacking(detail, parameter),
            ListPage list when list.MissingPage?.Name == page.Name => Messages.LackingFilter(
                list,
                parameter,
                page.Record == list.Record
            ),
            _ => null,
        };
    }

    /// <summary>A row whose key has another storage class is listed without a link. The developer gets a finding.</summary>
    private void NoteUnlinked(ListPage page, RowBlock rows)
    {
        if (page.Shape.RecordLink is not { } link)
            return;
        for (var i = 0; i < rows.Count; i++)
        {
            if (link.Fits(rows[i]))
                continue;
            findings.AddUnlinked(page);
            return;
        }
    }
}
