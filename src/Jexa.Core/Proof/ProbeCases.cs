using Jexa.Core.Addresses;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>Makes the requests by which a running service is probed. None of them changes anything.</summary>
public static class ProbeCases
{
    /// <summary>The rows that are looked through for a hidden record, and for two of one ID.</summary>
    private const int MostLookedThrough = 2000;

    private static readonly string[] Refused = ["POST", "PUT", "PATCH", "DELETE"];

    /// <summary>The cases of a page.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async Task<IReadOnlyList<ProbeCase>> OfAsync(Site site, Page page, CancellationToken cancellation)
    {
        var sample = await Samples.FirstAsync(page, cancellation);
        var cases = IdCases
            .Of(page, sample)
            // Without a parameter, an address can be that of another page of the same path.
            .Where(one => one.Kind != "missing" || IsOf(site, page, one.Address))
            .Select(one => Of(page, one, sample))
            .OfType<ProbeCase>()
            .ToList();
        if (page is RecordPage record)
            cases.AddRange(await FromDataAsync(record, cancellation));
        if (sample is null)
            return cases;
        if (page is ListPage { Head.DrawnAt: null })
            cases.AddRange(
                new[] { ParameterReader.Order, ParameterReader.Size, ParameterReader.After, ParameterReader.Before }.Select(
                    control =>
                        New(
                            page,
                            "control",
                            control,
                            AddressQuery.With(sample.Address, control, "no-such-thing"),
                            OutcomeKind.Malformed
                        )
                )
            );
        cases.AddRange(
            Refused
                .Where(method => !page.Allows(method))
                .Select(method => New(page, "method", method, sample.Address, OutcomeKind.NotAllowed) with { Method = method })
        );
        return cases;
    }

    private static bool IsOf(Site site, Page page, string address)
    {
        var target = RequestTarget.Read(address, site.Frame.Mount);
        return PageMatch.Of(site, target, isSafe: true) is { Kind: MatchKind.Page } match
            && ParameterReader.Choose(match.Pages, target, out _).Name == page.Name;
    }

    private static ProbeCase? Of(Page page, IdCase one, SampleAddress? sample)
    {
        var outcome = one.Kind switch
        {
            "right" => page is ListPage ? OutcomeKind.Listed
            : page is TextPage or NewPage ? OutcomeKind.Shown
            : OutcomeKind.Found,
            "missing" => OutcomeKind.Missing,
            "malformed" or "twice" => OutcomeKind.Malformed,
            "not-canonical" => OutcomeKind.NotCanonical,
            "unknown" when one.Expected is not null => OutcomeKind.Unknown,
            _ => null,
        };
        return outcome is null
            ? null
            : New(page, one.Kind, one.Parameter, one.Address, outcome) with
            {
                Leads = one.Kind == "not-canonical" && page.Head.DrawnAt is null ? sample?.Address : null,
            };
    }

    private static ProbeCase New(Page page, string kind, string? parameter, string address, OutcomeKind outcome)
    {
        var ids = page.Head.Definition.Ids;
        var json =
            outcome == OutcomeKind.Missing ? ids.MissingStatus ?? 400
            : outcome == OutcomeKind.Malformed ? ids.MalformedStatus
            : outcome == OutcomeKind.NotCanonical ? 301
            : outcome == OutcomeKind.NotAllowed ? 405
            : outcome.Problems is [var problem, ..] ? problem.Status
            : 200;
        var leadsOn = page switch
        {
            RecordPage record => record.MissingPage is not null,
            ListPage list => list.MissingPage is not null,
            _ => false,
        };
        var html =
            page.Head.DrawnAt is not null && outcome != OutcomeKind.NotAllowed ? 302
            : outcome != OutcomeKind.Missing ? json
            : leadsOn ? 302
            : ids.MissingStatus ?? 404;
        return new ProbeCase(kind, parameter, "GET", address, outcome, html, json, null);
    }

    /// <summary>A hidden record and an ID of two records, if the data has one among its first rows.</summary>
    private static async Task<IReadOnlyList<ProbeCase>> FromDataAsync(RecordPage page, CancellationToken cancellation)
    {
        var lookup = page.Lookup;
        var (rows, cases) = (new RowBlock(), new List<ProbeCase>());
        if (page.Record is not { Table.CanList: true } || lookup.First(MostLookedThrough) is not { } query)
            return cases;
        rows.Reset(query.Width);
        await query.RunAsync([], rows, cancellation);
        var seen = new HashSet<string>();
        var (isHiddenTried, isAmbiguousTried) = (false, false);
        for (var i = 0; i < rows.Count && !(isHiddenTried && isAmbiguousTried); i++)
        {
            if (AddressOf(page, rows[i]) is not { } address)
                continue;
            var isSeen = lookup.FlagOrdinal < 0 || rows[i][lookup.Keys.Count].Integer == 1;
            if (!isSeen && !isHiddenTried)
            {
                isHiddenTried = true;
                cases.Add(New(page, "hidden", null, address, OutcomeKind.Hidden));
            }
            else if (isSeen && !seen.Add(address) && !isAmbiguousTried)
            {
                isAmbiguousTried = true;
                cases.Add(New(page, "ambiguous", null, address, OutcomeKind.Ambiguous));
            }
        }

        return cases;
    }

    private static string? AddressOf(RecordPage page, Row row)
    {
        using var text = new Utf8Buffer(128);
        var ids = new string?[page.Parameters.Count];
        for (var i = 0; i < ids.Length; i++)
        {
            text.Truncate(0);
            if (!page.Lookup.Keys[i].TryWrite(row, i, text))
                return null;
            ids[i] = text.ToString();
        }

        text.Truncate(0);
        return page.Head.Builder.TryBuild(new GivenTexts(ids), text) && page.Head.OwnsAddress?.Invoke(text.ToString()) != false
            ? text.ToString()
            : null;
    }
}
