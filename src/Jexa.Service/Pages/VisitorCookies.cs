using System.Text.Json;
using Jexa.Core.Addresses;
using Jexa.Core.Visits;
using Jexa.Service.State;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Pages;

/// <summary>
/// The cookies for pages with forms: a secret that the visitor's forms are made for; the message that the next page shows once;
/// and a mark that the visitor has changed something a moment ago, which a replica may not have yet. No script can read them, and
/// other sites cannot make a browser send them with a form.
/// </summary>
internal sealed class VisitorCookies(FormSeal seal, Mount mount)
{
    private const string Visitor = "jexa-visitor";
    private const string Said = "jexa-said";
    private const int SecretLength = 32;

    private const string Wrote = "jexa-wrote";

    private static readonly TimeSpan WroteAge = TimeSpan.FromSeconds(10);

    private static readonly TimeSpan SaidAge = TimeSpan.FromMinutes(5);

    /// <summary>The visitor's secret; null if the browser sends none.</summary>
    public static string? VisitorOf(HttpContext http) =>
        http.Request.Headers.Cookie.Count > 0
        && http.Request.Cookies[Visitor] is { Length: SecretLength } secret
        && secret.All(char.IsAsciiHexDigitLower)
            ? secret
            : null;

    /// <summary>Whether the visitor changed something a moment ago.</summary>
    public static bool HasWritten(HttpContext http) =>
        http.Request.Headers.Cookie.Count > 0 && http.Request.Cookies.ContainsKey(Wrote);

    /// <summary>
    /// The message for the page at this target. It is used up only by a visitor who sees it, not by a browser that prefetches.
    /// </summary>
    public string? Take(HttpContext http, RequestTarget target)
    {
        if (
            http.Request.Headers.Cookie.Count == 0
            || !HttpMethods.IsGet(http.Request.Method)
            || IsAhead(http)
            || http.Request.Cookies[Said] is not { } sealedText
            || seal.OpenSaid(sealedText) is not { } bytes
        )
            return null;
        using var json = JsonDocument.Parse(bytes);
        if (json.RootElement.GetProperty("at").GetString() != $"{mount}{target.Path}{target.QueryString}")
            return null;
        http.Response.Cookies.Delete(Said, Options(http, null));
        return json.RootElement.GetProperty("say").GetString();
    }

    /// <param name="page">The page that was visited.</param>
    public void Give(HttpContext http, Answer answer, Core.Sites.Page? page)
    {
        if (answer.Outcome is Outcome.Saved && page?.Record?.Source.HasReplica == true)
            http.Response.Cookies.Append(Wrote, "1", Options(http, WroteAge));
        if (answer.NewVisitor is { } secret)
            http.Response.Cookies.Append(Visitor, secret, Options(http, null));
        if (answer is { Say: { } say, Location: { } location })
            http.Response.Cookies.Append(
                Said,
                seal.SealSaid(JsonSerializer.SerializeToUtf8Bytes(new { at = location, say })),
                Options(http, SaidAge)
            );
    }

    /// <summary>Whether a browser prefetches the page.</summary>
    private static bool IsAhead(HttpContext http) =>
        http.Request.Headers["Sec-Purpose"].ToString().Contains("prefetch", StringComparison.OrdinalIgnoreCase)
        || http.Request.Headers["Purpose"].ToString().Contains("prefetch", StringComparison.OrdinalIgnoreCase)
        || http.Request.Headers["X-Moz"].ToString().Contains("prefetch", StringComparison.OrdinalIgnoreCase);

    private CookieOptions Options(HttpContext http, TimeSpan? age) =>
        new()
        {
            HttpOnly = true,
            Secure = http.Request.IsHttps,
            SameSite = SameSiteMode.Lax,
            Path = mount.Text.Length == 0 ? "/" : mount.Text,
            MaxAge = age,
            IsEssential = true,
        };
}
