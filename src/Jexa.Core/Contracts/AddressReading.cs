using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Contracts;

/// <summary>
/// What an address says by itself: which page it means and the values of its parameters, or how a visit to it would end before
/// anything is loaded. Generated clients read addresses by the same rules.
/// </summary>
public abstract record AddressReading
{
    private AddressReading() { }

    /// <summary>No page of the site has this address.</summary>
    public sealed record NoPage : AddressReading;

    /// <param name="Page">Null if it is not an address at all.</param>
    /// <param name="Parameter">Null if the whole address is at fault.</param>
    public sealed record Malformed(Page? Page, string? Parameter) : AddressReading;

    /// <summary>A page has this address, but a parameter is not given.</summary>
    public sealed record Missing(Page Page, string Parameter) : AddressReading;

    /// <param name="Texts">The canonical texts of each parameter; none for one that is absent.</param>
    /// <param name="IsCanonical">Whether Jexa itself would spell the page and its parameters like this.</param>
    /// <param name="Address">The address as Jexa would write it, without names that are no parameters.</param>
    public sealed record Meant(Page Page, IReadOnlyList<IReadOnlyList<string>> Texts, bool IsCanonical, string Address)
        : AddressReading;

    /// <summary>Reads an address (path and query string, without host) as a visit would, without loading anything.</summary>
    public static AddressReading Of(Site site, string address)
    {
        var target = RequestTarget.Read(address, site.Frame.Mount);
        var match = PageMatch.Of(site, target, isSafe: true);
        if (match.Kind == MatchKind.NoAddress)
            return new Malformed(null, null);
        if (match.Kind == MatchKind.Home)
            return new Meant(
                site.Home!,
                [.. site.Home!.Parameters.Select(_ => Array.Empty<string>())],
                false,
                site.Home.Head.AddressWithoutParameters!
            );
        var pages = match.Kind is MatchKind.Page or MatchKind.TrailingSlash ? Served(match.Pages) : [];
        if (pages.Count == 0)
            return new NoPage();
        var canonical = match.Kind == MatchKind.Page && !target.Path.IsEmpty;
        var chosen = ParameterReader.Choose(pages, target, out var rival);
        var asked = chosen.Head;
        var page = chosen is FormerPage former ? former.Now : chosen;
        if (rival is not null)
            return new Malformed(page, ParameterReader.RequiredOf(chosen)[0]);
        return Read(page, asked, target, canonical && page == chosen);
    }

    private static AddressReading Read(Page page, PageHead asked, RequestTarget target, bool canonical)
    {
        var texts = new IReadOnlyList<string>[page.Parameters.Count];
        AddressReading? refused = null;
        for (var i = 0; i < texts.Length; i++)
        {
            var parameter = page.Parameters[i];
            var (read, fault, isCanonical) = parameter.Many
                ? Many(parameter, target)
                : One(parameter, target, asked.Find(parameter.Name));
            texts[i] = read;
            canonical &= isCanonical;
            if (fault)
                refused ??= new Malformed(page, parameter.Name);
            else if (read.Count == 0 && parameter.Required)
                refused ??= new Missing(page, parameter.Name);
        }

        if (refused is not null)
            return refused;
        if (ParameterReader.MonthAlone(page, number => texts[number].Count > 0) is >= 0 and var month)
            return new Malformed(page, page.Parameters[month].Name);

        // Jexa never gave out an address with a value that no address can contain.
        return page.Head.Builder.Build(texts) is { } address
            ? new Meant(page, texts, canonical, address)
            : new Malformed(page, page.Parameters[0].Name);
    }

    private static (IReadOnlyList<string> Texts, bool IsFault, bool IsCanonical) One(
        PageParameter parameter,
        RequestTarget target,
        PageParameter place
    )
    {
        var raw = ParameterReader.Read(target, place);
        var reading = ParameterReader.Value(raw, parameter.Key);
        return reading.Fault != KeyFault.None ? ([], true, true)
            : reading.Value is { } value ? ([parameter.Key.Write(value)], false, reading.IsCanonical)
            : ([], false, raw.Text is null);
    }

    private static (IReadOnlyList<string> Texts, bool IsFault, bool IsCanonical) Many(
        PageParameter parameter,
        RequestTarget target
    )
    {
        var many = ParameterReader.Many(target.Query, parameter, null);
        return ([.. many.Values.Select(parameter.Key.Write)], many.Fault != KeyFault.None, many.IsCanonical);
    }

    private static IReadOnlyList<Page> Served(IReadOnlyList<Page> pages) =>
        pages.Any(page => page is WaitingPage) ? [.. pages.Where(page => page is not WaitingPage)] : pages;
}
