using System.Net;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;
using Microsoft.Net.Http.Headers;
using Serilog;
using Serilog.Extensions.Logging;

namespace Jexa.Service.Web;

/// <summary>What both doors share: listeners, limits, and answering only to their own host names.</summary>
internal static class Doors
{
    /// <summary>Long enough for any ID that can be written. The server answers longer request lines with 414.</summary>
    private const int MaxRequestLine = 32 * 1024;

    private static readonly Encoding Lengths = new DigitsOnly();

    /// <summary>Less than the five seconds in which the whole service must end.</summary>
    private static readonly TimeSpan Grace = TimeSpan.FromSeconds(3.5);

    /// <param name="addresses">The addresses of this machine to listen on.</param>
    public static WebApplicationBuilder Builder(IReadOnlyList<IPAddress> addresses, int port, Serilog.ILogger logger)
    {
        var builder = WebApplication.CreateSlimBuilder(new WebApplicationOptions { ContentRootPath = AppContext.BaseDirectory });
        builder.Configuration.Sources.Clear();
        // The host's own request log would also begin an activity and a scope for each request; visits are logged by us. The
        // filter names the provider, because a general filter is overruled by the provider's own.
        builder
            .Logging.ClearProviders()
            .AddSerilog(logger)
            .AddFilter<SerilogLoggerProvider>("Microsoft.AspNetCore.Hosting", LogLevel.None);
        builder.Services.AddSingleton<IHostLifetime, NoLifetime>();
        builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = Grace);
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Limits.MaxRequestLineSize = MaxRequestLine;
            kestrel.Limits.MaxRequestBodySize = 1024 * 1024;
            kestrel.RequestHeaderEncodingSelector = static name => name == HeaderNames.ContentLength ? Lengths : null;
            kestrel.Limits.MaxConcurrentConnections = OpenFiles.MostConnections;
            foreach (var address in addresses)
                kestrel.Listen(address, port);
        });
        return builder;
    }

    /// <summary>The port a started application listens on.</summary>
    public static int PortOf(WebApplication app) =>
        new Uri(app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()).Port;

    /// <summary>
    /// Whether the request gives the length of its body in two ways (RFC 9112 section 6.1). If a proxy used the other one, it
    /// would disagree on where the next request begins.
    /// </summary>
    public static bool HasTwoLengths(HttpContext http) =>
        http.Request.Headers.TransferEncoding.Count > 0
        // By then the server has moved the length to another header.
        && (http.Request.Headers.ContentLength is not null || http.Request.Headers.ContainsKey("X-Content-Length"));

    /// <summary>The service itself starts and stops, not each web application.</summary>
    private sealed class NoLifetime : IHostLifetime
    {
        public Task WaitForStartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

        public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;
    }
}
