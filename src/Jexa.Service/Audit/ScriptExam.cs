using System.Text.Json;
using Jexa.Core.Audit;
using Jexa.Core.Definitions;
using Jexa.Service.Browsing;

namespace Jexa.Service.Audit;

/// <summary>
/// Examines an application whose pages follow each other without a new document: whether it shows what the address says when
/// only the ID changes, when answers come late, and on the way back.
/// </summary>
/// <param name="list">The address of the list.</param>
/// <param name="group">The links of its rows.</param>
internal sealed class ScriptExam(Uri list, LinkGroup group, DrawnClient drawn, AuditBudget budget, AuditNotes notes)
{
    /// <summary>How long a page may take to show that it waits.</summary>
    private static readonly TimeSpan Moment = TimeSpan.FromMilliseconds(300);

    /// <summary>Whether anything but menus, head and foot stands on the page, or shows that it is loading.</summary>
    private const string ShowsSomething = """
        (() => {
          const bare = document.body.cloneNode(true);
          for (const around of bare.querySelectorAll('nav, header, footer, script, style, template, noscript')) around.remove();
          return bare.textContent.trim().length > 2
            || bare.querySelector('[aria-busy=true], [role=status], [role=progressbar], progress, svg, canvas, img') !== null;
        })()
        """;

    private readonly RowComparison _comparison = new(group.Rows);

    /// <param name="visits">The pages of rows; those that are right are gone to.</param>
    public async Task RunAsync(IReadOnlyList<RecordVisit> visits, CancellationToken cancellation)
    {
        Told(visits);
        var rows = visits.Where(visit => visit.IsRight).Select(visit => visit.Row).Take(3).ToList();
        if (rows.Count < 2 || budget.IsOver is not null)
        {
            notes.Skip($"{group.Pattern}: too few right records to go from one to another");
            return;
        }

        try
        {
            await WaitAsync(rows[0], cancellation);
            await using var tab = await drawn.OpenAsync(cancellation);
            await drawn.AtAsync(tab, list, cancellation);
            if (!await ClickAsync(tab, rows[0], cancellation))
                return;
            await BackAsync(tab, rows[0], cancellation);
            await StaleAsync(tab, rows, cancellation);
            await LateAsync(tab, rows, cancellation);
            await BesideAsync(rows, cancellation);
        }
        catch (IOException refused)
        {
            notes.Skip($"going from one record to another: {refused.Message}");
        }
    }

    /// <summary>What the browser told while the records were drawn by themselves.</summary>
    private void Told(IReadOnlyList<RecordVisit> visits)
    {
        foreach (var visit in visits.Where(visit => visit.Answer.Drawn is not null))
        {
            if (visit.Answer.Drawn!.Errors.Count > 0)
                Tell(ProofCodes.AuditScriptError, "row", visit.Row, $"“{AuditNotes.Cut(visit.Answer.Drawn.Errors[0])}”");
            if (visit.Answer.Drawn.Twice.Count > 0)
                Tell(ProofCodes.AuditLoadsTwice, "row", visit.Row, $"{visit.Answer.Drawn.Twice[0]} is asked for twice");
        }
    }

    /// <summary>What stands on a page as long as its data has not come.</summary>
    private async Task WaitAsync(ListRow row, CancellationToken cancellation)
    {
        await using var tab = await drawn.OpenAsync(cancellation);
        tab.Holds = true;
        await drawn.AtAsync(tab, row.Address, cancellation);
        await Task.Delay(Moment, cancellation);
        if (tab.Held > 0 && (await tab.EvaluateAsync(ShowsSomething, cancellation)).ValueKind == JsonValueKind.False)
            await TellAsync(
                tab,
                ProofCodes.AuditBlank,
                "waiting",
                row.Address,
                "nothing stands there, and nothing says that it is loading",
                cancellation
            );
        await tab.ReleaseAsync(cancellation);
    }

