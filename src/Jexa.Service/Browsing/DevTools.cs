using System.Collections.Concurrent;
using System.Net.WebSockets;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Jexa.Service.Browsing;

/// <summary>A connection to a browser by its open protocol (Chrome DevTools Protocol): commands, answers, events.</summary>
internal sealed class DevTools : IAsyncDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    private readonly ClientWebSocket _socket = new();
    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly ConcurrentDictionary<int, TaskCompletionSource<JsonElement>> _asked = new();
    private readonly ConcurrentDictionary<string, Action<string, JsonElement>> _listeners = new();
    private readonly CancellationTokenSource _ending = new();
    private Task _reading = Task.CompletedTask;
    private int _last;

    /// <exception cref="WebSocketException">Nobody is there.</exception>
    public static async Task<DevTools> ConnectAsync(Uri address, CancellationToken cancellation)
    {
        var tools = new DevTools();
        tools._socket.Options.Proxy = null;
        await tools._socket.ConnectAsync(address, cancellation);
        tools._reading = Task.Run(tools.ReadAsync, CancellationToken.None);
        return tools;
    }

    /// <summary>Tells a listener of all events of a session.</summary>
    public void Listen(string session, Action<string, JsonElement> listener) => _listeners[session] = listener;

    public void Forget(string session) => _listeners.TryRemove(session, out _);

    /// <summary>Sends a command and waits for its answer.</summary>
    /// <param name="session">The tab that it is for; null for the browser.</param>
    /// <exception cref="IOException">The browser refuses, does not answer, or is gone.</exception>
    public async Task<JsonElement> SendAsync(
        string method,
        JsonObject parameters,
        string? session,
        CancellationToken cancellation
    )
    {
        var number = Interlocked.Increment(ref _last);
        var answer = new TaskCompletionSource<JsonElement>(TaskCreationOptions.RunContinuationsAsynchronously);
        _asked[number] = answer;
        var command = new JsonObject
        {
            ["id"] = number,
            ["method"] = method,
            ["params"] = parameters,
        };
        if (session is not null)
            command["sessionId"] = session;
        try
        {
            await WriteAsync(JsonSerializer.SerializeToUtf8Bytes(command), cancellation);
            return await answer.Task.WaitAsync(Patience, cancellation);
        }
        catch (Exception gone) when (gone is WebSocketException or ObjectDisposedException or TimeoutException)
        {
            throw new IOException($"The browser does not answer to {method}.", gone);
        }
        finally
        {
            _asked.TryRemove(number, out _);
        }
    }

    private async Task WriteAsync(byte[] message, CancellationToken cancellation)
    {
        await _turn.WaitAsync(cancellation);
        try
        {
            await _socket.SendAsync(message, WebSocketMessageType.Text, true, cancellation);
        }
        finally
        {
            _turn.Release();
        }
    }

    private async Task ReadAsync()
    {
        var (chunk, message) = (new byte[64 * 1024], new MemoryStream());
        try
        {
            while (_socket.State == WebSocketState.Open)
            {
                var part = await _socket.ReceiveAsync(chunk, _ending.Token);
                if (part.MessageType == WebSocketMessageType.Close)
                    break;
                message.Write(chunk, 0, part.Count);
                if (!part.EndOfMessage)
                    continue;
                using (var told = JsonDocument.Parse(message.GetBuffer().AsMemory(0, (int)message.Length)))
                    Take(told.RootElement);
                message.SetLength(0);
            }
        }
        catch (Exception ended) when (ended is WebSocketException or OperationCanceledException or JsonException)
        {
            // Whoever waits for an answer is told below.
        }

        foreach (var waiting in _asked.Values)
            waiting.TrySetException(new IOException("The browser is gone."));
    }

    private void Take(JsonElement told)
    {
        if (told.TryGetProperty("id", out var number))
        {
            if (!_asked.TryGetValue(number.GetInt32(), out var waiting))
                return;
            if (told.TryGetProperty("error", out var error))
                waiting.TrySetException(new IOException($"The browser says: {error.GetProperty("message").GetString()}"));
            else
                waiting.TrySetResult(told.GetProperty("result").Clone());
        }
        else if (
            told.TryGetProperty("sessionId", out var session) && _listeners.TryGetValue(session.GetString()!, out var listener)
        )
        {
            listener(told.GetProperty("method").GetString()!, told.GetProperty("params").Clone());
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _ending.CancelAsync();
        await _reading;
        _socket.Dispose();
        _turn.Dispose();
        _ending.Dispose();
    }
}
