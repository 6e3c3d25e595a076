using Jexa.Core.Addresses;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Pages;

/// <summary>
/// <c>/_jexa/health/live</c>: the process answers. <c>/_jexa/health/ready</c>: so does every source the site reads from; 503
/// otherwise. Neither tells more than that, and neither is a visit.
/// </summary>
internal static class HealthCheck
{
    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved && target.Segments.Length == 3 && target.Text(1).SequenceEqual("health")
        && (target.Text(2).SequenceEqual("live") || target.Text(2).SequenceEqual("ready"));

    public static async Task AnswerAsync(HttpContext http, RequestTarget target, SiteHost host)
    {
        var live = target.Text(2).SequenceEqual("live");
        var well = live || await host.Sources.AreWellAsync(host.Site);
        http.Response.StatusCode = well ? StatusCodes.Status200OK : StatusCodes.Status503ServiceUnavailable;
        http.Response.Headers.CacheControl = "no-store";
        http.Response.ContentType = "text/plain; charset=utf-8";
        await http.Response.WriteAsync(live ? "live\n" : well ? "ready\n" : "not ready\n");
    }
}
