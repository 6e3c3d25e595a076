using Microsoft.AspNetCore.Builder;

namespace Jexa.Service.Hosting;

/// <summary>Opens a door's port.</summary>
internal static class Listening
{
    /// <param name="option">The command line option for another port.</param>
    /// <exception cref="StartException">The port is taken, or cannot be used.</exception>
    public static async Task<WebApplication> StartAsync(
        WebApplication app,
        string option,
        int port,
        CancellationToken cancellation
    )
    {
        try
        {
            await app.StartAsync(cancellation);
            return app;
        }
        catch (IOException taken)
        {
            await app.DisposeAsync();
            throw new StartException(
                taken.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException or null
                    ? $"The port {port} is taken by another program: name another one with {option} PORT."
                    : $"The port {port} cannot be used: {taken.Message} See --listen and {option}.",
                taken
            );
        }
        catch (System.Net.Sockets.SocketException refused)
        {
            await app.DisposeAsync();
            throw new StartException(
                $"The port {port} cannot be used ({refused.SocketErrorCode}): name another one with {option} PORT.",
                refused
            );
        }
    }
}
