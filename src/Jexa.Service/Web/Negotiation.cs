using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Web;

/// <summary>
/// Chooses between the two forms every page has (RFC 9110 section 12.5.1). A request that takes anything gets HTML, as people and
/// link checkers need it, unless it bears the marks of a script's fetch. An Accept that cannot be read gets HTML.
/// </summary>
public static class Negotiation
{
    public static AnswerForm Of(IHeaderDictionary sent)
    {
        var accept = sent.Accept;
        if (accept.Count == 0 || StringValues.IsNullOrEmpty(accept))
            return ByMarks(sent);

        // What a browser asks of a page: no list need be read.
        if (
            accept is [{ } only]
            && only.StartsWith("text/html,", StringComparison.Ordinal)
            && !only.Contains("json", StringComparison.OrdinalIgnoreCase)
        )
            return AnswerForm.Html;
        if (!MediaTypeHeaderValue.TryParseList(accept, out var ranges))
            return AnswerForm.Html;
        var json = Best(ranges, "application/json");
        if (Best(ranges, "application/problem+json") is var problem && problem.CompareTo(json) > 0)
            json = problem;
        var html = Best(ranges, "text/html");
        if (html.Quality <= 0 && json.Quality <= 0)
            return AnswerForm.None;
        var order = json.CompareTo(html);
        return order > 0 && json.Quality > 0 ? AnswerForm.Json
            : order < 0 && html.Quality > 0 ? AnswerForm.Html
            : html.Quality <= 0 ? AnswerForm.Json
            : ByMarks(sent);
    }

    /// <summary>
    /// For a request that takes either: JSON for a script's fetch (Sec-Fetch-Mode: cors), which navigations never bear.
    /// </summary>
    private static AnswerForm ByMarks(IHeaderDictionary sent) =>
        sent["Sec-Fetch-Mode"] == "cors" ? AnswerForm.Json : AnswerForm.Html;

    /// <summary>The quality the most specific matching range gives a type, and how specific it is.</summary>
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
