using System.Diagnostics;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Jexa.Service.Browsing;

/// <summary>A tab of a browser: goes to addresses, waits until a page has come to rest, and asks it what it shows.</summary>
internal sealed class Tab : IAsyncDisposable
{
    /// <summary>A page is at rest when it has asked for nothing for so long.</summary>
    private static readonly TimeSpan Quiet = TimeSpan.FromMilliseconds(120);

    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(10);

    private readonly DevTools _tools;
    private readonly string _context;
    private readonly string _frame;
    private readonly string _session;
    private readonly TabRules _rules;
    private readonly Lock _lock = new();
    private readonly HashSet<string> _open = [];
    private readonly List<string> _held = [];
    private readonly HashSet<string> _heldBack = [];
    private readonly List<string> _errors = [];
    private readonly List<string> _asked = [];
    private long _active = Stopwatch.GetTimestamp();
    private volatile bool _isLoaded;
    private volatile bool _holds;
    private string _document = "";

    private Tab(DevTools tools, TabNames names, TabRules rules) =>
        (_tools, _context, _frame, _session, _rules) = (tools, names.Context, names.Frame, names.Session, rules);

    /// <summary>What the browser calls its cookies and storage.</summary>
    internal string Context => _context;

    /// <summary>The status of the document; 0 if none came.</summary>
    public int Status { get; private set; }

    /// <summary>The media type of the document.</summary>
    public string Type { get; private set; } = "";

    /// <summary>Why the document did not come; null if it did.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Whether data that its pages ask for is held back.</summary>
    public bool Holds
    {
        get => _holds;
        set => _holds = value;
    }

    /// <summary>How many requests are held back.</summary>
    public int Held
    {
        get
        {
            lock (_lock)
                return _held.Count;
        }
    }

    /// <summary>What was thrown or written as an error since the last document.</summary>
    public IReadOnlyList<string> Errors
    {
        get
        {
            lock (_lock)
                return [.. _errors];
        }
    }

    /// <summary>The data that was asked for since the last document.</summary>
    public IReadOnlyList<string> Asked
    {
        get
        {
            lock (_lock)
                return [.. _asked];
        }
    }

    internal static async Task<Tab> BeginAsync(DevTools tools, TabNames names, TabRules rules, CancellationToken cancellation)
    {
        var tab = new Tab(tools, names, rules);
        tools.Listen(names.Session, tab.Take);
        foreach (var domain in new[] { "Page", "Network", "Runtime", "Log" })
            await tab.SendAsync($"{domain}.enable", [], cancellation);
        await tab.SendAsync("Fetch.enable", new JsonObject { ["patterns"] = new JsonArray(new JsonObject()) }, cancellation);
        var agent = await tab.EvaluateAsync("navigator.userAgent", cancellation);
        await tab.SendAsync(
            "Network.setUserAgentOverride",
            new JsonObject { ["userAgent"] = $"{agent.GetString()} {rules.Agent}" },
            cancellation
        );
        var headers = new JsonObject();
        foreach (var (name, value) in rules.Headers)
            headers[name] = value;
        await tab.SendAsync("Network.setExtraHTTPHeaders", new JsonObject { ["headers"] = headers }, cancellation);
        return tab;
    }

    /// <summary>Forgets all that an origin has left: cookies and storage.</summary>
    public async Task ForgetAsync(Uri origin, CancellationToken cancellation)
    {
        await SendAsync("Network.clearBrowserCookies", [], cancellation);
        await SendAsync(
            "Storage.clearDataForOrigin",
            new JsonObject
            {
                ["origin"] = origin.GetLeftPart(UriPartial.Authority),
                ["storageTypes"] = "cookies,local_storage,indexeddb,websql,cache_storage,service_workers",
            },
            cancellation
        );
    }

    /// <summary>Goes to an address, and waits until the page is at rest.</summary>
    /// <param name="isFresh">Whether the document is loaded anew, even if only the fragment is another.</param>
    public async Task GoAsync(Uri address, bool isFresh, CancellationToken cancellation)
    {
        var document = address.GetLeftPart(UriPartial.Query);
        if (isFresh && document == _document)
            await NavigateAsync("about:blank", cancellation);
        _document = document;
        await NavigateAsync(address.AbsoluteUri, cancellation);
        if (Trouble is null)
            await RestAsync(cancellation);
    }