    /// <summary>Clicks on a row. Gives whether the page went on without a new document, and is right.</summary>
    private async Task<bool> ClickAsync(Tab tab, ListRow row, CancellationToken cancellation)
    {
        await tab.EvaluateAsync("window.jexaWasHere = true", cancellation);
        var address = JsonSerializer.Serialize(RouteAddress.Unfold(row.Address).AbsoluteUri);
        var clicked = await tab.EvaluateAsync(
            $$"""
            (() => {
              const link = [...document.querySelectorAll('a[href]')].find((one) => one.href === {{address}});
              link?.click();
              return link !== undefined;
            })()
            """,
            cancellation
        );
        if (clicked.ValueKind != JsonValueKind.True)
            await MoveAsync(tab, row.Address, cancellation);
        await tab.RestAsync(cancellation);
        if ((await tab.EvaluateAsync("window.jexaWasHere === true", cancellation)).ValueKind != JsonValueKind.True)
            return false;
        if ((await tab.AddressAsync(cancellation)).AbsoluteUri is var at && at != RouteAddress.Unfold(row.Address).AbsoluteUri)
            await TellAsync(
                tab,
                ProofCodes.AuditNoAddress,
                "click",
                row.Address,
                $"a click on its row leads to {new Uri(at).PathAndQuery}",
                cancellation
            );
        if (await ShownAsync(tab, row, cancellation) is { } shown)
            await TellAsync(
                tab,
                ProofCodes.AuditWrongRecord,
                "click",
                row.Address,
                $"a click on its row shows {shown}",
                cancellation
            );
        return true;
    }

    /// <summary>Back to the list, and forward again.</summary>
    private async Task BackAsync(Tab tab, ListRow row, CancellationToken cancellation)
    {
        await tab.EvaluateAsync("history.back()", cancellation);
        await tab.RestAsync(cancellation);
        var there = await DrawnClient.ReadAsync(tab, list, cancellation);
        if (!Auditor.GroupsOf(there).Any(one => one.IsLike(group)) && !await ShowsRowsAsync(tab, cancellation))
        {
            await TellAsync(tab, ProofCodes.AuditBack, "back", list, "back from a record, the list is not there", cancellation);
            await drawn.AtAsync(tab, list, cancellation);
            await ClickAsync(tab, row, cancellation);
            return;
        }

        await tab.EvaluateAsync("history.forward()", cancellation);
        await tab.RestAsync(cancellation);
        if (await ShownAsync(tab, row, cancellation) is { } shown)
            await TellAsync(
                tab,
                ProofCodes.AuditBack,
                "forward",
                row.Address,
                $"forward to the record, there is {shown}",
                cancellation
            );
    }

    private async Task<bool> ShowsRowsAsync(Tab tab, CancellationToken cancellation)
    {
        var answer = await DrawnClient.ReadAsync(tab, list, cancellation);
        var text = new PageText(answer.Page?.Body is { } body ? PageText.Of(body) : "");
        return group.Rows.Count(row => _comparison.Score(row, text) >= RowComparison.Enough) >= group.Rows.Count / 2;
    }

    /// <summary>Only the ID in the address changes.</summary>
    private async Task StaleAsync(Tab tab, IReadOnlyList<ListRow> rows, CancellationToken cancellation)
    {
        await MoveAsync(tab, rows[1].Address, cancellation);
        await tab.RestAsync(cancellation);
        if (await ShownAsync(tab, rows[1], cancellation) is { } shown)
            await TellAsync(
                tab,
                ProofCodes.AuditStale,
                "another ID",
                rows[1].Address,
                $"reached from another record, it shows {shown}",
                cancellation
            );
    }

