using Jexa.Core.Audit;
using Jexa.Service.Browsing;

namespace Jexa.Service.Audit;

/// <summary>
/// Asks an application as a browser does, with its scripts: each time as somebody who was never there. What pages ask for by
/// themselves is sent only if it changes nothing, is on the same origin, and is not forbidden.
/// </summary>
internal sealed class DrawnClient : IPageAsker
{
    private readonly Chromium _browser;
    private readonly AuditBudget _budget;
    private readonly RobotsRules _robots;
    private readonly Uri _origin;
    private readonly Dictionary<string, byte[]> _pictures = [];
    private readonly Dictionary<string, int> _withheld = [];
    private Tab? _tab;

    public DrawnClient(Chromium browser, Uri start, AuditBudget budget, RobotsRules robots) =>
        (_browser, _origin, _budget, _robots) = (browser, start, budget, robots);

    /// <summary>Requests of the pages that were not sent: what they were, and how many.</summary>
    public IReadOnlyDictionary<string, int> Withheld => _withheld;

    public async Task<AuditAnswer> GetAsync(Uri address, CancellationToken cancellation)
    {
        // A tab that has forgotten all is as good as a new one, and takes less time.
        _tab ??= await OpenAsync(cancellation);
        try
        {
            await _tab.ForgetAsync(_origin, cancellation);
        }
        catch (IOException refused)
        {
            return AuditAnswer.Nothing(address, refused.Message);
        }

        return await AtAsync(_tab, address, cancellation, isFresh: true);
    }

    /// <summary>Keeps a picture of what stands in a tab at this moment, as one of an address.</summary>
    public async Task KeepPictureAsync(Tab tab, Uri address, CancellationToken cancellation) =>
        _pictures[address.AbsoluteUri] = await tab.PictureAsync(cancellation);

    /// <summary>The page at an address as JPEG, as it was kept, or as it is now; null if it cannot be drawn.</summary>
    public async Task<byte[]?> PictureAsync(Uri address, CancellationToken cancellation)
    {
        if (_pictures.TryGetValue(address.AbsoluteUri, out var kept))
            return kept;
        try
        {
            await GetAsync(address, cancellation);
            await KeepPictureAsync(_tab!, address, cancellation);
            return _pictures[address.AbsoluteUri];
        }
        catch (IOException)
        {
            return null;
        }
    }

    public async Task<AuditAnswer> GetAfterAsync(Uri before, Uri address, CancellationToken cancellation)
    {
        await using var tab = await OpenAsync(cancellation);
        await AtAsync(tab, before, cancellation);
        return await AtAsync(tab, address, cancellation);
    }

    /// <summary>A tab of somebody who was never there.</summary>
    /// <param name="beside">A tab of the same person, if it is one who was there; it keeps cookies and storage for both.</param>
    public Task<Tab> OpenAsync(CancellationToken cancellation, Tab? beside = null) =>
        _browser.OpenAsync(
            new TabRules(Withholds, address => _budget.Count(address), _budget.Limits.Headers, _budget.Limits.Agent),
            beside,
            cancellation
        );

    /// <summary>Goes to an address in a tab, and reads what is drawn.</summary>
    /// <param name="isFresh">Whether the document is loaded anew, even if only the fragment is another.</param>
    public async Task<AuditAnswer> AtAsync(Tab tab, Uri address, CancellationToken cancellation, bool isFresh = false)
    {
        if (_robots.Forbids(address))
            return AuditAnswer.Nothing(address, RobotsRules.IsForbidden);
        if (_budget.Limits.Pause > TimeSpan.Zero)
            await Task.Delay(_budget.Limits.Pause, _budget.Clock, cancellation);
        var began = _budget.Clock.GetTimestamp();
        try
        {
            await tab.GoAsync(RouteAddress.Unfold(address), isFresh, cancellation);
            var took = _budget.Clock.GetElapsedTime(began);
            return tab.Trouble is { } trouble
                ? AuditAnswer.Nothing(address, trouble)
                : await ReadAsync(tab, address, cancellation) with
                {
                    Took = took,
                };
        }
        catch (IOException refused)
        {
            return AuditAnswer.Nothing(address, refused.Message);
        }
    }

    /// <summary>What is drawn in a tab at this moment.</summary>
    public static async Task<AuditAnswer> ReadAsync(Tab tab, Uri asked, CancellationToken cancellation)
    {
        var html = await tab.HtmlAsync(cancellation);
        var at = RouteAddress.Fold(await tab.AddressAsync(cancellation));
        return AuditAnswer.Of(asked, at, tab.Status, html, tab.Type) with
        {
            Drawn = new DrawnNotes(
                tab.Errors,
                [.. tab.Asked.GroupBy(one => one).Where(one => one.Count() > 1).Select(one => one.Key)]
            ),
        };
    }

    private bool Withholds(string method, Uri address, bool isDocument)
    {
        var why =
            address.Scheme is "data" or "blob" or "about" ? null
            : method is not ("GET" or "HEAD") ? $"{method} requests"
            : address.Authority != _origin.Authority ? "requests to other origins"
            : isDocument && ListReading.LooksDangerous(address.PathAndQuery) ? "visits that look as if they changed something"
            : _robots.Forbids(address) ? "requests that robots.txt forbids"
            : null;
        if (why is null)
            return false;
        lock (_withheld)
            _withheld[why] = _withheld.GetValueOrDefault(why) + 1;
        return true;
    }
}
