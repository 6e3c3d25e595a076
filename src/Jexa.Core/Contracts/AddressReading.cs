using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Contracts;

/// <summary>
/// What an address says, as far as it alone tells: which page it means and the values of its parameters, or how a visit to it
/// would end before anything is loaded. Clients that are written from a site read addresses by the same rules.
/// </summary>
public abstract record AddressReading
{
    private AddressReading() { }

    public sealed record NoPage : AddressReading;

    /// <param name="Page">Null where it is no address at all.</param>
    /// <param name="Parameter">Null where the whole address is at fault.</param>
    public sealed record Malformed(Page? Page, string? Parameter) : AddressReading;

    public sealed record Missing(Page Page, string Parameter) : AddressReading;

    /// <param name="Texts">The canonical texts of each parameter; none for one that is absent.</param>
    /// <param name="IsCanonical">The address spells the page and its parameters as Jexa itself would.</param>
    /// <param name="Address">As Jexa would write it, what is no parameter of the page left out.</param>
    public sealed record Meant(Page Page, IReadOnlyList<IReadOnlyList<string>> Texts, bool IsCanonical, string Address)
        : AddressReading;

    public static AddressReading Of(Site site, string address)
    {
        var target = RequestTarget.Read(address, site.Frame.Mount);
        if (target.Fault == TargetFault.OutsideMount || target.IsReserved)
            return new NoPage();
        if (target.Fault != TargetFault.None)
            return new Malformed(null, null);
        var depth = target.Segments.Length;
        var pages = Served(site.Paths.Match(target, depth));
        if (depth == 0 && pages.Count == 0)
            return site.Home is { Head.AddressWithoutParameters: { } alone } home
                ? new Meant(home, [.. home.Parameters.Select(_ => Array.Empty<string>())], false, alone)
                : new NoPage();
        var canonical = !target.Path.IsEmpty;
        if (target.HasOneTrailingSlash && Served(site.Paths.Match(target, depth - 1)) is { Count: > 0 } slashless)
            (pages, canonical) = (slashless, false);
        if (pages.Count == 0)
            return new NoPage();
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
        if (MonthAlone(page, texts) is { } alone)
            return new Malformed(page, alone);

        // What no address can carry was never given out.
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
        if (raw.Fault != KeyFault.None)
            return ([], true, true);
        if (string.IsNullOrEmpty(raw.Text))
            return ([], false, raw.Text is null);
        var reading = parameter.Key.Read(raw.Text);
        return reading.Value is { } value ? ([parameter.Key.Write(value)], false, reading.IsCanonical) : ([], true, true);
    }

    private static (IReadOnlyList<string> Texts, bool IsFault, bool IsCanonical) Many(
        PageParameter parameter,
        RequestTarget target
    )
    {
        var values = new List<TypedValue>();
        var canonical = true;
        foreach (var pair in target.Query)
        {
            if (NearName.Is(pair.Name, parameter.Name))
                return ([], true, true);
            if (pair.Name != parameter.Name)
                continue;
            var reading =
                pair.Value is null ? KeyReading.Failed(KeyFault.BadEncoding)
                : pair.Value.Length == 0 ? default
                : parameter.Key.Read(pair.Value);
            if (values.Count == ListReader.MaxValues || reading.Fault != KeyFault.None)
                return ([], true, true);
            canonical &= reading.Value is not null && reading.IsCanonical && !values.Contains(reading.Value);
            if (reading.Value is { } value && !values.Contains(value))
                values.Add(value);
        }

        return ([.. values.Select(parameter.Key.Write)], false, canonical);
    }

    private static string? MonthAlone(Page page, IReadOnlyList<IReadOnlyList<string>> texts)
    {
        var month = page.Parameters.ToList().FindIndex(parameter => parameter.Key == DatePartKey.Month);
        if (page is not ListPage || month < 0 || texts[month].Count == 0)
            return null;
        var year = YearOf(page, page.Parameters[month]);
        return year >= 0 && texts[year].Count == 0 ? page.Parameters[month].Name : null;
    }

    /// <summary>The number of the parameter that is the year of a month's field; -1 where there is none.</summary>
    public static int YearOf(Page page, PageParameter month) =>
        page.Parameters.ToList().FindIndex(parameter => parameter.Key == DatePartKey.Year && parameter.Field == month.Field);

    private static IReadOnlyList<Page> Served(IReadOnlyList<Page> pages) =>
        pages.Any(page => page is WaitingPage) ? [.. pages.Where(page => page is not WaitingPage)] : pages;
}
