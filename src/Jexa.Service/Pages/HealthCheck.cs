using Jexa.Core.Addresses;
using Jexa.Service.Hosting;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Pages;

/// <summary>
/// <c>/_jexa/health/live</c>: the process answers. <c>/_jexa/health/ready</c>: pages can be read. <c>/_jexa/health/writable</c>:
/// changes can be saved. 200 or 503, and nothing else is told. These are no visits.
/// </summary>
internal static class HealthCheck
{
    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved
        && target.Segments.Length == 3
        && target.Text(1).SequenceEqual("health")
        && (
            target.Text(2).SequenceEqual("live")
            || target.Text(2).SequenceEqual("ready")
            || target.Text(2).SequenceEqual("writable")
        );

    public static async Task AnswerAsync(HttpContext http, RequestTarget target, SiteHost host)
    {
        var what = target.Text(2).ToString();
        var well = what switch
        {
            "live" => true,
            "ready" => await host.Health.IsReadableAsync(host.Site),
            _ => await host.Health.IsWritableAsync(host.Site),
        };
        http.Response.StatusCode = well ? StatusCodes.Status200OK : StatusCodes.Status503ServiceUnavailable;
        http.Response.Headers.CacheControl = "no-store";
        http.Response.ContentType = "text/plain; charset=utf-8";
        await http.Response.WriteAsync(well ? $"{what}\n" : $"not {what}\n");
    }
}
