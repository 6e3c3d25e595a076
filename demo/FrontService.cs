using System.Net;
using System.Text;

namespace Jexa.Demo;

/// <summary>
/// Serves the demo's own front end (<c>demo/front</c>) from an origin of its own, as somebody else's program would: files where
/// they are, its one page for every other path, and <c>/config.js</c>, which says where the register is.
/// </summary>
public sealed class FrontService : IDisposable
{
    /// <summary>The origin that the demo's app file knows.</summary>
    public const int Port = 7448;

    private readonly HttpListener _listener;
    private readonly string _folder;

    private FrontService(HttpListener listener, string folder)
    {
        (_listener, _folder) = (listener, folder);
        _ = ServeAsync();
    }

    /// <summary>Where the pages are served.</summary>
    public string Register { get; set; } = "";

    public string Url => _listener.Prefixes.First().TrimEnd('/');

    /// <summary>Starts it, on any free port if its own is taken; null if it was not built.</summary>
    /// <param name="demo">The demo's folder.</param>
    public static FrontService? Start(string demo, int port = Port)
    {
        var folder = Path.Combine(demo, "front", "dist");
        if (!File.Exists(Path.Combine(folder, "index.html")))
            return null;
        for (var tries = 0; tries < 5; tries++, port = FreePort())
            if (Listen(folder, port) is { } started)
                return started;
        return null;
    }

    private static int FreePort()
    {
        using var listener = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static FrontService? Listen(string folder, int port)
    {
        var listener = new HttpListener();
        listener.Prefixes.Add($"http://127.0.0.1:{port}/");
        try
        {
            listener.Start();
            return new FrontService(listener, folder);
        }
        catch (HttpListenerException)
        {
            ((IDisposable)listener).Dispose();
            return null;
        }
    }

    public void Dispose() => ((IDisposable)_listener).Dispose();

    private async Task ServeAsync()
    {
        try
        {
            while (_listener.IsListening)
            {
                var context = await _listener.GetContextAsync();
                _ = AnswerAsync(context);
            }
        }
        catch (Exception ended) when (ended is HttpListenerException or ObjectDisposedException or InvalidOperationException)
        {
            // It was stopped.
        }
    }

    private async Task AnswerAsync(HttpListenerContext context)
    {
        try
        {
            using var response = context.Response;
            var (type, bytes) = Find(context.Request.Url!.AbsolutePath);
            response.ContentType = type;
            response.Headers["X-Content-Type-Options"] = "nosniff";
            response.ContentLength64 = bytes.Length;
            await response.OutputStream.WriteAsync(bytes);
        }
        catch (Exception left) when (left is HttpListenerException or IOException or ObjectDisposedException)
        {
            // Whoever asked has gone.
        }
    }

    private (string Type, byte[] Bytes) Find(string path)
    {
        if (path == "/config.js")
            return ("text/javascript", Encoding.UTF8.GetBytes($"globalThis.jexaBase = \"{Register}\";\n"));
        var file = Path.GetFullPath(Path.Combine(_folder, path.TrimStart('/')));
        if (!file.StartsWith(_folder + Path.DirectorySeparatorChar, StringComparison.Ordinal) || !File.Exists(file))
            file = Path.Combine(_folder, "index.html");
        return (
            Path.GetExtension(file) switch
            {
                ".js" => "text/javascript",
                ".css" => "text/css",
                _ => "text/html; charset=utf-8",
            },
            File.ReadAllBytes(file)
        );
    }
}
