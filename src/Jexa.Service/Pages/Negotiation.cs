using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Pages;

/// <summary>
/// Chooses between the two forms every page has (RFC 9110 section 12.5.1). An Accept that cannot be met, or cannot be
/// read, gets HTML.
/// </summary>
public static class Negotiation
{
    /// <summary>Whether JSON is asked for before HTML.</summary>
    public static bool PrefersJson(StringValues accept)
    {
        var asked = accept.ToString();
        if (!asked.Contains("json", StringComparison.OrdinalIgnoreCase) || !MediaTypeHeaderValue.TryParseList(accept, out var ranges)) return false;
        var json = Best(ranges, "application/json");
        if (Best(ranges, "application/problem+json") is var problem && problem.CompareTo(json) > 0) json = problem;
        return json.Quality > 0 && json.CompareTo(Best(ranges, "text/html")) > 0;
    }

    /// <summary>The quality the most specific matching range gives a type, and how specific it is.</summary>
    private static (double Quality, int Specificity) Best(IList<MediaTypeHeaderValue> ranges, string type)
    {
        var (quality, specificity) = (0d, -1);
        foreach (var range in ranges)
        {
            var fits = range.MatchesAllTypes ? 0 : range.MatchesAllSubTypes && type.StartsWith(range.Type + "/", StringComparison.OrdinalIgnoreCase) ? 1
                : range.MediaType.Equals(type, StringComparison.OrdinalIgnoreCase) ? 2 : -1;
            if (fits > specificity) (quality, specificity) = (range.Quality ?? 1, fits);
        }

        return (quality, specificity);
    }
}