    private async Task NavigateAsync(string url, CancellationToken cancellation)
    {
        var (status, type) = (Status, Type);
        lock (_lock)
        {
            (Status, Type, Trouble, _isLoaded) = (0, "", null, false);
            _errors.Clear();
            _asked.Clear();
            _open.Clear();
        }

        var answer = await SendAsync("Page.navigate", new JsonObject { ["url"] = url }, cancellation);
        Trouble = answer.TryGetProperty("errorText", out var error) ? error.GetString() : null;
        // Only the fragment is another: the document stayed.
        if (!answer.TryGetProperty("loaderId", out _))
            lock (_lock)
                (Status, Type, _isLoaded) = (status, type, true);
        for (var tries = 0; url == "about:blank" && !_isLoaded && tries < 500; tries++)
            await Task.Delay(5, cancellation);
    }

    /// <summary>Waits until the page is loaded, has asked for nothing for a moment, and has nothing to do.</summary>
    public async Task RestAsync(CancellationToken cancellation)
    {
        lock (_lock)
            _active = Stopwatch.GetTimestamp();
        var began = Stopwatch.GetTimestamp();
        while (Stopwatch.GetElapsedTime(began) < Longest)
        {
            if (!IsAtRest())
            {
                await Task.Delay(10, cancellation);
                continue;
            }

            // On a busy machine its script may not have come to what it wants to ask for.
            var active = Interlocked.Read(ref _active);
            await IdleAsync(cancellation);
            if (IsAtRest() && active == Interlocked.Read(ref _active))
                return;
        }
    }

    private async Task IdleAsync(CancellationToken cancellation)
    {
        try
        {
            await EvaluateAsync("new Promise((idle) => requestIdleCallback(() => idle(true), { timeout: 2000 }))", cancellation);
        }
        catch (IOException)
        {
            // Another document has come meanwhile.
        }
    }

    private bool IsAtRest()
    {
        lock (_lock)
            return _isLoaded && _open.IsSubsetOf(_heldBack) && Stopwatch.GetElapsedTime(_active) >= Quiet;
    }

    /// <summary>The value of an expression in the page.</summary>
    /// <exception cref="IOException">It throws, or the browser is gone.</exception>
    public async Task<JsonElement> EvaluateAsync(string script, CancellationToken cancellation)
    {
        var answer = await SendAsync(
            "Runtime.evaluate",
            new JsonObject
            {
                ["expression"] = script,
                ["returnByValue"] = true,
                ["awaitPromise"] = true,
                ["userGesture"] = true,
            },
            cancellation
        );
        if (answer.TryGetProperty("exceptionDetails", out var thrown))
            throw new IOException($"The page refuses: {thrown.GetProperty("text").GetString()}");
        return answer.GetProperty("result").TryGetProperty("value", out var value) ? value.Clone() : default;
    }

    /// <summary>The page as it is drawn now, as HTML.</summary>
    public async Task<string> HtmlAsync(CancellationToken cancellation) =>
        (await EvaluateAsync("document.documentElement ? document.documentElement.outerHTML : ''", cancellation)).GetString()
        ?? "";

    /// <summary>The address of the page as it is now.</summary>
    public async Task<Uri> AddressAsync(CancellationToken cancellation) =>
        new((await EvaluateAsync("location.href", cancellation)).GetString()!);

    /// <summary>A picture of the page, as JPEG.</summary>
    public async Task<byte[]> PictureAsync(CancellationToken cancellation)
    {
        var answer = await SendAsync(
            "Page.captureScreenshot",
            new JsonObject
            {
                ["format"] = "jpeg",
                ["quality"] = 55,
                ["optimizeForSpeed"] = true,
            },
            cancellation
        );
        return answer.GetProperty("data").GetBytesFromBase64();
    }

