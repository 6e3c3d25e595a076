using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Writing;

/// <summary>
/// Chooses between the representations of a page (RFC 9110 section 12.5.1). A request that accepts anything gets the usual
/// representation, as people and link checkers need it, unless it looks like a script's fetch. So does a request with an Accept
/// that cannot be read.
/// </summary>
internal static class Negotiation
{
    /// <returns>Null if the request accepts none of them: 406.</returns>
    public static IPageWriter? Of(IHeaderDictionary sent, PageWriters writers)
    {
        var accept = sent.Accept;
        if (StringValues.IsNullOrEmpty(accept))
            return ByMarks(sent, writers);
        if (AsksForUsual(accept, writers) || !MediaTypeHeaderValue.TryParseList(accept, out var ranges))
            return writers.Usual;
        var best = (Quality: 0d, Specificity: -1);
        IPageWriter? chosen = null;
        var isTie = false;
        foreach (var writer in writers.All)
        {
            var own = writer.MediaTypes.Max(type => Best(ranges, type));
            if (own.Quality <= 0 || own.CompareTo(best) < 0)
                continue;
            isTie = chosen is not null && own == best;
            if (!isTie)
                (chosen, best) = (writer, own);
        }

        return isTie ? ByMarks(sent, writers) : chosen;
    }

    /// <summary>
    /// What a browser asks for: the usual representation first, and no other by name. The list need not be parsed.
    /// </summary>
    private static bool AsksForUsual(StringValues accept, PageWriters writers)
    {
        if (accept is not [{ } only] || !only.StartsWith(writers.Usual.MediaTypes[0], StringComparison.Ordinal))
            return false;
        var at = writers.Usual.MediaTypes[0].Length;
        if (at >= only.Length || only[at] != ',')
            return false;
        for (var i = 1; i < writers.All.Count; i++)
            foreach (var type in writers.All[i].MediaTypes)
                if (only.Contains(type, StringComparison.OrdinalIgnoreCase))
                    return false;
        return !only.Contains("application/*", StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>
    /// For a request that accepts several representations equally: the one for programs if it is a script's fetch
    /// (Sec-Fetch-Mode: cors), which navigations never are.
    /// </summary>
    private static IPageWriter ByMarks(IHeaderDictionary sent, PageWriters writers) =>
        sent["Sec-Fetch-Mode"] == "cors" ? writers.ForPrograms : writers.Usual;

    /// <summary>The quality that the most specific matching range gives a type, and how specific it is.</summary>
    private static (double Quality, int Specificity) Best(IList<MediaTypeHeaderValue> ranges, string type)
    {
        var (quality, specificity) = (0d, -1);
        foreach (var range in ranges)
        {
            var fits =
                range.MatchesAllTypes ? 0
                : range.MatchesAllSubTypes && type.StartsWith(range.Type + "/", StringComparison.OrdinalIgnoreCase) ? 1
                : range.MediaType.Equals(type, StringComparison.OrdinalIgnoreCase) ? 2
                : -1;
            if (fits > specificity)
                (quality, specificity) = (range.Quality ?? 1, fits);
        }

        return (quality, specificity);
    }
}
