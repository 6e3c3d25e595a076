using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Addresses that the visitor may have meant, for an address without a page. Nothing is loaded.</summary>
internal static class NearAddresses
{
    private const int Most = 3;

    /// <summary>The most pages to look at: an app may have thousands.</summary>
    private const int MostPages = 2000;

    /// <summary>The nearest pages: first pages of one record with the IDs of the address, then pages without an ID.</summary>
    public static IReadOnlyList<PlainLink> Of(Site site, RequestTarget target)
    {
        var ofRecords = OfRecords(site, target).OrderBy(near => near.Distance).Take(Most).Select(near => near.Link).ToList();
        var path = target.Path.Length <= 200 ? target.Path.ToString() : target.Path[..200].ToString();
        var alone = site
            .Pages.Where(page => page.Head.AddressWithoutParameters is not null && page != site.NotFound)
            .Take(200)
            .OrderBy(page =>
                Nearest.Distance(
                    (site.Frame.Mount.Text + path).ToLowerInvariant(),
                    page.Head.AddressWithoutParameters!.ToLowerInvariant()
                )
            )
            .Take(Most - Math.Min(ofRecords.Count, Most - 1))
            .Select(page => new PlainLink(page.Name, page.Head.LinkText, page.Head.OpenAddress!));
        return [.. ofRecords, .. alone];
    }

    /// <summary>
    /// <c>/bridge/7</c> and <c>/Bridges/7</c> are near <c>/bridges/{id}</c>: a singular, another letter case, a typing error.
    /// </summary>
    private static IEnumerable<(PlainLink Link, int Distance)> OfRecords(Site site, RequestTarget target)
    {
        foreach (
            var page in site
                .Pages.Where(page =>
                    page is not WaitingPage && page.Head.AddressWithoutParameters is null && page.Head.Definition.HasId
                )
                .Take(MostPages)
        )
        {
            if (Distance(page.Head.Template, target) is not { } distance || Texts(page, target) is not { } texts)
                continue;
            if (page.Head.Builder.Build(texts) is { } address)
                yield return (
                    new PlainLink(page.Name, $"{page.Head.LinkText} {string.Join(", ", texts.SelectMany(one => one))}", address),
                    distance
                );
        }
    }

    /// <summary>How far the literals of a path are from those of the address; null if too far.</summary>
    private static int? Distance(PathTemplate template, RequestTarget target)
    {
        if (template.Segments.Count != target.Segments.Length)
            return null;
        var sum = 0;
        for (var i = 0; i < template.Segments.Count; i++)
        {
            if (template.Segments[i].Literal is not { } literal)
                continue;
            var text = target.Text(i);
            if (target.Segments[i].IsBad || text.Length > 60)
                return null;
            var distance = Nearest.Distance(text.ToString().ToLowerInvariant(), literal.ToLowerInvariant());
            if (distance > Math.Max(1, literal.Length / 3))
                return null;
            sum += distance;
        }

        return sum;
    }

    /// <summary>The IDs of an address in the order of a page's parameters; null if one is malformed or missing.</summary>
    private static string[][]? Texts(Page page, RequestTarget target)
    {
        var texts = new string[page.Head.Template.Parameters.Count][];
        for (var i = 0; i < texts.Length; i++)
        {
            var parameter = page.Parameters.First(one => one.Name == page.Head.Template.Parameters[i]);
            if (parameter.Segment < 0)
            {
                if (parameter.Required)
                    return null;
                texts[i] = [];
                continue;
            }

            var text = target.Text(parameter.Segment);
            if (target.Segments[parameter.Segment].IsBad || text.Length <= parameter.Prefix.Length + parameter.Suffix.Length)
                return null;
            if (
                !text.StartsWith(parameter.Prefix, StringComparison.Ordinal)
                || !text.EndsWith(parameter.Suffix, StringComparison.Ordinal)
            )
                return null;
            if (
                parameter.Key.Read(text[parameter.Prefix.Length..^parameter.Suffix.Length].ToString())
                is not { Fault: KeyFault.None, Value: { } value }
            )
                return null;
            texts[i] = [parameter.Key.Write(value)];
        }

        return texts;
    }
}