    /// <summary>Lets the data come that was held back.</summary>
    public async Task ReleaseAsync(CancellationToken cancellation)
    {
        List<string> held;
        lock (_lock)
        {
            held = [.. _held];
            _held.Clear();
            _heldBack.Clear();
        }

        Holds = false;
        foreach (var request in held)
        {
            try
            {
                await SendAsync("Fetch.continueRequest", new JsonObject { ["requestId"] = request }, cancellation);
            }
            catch (IOException)
            {
                // The page does not want it any more.
            }
        }
    }

    private Task<JsonElement> SendAsync(string method, JsonObject parameters, CancellationToken cancellation) =>
        _tools.SendAsync(method, parameters, _session, cancellation);

    private void Take(string method, JsonElement told)
    {
        lock (_lock)
            switch (method)
            {
                case "Fetch.requestPaused":
                    Decide(told);
                    break;
                case "Network.requestWillBeSent":
                    if (TextOf(told, "type") is not ("EventSource" or "WebSocket"))
                        _open.Add(TextOf(told, "requestId"));
                    _active = Stopwatch.GetTimestamp();
                    break;
                case "Network.loadingFinished" or "Network.loadingFailed":
                    _open.Remove(TextOf(told, "requestId"));
                    _active = Stopwatch.GetTimestamp();
                    break;
                case "Network.responseReceived" when TextOf(told, "type") == "Document" && TextOf(told, "frameId") == _frame:
                    var response = told.GetProperty("response");
                    (Status, Type) = (response.GetProperty("status").GetInt32(), TextOf(response, "mimeType"));
                    break;
                case "Page.loadEventFired":
                    (_isLoaded, _active) = (true, Stopwatch.GetTimestamp());
                    break;
                case "Runtime.exceptionThrown":
                    _errors.Add(Thrown(told.GetProperty("exceptionDetails")));
                    break;
                case "Runtime.consoleAPICalled" when TextOf(told, "type") == "error":
                    _errors.Add(Written(told.GetProperty("args")));
                    break;
            }
    }

    /// <summary>Lets a request go, holds it back, or ends it.</summary>
    private void Decide(JsonElement told)
    {
        var (request, number, kind) = (told.GetProperty("request"), TextOf(told, "requestId"), TextOf(told, "resourceType"));
        var isData = kind is "XHR" or "Fetch";
        if (
            !Uri.TryCreate(TextOf(request, "url"), UriKind.Absolute, out var address)
            || _rules.Withholds(TextOf(request, "method"), address, kind == "Document")
        )
        {
            Answer("Fetch.failRequest", new JsonObject { ["requestId"] = number, ["errorReason"] = "BlockedByClient" });
            return;
        }

        if (isData || kind == "Document")
            _rules.Sent(address);
        if (isData)
            _asked.Add(address.PathAndQuery);
        if (isData && Holds)
        {
            _held.Add(number);
            // It is not waited for.
            if (told.TryGetProperty("networkId", out var network))
                _heldBack.Add(network.GetString()!);
            return;
        }

        Answer("Fetch.continueRequest", new JsonObject { ["requestId"] = number });
    }

    /// <summary>Sends without waiting: this is called while the connection is read.</summary>
    private void Answer(string method, JsonObject parameters) =>
        _ = Task.Run(async () =>
        {
            try
            {
                await SendAsync(method, parameters, CancellationToken.None);
            }
            catch (IOException)
            {
                // The page does not want it any more.
            }
        });

    private static string TextOf(JsonElement json, string name) =>
        json.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString()! : "";

    private static string Thrown(JsonElement details) =>
        details.TryGetProperty("exception", out var exception) && TextOf(exception, "description") is { Length: > 0 } says
            ? says.Split('\n')[0]
            : TextOf(details, "text");

    private static string Written(JsonElement arguments) =>
        string.Join(
            ' ',
            arguments
                .EnumerateArray()
                .Select(one =>
                    one.TryGetProperty("value", out var value) ? value.ToString() : TextOf(one, "description").Split('\n')[0]
                )
        );

    public async ValueTask DisposeAsync()
    {
        _tools.Forget(_session);
        try
        {
            await _tools.SendAsync(
                "Target.disposeBrowserContext",
                new JsonObject { ["browserContextId"] = _context },
                null,
                CancellationToken.None
            );
        }
        catch (IOException)
        {
            // The browser has ended, and its tabs with it.
        }
    }
}
