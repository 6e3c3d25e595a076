using System.Security.Cryptography;
using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Lists;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Proof;

/// <summary>Visits the addresses that stand in texts, as a person who clicks there would.</summary>
internal sealed class TextVisits
{
    private const int MostKept = 20_000;

    private readonly Site _site;
    private readonly TimeProvider _clock;
    private readonly VisitRunner _runner;
    private readonly Dictionary<string, string?> _known = [];

    public TextVisits(Site site, TimeProvider clock)
    {
        (_site, _clock) = (site, clock);
        _runner = new VisitRunner(clock, new ListCursor(RandomNumberGenerator.GetBytes(32)), new RuntimeFindings());
    }

    /// <summary>The outcome of an address that shows nothing; null for one that leads somewhere.</summary>
    /// <param name="target">A path, with or without a fragment.</param>
    public async Task<string?> FailsAsync(string target, CancellationToken cancellation)
    {
        var path = target.Split('#')[0];
        if (_known.TryGetValue(path, out var known))
            return known;
        if (_known.Count >= MostKept)
            _known.Clear();
        var read = RequestTarget.Read(path, _site.Frame.Mount);
        if (read.Fault == TargetFault.OutsideMount || read.IsReserved)
            return null;
        var request = new VisitRequest("GET", read, Reader.Person, Principal.Anonymous.Value);
        using var answer = await _runner.RunAsync(_site, request, new VisitTrace("GET", path, _clock), cancellation);
        return _known[path] = answer.Outcome.Kind is { Side: OutcomeSide.Visitor } kind ? kind.Word : null;
    }

    /// <summary>The links in the texts of the app file itself that lead to addresses, with their places.</summary>
    public static IEnumerable<(Written Text, string Source)> TextsOf(Site site, AppDefinition definition)
    {
        if (definition.Frame.Header is { } header)
            yield return (header, site.Frame.Texts.Header);
        if (definition.Frame.Footer is { } footer)
            yield return (footer, site.Frame.Texts.Footer);
        foreach (var page in site.Pages)
        {
            if (page is TextPage { Head.Definition.Text: { } at } text)
                yield return (at, text.Source);
            foreach (var notice in page.Head.Definition.Related.Select(block => block.Notice).OfType<Written>())
                yield return (notice, notice.Value);
        }
    }
}
