using System.Net;
using System.Net.Sockets;

namespace Jexa.Service.Tests;

/// <summary>A small server of a test's own, on a free port of loopback.</summary>
internal static class LoopbackListener
{
    /// <param name="answer">Answers one request.</param>
    /// <returns>Ends it when it is closed; and its address.</returns>
    public static (HttpListener Listener, string Url) Start(Func<HttpListenerContext, Task> answer)
    {
        string url;
        using (var free = new TcpListener(IPAddress.Loopback, 0))
        {
            free.Start();
            url = $"http://127.0.0.1:{((IPEndPoint)free.LocalEndpoint).Port}/";
        }

        var listener = new HttpListener();
        listener.Prefixes.Add(url);
        listener.Start();
        _ = Task.Run(async () =>
        {
            try
            {
                while (true)
                {
                    var context = await listener.GetContextAsync();
                    _ = Task.Run(() => AnswerAsync(answer, context));
                }
            }
            catch (Exception ended) when (ended is HttpListenerException or ObjectDisposedException) { }
        });
        return (listener, url);
    }

    private static async Task AnswerAsync(Func<HttpListenerContext, Task> answer, HttpListenerContext context)
    {
        try
        {
            await answer(context);
        }
        catch (Exception left) when (left is HttpListenerException or ObjectDisposedException or IOException)
        {
            // Whoever asked has left.
        }
    }
}
