using System.Net;
using Jexa.Core.Compiler;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Service.Management;
using Jexa.Service.Pages;
using Jexa.Service.State;
using Jexa.Service.Uploads;
using Jexa.Service.Web;
using Microsoft.AspNetCore.Builder;

namespace Jexa.Service;

/// <summary>A running service: two doors over one site. Disposing it ends it after the current requests.</summary>
public sealed class JexaService : IAsyncDisposable
{
    private readonly ServiceParts _parts;
    private readonly WebApplication _pages;
    private readonly WebApplication _console;

    private JexaService(
        ServiceOptions options,
        ServiceParts parts,
        WebApplication pages,
        WebApplication console,
        string consoleCode
    )
    {
        (_parts, _pages, _console) = (parts, pages, console);
        PagesUrl = $"http://{new IPEndPoint(Shown(options.Listen), Doors.PortOf(pages))}{options.Mount}/";
        ConsoleUrl = $"http://127.0.0.1:{Doors.PortOf(console)}/";
        ConsoleStartUrl = $"{ConsoleUrl}#code={consoleCode}";
        OnlyReads = parts.Changes.Trouble;
    }

    public string PagesUrl { get; }

    /// <summary>Why nothing can be changed through pages since the start; null if changes can be saved.</summary>
    public string? OnlyReads { get; }

    public string ConsoleUrl { get; }

    /// <summary>The console's URL with the code that signs it in, once.</summary>
    public string ConsoleStartUrl { get; }

    /// <summary>Opens both doors over a compiled app file that makes a site. The service owns the sources from here on.</summary>
    /// <exception cref="StartException">A port is taken, or the state folder cannot be used.</exception>
    public static async Task<JexaService> StartAsync(
        Compilation compilation,
        SourceRegistry sources,
        ServiceOptions options,
        CancellationToken cancellation
    )
    {
        OpenFiles.Check();
        var parts = ServiceParts.Open(compilation, sources, options);
        var startCodes = new StartCodes(parts.Host.Clock);
        var managementDoor = parts.ConsoleDoor(startCodes, options.Secrets);
        WebApplication? console = null;
        try
        {
            console = await Listening.StartAsync(
                managementDoor.Build(options.ConsolePort),
                "--console-port",
                options.ConsolePort,
                cancellation
            );
            var pagesDoor = new PagesDoor(
                parts.Host,
                parts.Watcher,
                options,
                parts.Token,
                parts.Cookies,
                parts.Telemetry,
                parts.Workbench.Preview,
                parts.Files,
                new UploadReader(parts.Editing.Seal),
                Doors.PortOf(console),
                parts.Logger
            );
            var pages = await Listening.StartAsync(pagesDoor.Build(), "--port", options.Port, cancellation);
            var service = new JexaService(options, parts, pages, console, startCodes.Issue());
            managementDoor.PointTo(service.PagesUrl, service.ConsoleUrl);
            service.WriteAddress(parts.Logger);
            return service;
        }
        catch
        {
            if (console is not null)
                await console.DisposeAsync();
            await parts.DisposeAsync();
            throw;
        }
    }

    private void WriteAddress(Serilog.ILogger logger)
    {
        try
        {
            _parts.State.WriteAddress(new ServiceAddress(PagesUrl, ConsoleUrl, Environment.ProcessId));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            // Pages can still be read, but commands cannot find this service.
            logger.Warning(
                "Commands cannot find this service, since its address could not be written: {Reason}",
                refused.Message
            );
        }
    }

    /// <summary>The address for users of this machine: loopback if the service listens on it.</summary>
    private static IPAddress Shown(IReadOnlyList<IPAddress> listen) =>
        listen.Count == 0
        || listen.Any(address =>
            IPAddress.IsLoopback(address) || address.Equals(IPAddress.Any) || address.Equals(IPAddress.IPv6Any)
        )
            ? listen.FirstOrDefault(IPAddress.IsLoopback) ?? IPAddress.Loopback
            : listen[0];

    public async ValueTask DisposeAsync()
    {
        _parts.State.RemoveAddress();
        await Task.WhenAll(_pages.StopAsync(), _console.StopAsync());
        await _pages.DisposeAsync();
        await _console.DisposeAsync();
        await _parts.DisposeAsync();
    }
}
