using System.Net;
using System.Text;

namespace Jexa.Demo;

/// <summary>
/// Serves the demo's own front end (<c>demo/front</c>) from an origin of its own, as somebody else's program would: files where they are, its one page for
/// every other path, and <c>/config.js</c>, which says where the register is.
/// </summary>
public sealed class FrontService : IDisposable
{
    /// <summary>The origin that the demo's app file knows.</summary>
    public const int Port = 7448;

    private readonly HttpListener _listener;
    private readonly string _folder;
    private readonly string _register;

    private FrontService(HttpListener listener, string folder, string register)
    {
        (_listener, _folder, _register) = (listener, folder, register);
        _ = ServeAsync();
    }

    public string Url => _listener.Prefixes.First().TrimEnd('/');

    /// <summary>Starts it; null where it was not built, or its port is taken.</summary>
    /// <param name="demo">The demo's folder.</param>
    /// <param name="register">Where the pages are served.</param>
    public static FrontService? Start(string demo, string register, int port = Port)
    {
        var folder = Path.Combine(demo, "front", "dist");
        if (!File.Exists(Path.Combine(folder, "index.html"))) return null;
        var listener = new HttpListener();
        listener.Prefixes.Add($"http://127.0.0.1:{port}/");
        try
        {
            listener.Start();
            return new FrontService(listener, folder, register);
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
        if (path == "/config.js") return ("text/javascript", Encoding.UTF8.GetBytes($"globalThis.jexaBase = \"{_register}\";\n"));
        var file = Path.GetFullPath(Path.Combine(_folder, path.TrimStart('/')));
        if (!file.StartsWith(_folder + Path.DirectorySeparatorChar, StringComparison.Ordinal) || !File.Exists(file)) file = Path.Combine(_folder, "index.html");
        return (Path.GetExtension(file) switch { ".js" => "text/javascript", ".css" => "text/css", _ => "text/html; charset=utf-8" }, File.ReadAllBytes(file));
    }
}
