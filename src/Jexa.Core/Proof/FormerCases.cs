using Jexa.Core.Addresses;
using Jexa.Core.Edits;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>
/// Makes requests for what is not where it was: records that were deleted, or whose key was changed, as the change log has it,
/// and former paths of pages.
/// </summary>
public static class FormerCases
{
    /// <summary>The latest keys that something happened to and that are looked through.</summary>
    private const int MostLookedThrough = 200;

    /// <summary>The cases of a page: at most one each.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async Task<IReadOnlyList<ProbeCase>> OfAsync(
        Site site,
        Page page,
        IChangeLog log,
        CancellationToken cancellation
    )
    {
        var cases = new List<ProbeCase>();
        if (page is RecordPage { Scope: not null, Head.DrawnAt: null } record)
            cases.AddRange(await OfKeysAsync(record, log, cancellation));
        if (
            site.Former.FirstOrDefault(former => former.Now == page) is { } before
            && await Samples.FirstAsync(page, cancellation) is { } sample
            && AddressOf(before.Head, sample.Ids) is { } address
        )
            cases.Add(New("moved", address, OutcomeKind.NotCanonical, 301, sample.Address));
        return cases;
    }

    private static async Task<IReadOnlyList<ProbeCase>> OfKeysAsync(
        RecordPage page,
        IChangeLog log,
        CancellationToken cancellation
    )
    {
        var cases = new List<ProbeCase>();
        var history = new KeyHistory(log);
        foreach (var key in log.KeysWithEvents(page.Scope!, MostLookedThrough))
        {
            var texts = KeyHistory.Split(page, key);
            if (
                history.Follow(page, texts) is not { } end
                || cases.Exists(one => one.Kind == (end.MovedTo is null ? "gone" : "moved"))
                || AddressOf(page.Head, texts) is not { } address
                || await IsThereAsync(page, texts, cancellation)
            )
                continue;
            if (end.MovedTo is not { } now)
                cases.Add(New("gone", address, OutcomeKind.Gone, 410, null));
            else if (await IsThereAsync(page, now, cancellation))
                cases.Add(New("moved", address, OutcomeKind.Moved, 301, AddressOf(page.Head, now)));
        }

        return cases;
    }

    private static ProbeCase New(string kind, string address, OutcomeKind outcome, int status, string? leads) =>
        new(kind, null, "GET", address, outcome, status, status, leads);

    /// <summary>Whether the page shows a record of this ID now.</summary>
    private static async Task<bool> IsThereAsync(RecordPage page, IReadOnlyList<string> texts, CancellationToken cancellation)
    {
        var keys = texts.Select((text, i) => page.Parameters[i].Key.Read(text).Value).ToList();
        if (keys.Exists(key => key is null))
            return false;
        var (rows, now) = (new RowBlock(), keys.OfType<TypedValue>().ToArray());
        rows.Reset(page.Lookup.Load.Width);
        await page.Lookup.Load.RunAsync(now, rows, cancellation);
        return Loading.Decide(page.Lookup, rows, now).Outcome is Outcome.Found;
    }

    private static string? AddressOf(PageHead head, IReadOnlyList<string?> texts)
    {
        using var address = new Utf8Buffer(128);
        return head.Builder.TryBuild(new GivenTexts([.. texts]), address) && head.OwnsAddress?.Invoke(address.ToString()) != false
            ? address.ToString()
            : null;
    }
}
