using Jexa.Core.Audit;
using Jexa.Service.Browsing;

namespace Jexa.Service.Audit;

/// <summary>An audit of pages that a browser draws, with their scripts.</summary>
internal sealed class Drawing : IAsyncDisposable
{
    private readonly Uri _list;
    private readonly Chromium _browser;
    private readonly AuditBudget _budget;
    private readonly AuditNotes _notes;

    private Drawing(Uri list, Chromium browser, AuditBudget budget, RobotsRules robots, AuditNotes notes)
    {
        (_list, _browser, _budget, _notes) = (RouteAddress.Fold(list), browser, budget, notes);
        Client = new DrawnClient(browser, list, budget, robots);
    }

    public DrawnClient Client { get; }

    /// <summary>Begins one if it is asked for, or if the plain list has no records and may be drawn by script.</summary>
    /// <param name="plain">The plain answer at the list's address.</param>
    public static async Task<Drawing?> BeginAsync(
        Uri list,
        AuditAnswer plain,
        AuditBudget budget,
        RobotsRules robots,
        AuditNotes notes,
        CancellationToken cancellation
    )
    {
        var isNeeded =
            budget.Limits.Drawn == DrawnWhen.Always
            || (
                budget.Limits.Drawn == DrawnWhen.Auto
                && plain is { Status: < 400, Page: { } page }
                && page.QuerySelector("script") is not null
                && Auditor.GroupsOf(plain).Count == 0
            );
        if (!isNeeded)
            return null;
        if (Chromium.Find() is not { } program)
        {
            notes.Skip("its pages are drawn by script, and this machine has no Chromium to draw them with");
            return null;
        }

        try
        {
            return new Drawing(list, await Chromium.StartAsync(program, cancellation), budget, robots, notes);
        }
        catch (IOException refused)
        {
            notes.Skip($"its pages are drawn by script, and the browser does not start: {refused.Message}");
            return null;
        }
    }

    /// <param name="files">Asks for pictures.</param>
    public async Task RunAsync(PoliteClient files, CancellationToken cancellation)
    {
        try
        {
            var first = await Client.GetAsync(_list, cancellation);
            if (first.Page is not null && Auditor.GroupsOf(first).Count == 0)
                first = await new RowClicks(Client, _budget, _notes).RunAsync(_list, cancellation) ?? first;
            var auditor = new Auditor(Client, files, _budget, _notes);
            if (await auditor.RunAsync(_list, first, cancellation) is var (group, visits))
                await new ScriptExam(_list, group, Client, _budget, _notes).RunAsync(visits, cancellation);
        }
        catch (IOException refused)
        {
            _notes.Skip($"what was to be drawn then: {refused.Message}");
        }
    }

    public ValueTask DisposeAsync() => _browser.DisposeAsync();
}