    /// <summary>Two records one after the other; the data of the first comes last.</summary>
    private async Task LateAsync(Tab tab, IReadOnlyList<ListRow> rows, CancellationToken cancellation)
    {
        var (late, last) = (rows[^1] == rows[1] ? rows[0] : rows[^1], rows[1] == rows[^1] ? rows[1] : rows[0]);
        tab.Holds = true;
        await MoveAsync(tab, late.Address, cancellation);
        await tab.RestAsync(cancellation);
        var held = tab.Held;
        tab.Holds = false;
        await MoveAsync(tab, last.Address, cancellation);
        await tab.RestAsync(cancellation);
        if (await ShownAsync(tab, last, cancellation) is not null)
            return;
        await tab.ReleaseAsync(cancellation);
        await tab.RestAsync(cancellation);
        if (held > 0 && await ShownAsync(tab, last, cancellation) is { } shown)
            await TellAsync(
                tab,
                ProofCodes.AuditLateAnswer,
                "late answer",
                last.Address,
                $"after a late answer for {RouteAddress.Shown(late.Address)} it shows {shown}",
                cancellation
            );
    }

    /// <summary>Two records in two tabs of one person: each shows its own, also when the first one is loaded again.</summary>
    private async Task BesideAsync(IReadOnlyList<ListRow> rows, CancellationToken cancellation)
    {
        await using var first = await drawn.OpenAsync(cancellation);
        await drawn.AtAsync(first, rows[0].Address, cancellation);
        await using var second = await drawn.OpenAsync(cancellation, beside: first);
        await drawn.AtAsync(second, rows[1].Address, cancellation);
        if (await ShownAsync(second, rows[1], cancellation) is { } shown)
        {
            var says = $"in a tab beside that of {RouteAddress.Shown(rows[0].Address)} it shows {shown}";
            await TellAsync(second, ProofCodes.AuditEarlierVisit, "second tab", rows[1].Address, says, cancellation);
            return;
        }

        await drawn.AtAsync(first, rows[0].Address, cancellation, isFresh: true);
        if (await ShownAsync(first, rows[0], cancellation) is { } other)
        {
            var says = $"loaded again beside a tab of {RouteAddress.Shown(rows[1].Address)} it shows {other}";
            await TellAsync(first, ProofCodes.AuditEarlierVisit, "second tab", rows[0].Address, says, cancellation);
        }
    }

    /// <summary>Changes the address as back and forward do: the page is told of it by the browser itself.</summary>
    private static async Task MoveAsync(Tab tab, Uri address, CancellationToken cancellation)
    {
        var url = JsonSerializer.Serialize(RouteAddress.Unfold(address).AbsoluteUri);
        if (RouteAddress.IsFolded(address))
        {
            await tab.EvaluateAsync($"location.href = {url}", cancellation);
            return;
        }

        await tab.EvaluateAsync(
            $"new Promise((done) => {{ const at = location.href; history.pushState(null, '', {url}); "
                + "history.pushState(null, '', at); addEventListener('popstate', () => done(true), { once: true }); "
                + "history.back(); setTimeout(() => done(false), 2000); })",
            cancellation
        );
    }

    /// <summary>What is shown instead of a row's record; null if that is shown.</summary>
    private async Task<string?> ShownAsync(Tab tab, ListRow row, CancellationToken cancellation)
    {
        var answer = await DrawnClient.ReadAsync(tab, row.Address, cancellation);
        if (RecordVisit.Of(group, _comparison, row, answer) is not { } visit)
            return "no page";
        return visit.IsRight ? null
            : visit.Best is { } best && best != row && _comparison.Score(best, visit.Text) >= RowComparison.Enough
                ? AuditNotes.Shown(best)
            : "nothing of it";
    }

    private void Tell(FindingCode code, string kind, ListRow row, string says) =>
        notes.Tell(code, group.Pattern, kind, row.Address, says);

    /// <summary>Tells of what stands in a tab at this moment, with a picture of it.</summary>
    private async Task TellAsync(Tab tab, FindingCode code, string kind, Uri address, string says, CancellationToken cancellation)
    {
        await drawn.KeepPictureAsync(tab, address, cancellation);
        notes.Tell(code, group.Pattern, kind, address, says);
    }
}
