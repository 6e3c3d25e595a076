using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Jexa.Core.Sources;
using Polly;
using Polly.CircuitBreaker;
using Polly.Retry;

namespace Jexa.Sources.Http;

/// <summary>
/// Calls an API: only its own host, within the time limit, with a limit on the size of answers. Failed requests are repeated if
/// that can help. If not, the API is not called for a while.
/// </summary>
internal sealed class ApiCaller : IDisposable
{
    private const int MostRedirects = 3;

    /// <summary>The most requests at the same time.</summary>
    private const int MostConnections = 16;

    private readonly SourceSettings _settings;
    private readonly ApiSettings _api;
    private readonly HttpClient _http;
    private readonly Uri _base;
    private readonly ResiliencePipeline<HttpResponseMessage> _patience;
    private readonly ToldAnswer _told;

    /// <summary>Until when the API does not want to be called (Retry-After), in the clock's milliseconds.</summary>
    private long _quietUntil;

    public ApiCaller(SourceSettings settings)
    {
        _settings = settings;
        _api = settings.Api ?? throw new SourceException(SourceTrouble.Away, "The source says no endpoints.");
        if (
            !Uri.TryCreate(settings.Connection, UriKind.Absolute, out var address)
            || address.Scheme is not ("http" or "https")
            || address.Query.Length > 0
            || address.Fragment.Length > 0
        )
            throw new SourceException(
                SourceTrouble.Away,
                $"{settings.ShownAs} is not the base address of an API, such as https://gauges.example/v1."
            );
        _base = address;
        _told = new ToldAnswer(_api);
        _http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = false,
                MaxConnectionsPerServer = MostConnections,
                PooledConnectionLifetime = TimeSpan.FromMinutes(5),
                AutomaticDecompression = DecompressionMethods.All,
                UseProxy = _api.Proxy is not null,
                Proxy = _api.Proxy is null ? null : new WebProxy(_api.Proxy),
                ConnectCallback = ConnectAsync,
                MaxResponseHeadersLength = 64,
            }
        )
        {
            Timeout = Timeout.InfiniteTimeSpan,
        };
        _patience = Patience();
    }

    /// <summary>Two more tries after a failure, and a pause for an API that fails again and again.</summary>
    private ResiliencePipeline<HttpResponseMessage> Patience() =>
        new ResiliencePipelineBuilder<HttpResponseMessage> { TimeProvider = _settings.Clock }
            .AddRetry(
                new RetryStrategyOptions<HttpResponseMessage>
                {
                    ShouldHandle = Failing(response => RetryAfter(response) is not { } pause || pause <= MostPause),
                    MaxRetryAttempts = 2,
                    BackoffType = DelayBackoffType.Exponential,
                    UseJitter = true,
                    Delay = TimeSpan.FromMilliseconds(100),
                    DelayGenerator = retry =>
                        ValueTask.FromResult(retry.Outcome.Result is { } response ? RetryAfter(response) : null),
                    OnRetry = retry =>
                    {
                        retry.Outcome.Result?.Dispose();
                        return ValueTask.CompletedTask;
                    },
                }
            )
            .AddCircuitBreaker(
                new CircuitBreakerStrategyOptions<HttpResponseMessage>
                {
                    ShouldHandle = Failing(_ => true).Handle<OperationCanceledException>(),
                    FailureRatio = 0.8,
                    MinimumThroughput = 10,
                    SamplingDuration = TimeSpan.FromSeconds(10),
                    BreakDuration = TimeSpan.FromSeconds(3),
                }
            )
            .Build();

    private static PredicateBuilder<HttpResponseMessage> Failing(Func<HttpResponseMessage, bool> also) =>
        new PredicateBuilder<HttpResponseMessage>()
            .Handle<HttpRequestException>()
            .Handle<IOException>()
            .HandleResult(response =>
                (
                    response.StatusCode is HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests
                    || (int)response.StatusCode >= 500
                ) && also(response)
            );

    /// <summary>The request, for people.</summary>
    public string Shown(string path) =>
        $"GET {_settings.ShownAs.TrimEnd('/')}{path}"
        + string.Concat(
            _api.Parameters.Select((parameter, i) => $"{(i == 0 && !path.Contains('?') ? '?' : '&')}{parameter.Name}=…")
        );

    /// <param name="path">Below the base address, or a whole URL of the same host.</param>
    /// <param name="tag">The entity tag of the known answer; null for none.</param>
    /// <param name="mostBytes">The largest answer to read.</param>
    /// <exception cref="SourceException">
    /// The API is away, too slow, refuses, or answers something that cannot be used.
    /// </exception>
    public async Task<ApiAnswer> GetAsync(string path, string? tag, int mostBytes, CancellationToken cancellation)
    {
        var shown = path.StartsWith('/') ? Shown(path) : "GET the next page";
        if (Volatile.Read(ref _quietUntil) is var until && _settings.Clock.Milliseconds() < until)
            throw new SourceException(
                SourceTrouble.Away,
                $"{_settings.ShownAs} asks to wait {(until - _settings.Clock.Milliseconds()) / 1000 + 1} "
                    + "s more (Retry-After)."
            );
        using var limit = new LimitedWait(_settings.TimeLimit, _settings.Clock, cancellation);
        try
        {
            using var response = await SendAsync(Address(path), tag, limit.Token);
            if (
                response.StatusCode is HttpStatusCode.TooManyRequests or HttpStatusCode.ServiceUnavailable
                && RetryAfter(response) is { } pause
                && pause > MostPause
            )
                Volatile.Write(
                    ref _quietUntil,
                    _settings.Clock.Milliseconds() + (long)Math.Min(pause.TotalMilliseconds, MostQuiet.TotalMilliseconds)
                );
            return await ReadAsync(response, shown, mostBytes, limit.Token);
        }
        catch (OperationCanceledException)
        {
            cancellation.ThrowIfCancellationRequested();
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"{shown} was not answered within {_settings.TimeLimit.TotalSeconds:0.#} s."
            );
        }
        catch (BrokenCircuitException)
        {
            throw new SourceException(
                SourceTrouble.Away,
                $"{_settings.ShownAs} failed several times; it is called again in a moment."
            );
        }
        catch (Exception lost) when (lost is HttpRequestException or IOException or SocketException)
        {
            var inner = lost.InnerException as SourceException;
            throw inner
                ?? new SourceException(SourceTrouble.Away, $"{shown} failed: {(lost.InnerException ?? lost).Message}", lost);
        }
    }

    /// <summary>Whether the API answers at all.</summary>
    public async Task ProbeAsync(CancellationToken cancellation)
    {
        using var limit = new LimitedWait(_settings.TimeLimit, _settings.Clock, cancellation);
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, _base);
            using var response = await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, limit.Token);
            if ((int)response.StatusCode >= 500)
                throw new SourceException(SourceTrouble.Away, $"{_settings.ShownAs} answers {(int)response.StatusCode}.");
        }
        catch (OperationCanceledException)
        {
            cancellation.ThrowIfCancellationRequested();
            throw new SourceException(SourceTrouble.TooSlow, $"{_settings.ShownAs} does not answer.");
        }
        catch (Exception lost) when (lost is HttpRequestException or IOException)
        {
            throw lost.InnerException as SourceException
                ?? new SourceException(
                    SourceTrouble.Away,
                    $"{_settings.ShownAs} cannot be reached: {(lost.InnerException ?? lost).Message}",
                    lost
                );
        }
    }

    public void Dispose() => _http.Dispose();

    /// <summary>The address exactly as it is written: it is not normalised.</summary>
    private Uri Address(string path)
    {
        if (!path.StartsWith('/'))
            return new Uri(path, new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true });
        var text = new StringBuilder(_base.GetLeftPart(UriPartial.Path).TrimEnd('/')).Append(path);
        foreach (var (name, value) in _api.Parameters)
            text.Append(text.ToString().Contains('?') ? '&' : '?')
                .Append(Uri.EscapeDataString(name))
                .Append('=')
                .Append(Uri.EscapeDataString(value));
        return new Uri(text.ToString(), new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true });
    }

    private async Task<HttpResponseMessage> SendAsync(Uri address, string? tag, CancellationToken cancellation)
    {
        for (var redirects = 0; ; redirects++)
        {
            var target = address;
            var response = await _patience.ExecuteAsync(
                async token =>
                {
                    using var request = new HttpRequestMessage(HttpMethod.Get, target);
                    request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("application/json"));
                    if (tag is not null)
                        request.Headers.TryAddWithoutValidation("If-None-Match", tag);
                    foreach (var (name, value) in _api.Headers)
                        request.Headers.TryAddWithoutValidation(name, value);
                    return await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, token);
                },
                cancellation
            );
            if (
                (int)response.StatusCode is not (301 or 302 or 303 or 307 or 308)
                || response.Headers.Location is not { } location
            )
                return response;
            var next = new Uri(address, location);
            response.Dispose();
            if (!IsOwn(next))
                throw Fault($"{_settings.ShownAs} leads to another host, {next.Host}, which is not followed.");
            if (redirects >= MostRedirects)
                throw Fault($"{_settings.ShownAs} leads from address to address without end.");
            address = next;
        }
    }

    private bool IsOwn(Uri address) =>
        address.Scheme == _base.Scheme
        && address.Host.Equals(_base.Host, StringComparison.OrdinalIgnoreCase)
        && address.Port == _base.Port;

    private async Task<ApiAnswer> ReadAsync(
        HttpResponseMessage response,
        string shown,
        int mostBytes,
        CancellationToken cancellation
    )
    {
        var status = response.StatusCode;
        if (status == HttpStatusCode.NotModified)
            return new ApiAnswer(
                status,
                null,
                response.Headers.ETag?.ToString(),
                AgeOf(response),
                null,
                $"{(int)status}: as it was"
            );
        if (response.Content.Headers.ContentLength > mostBytes)
            throw Fault(
                $"{shown} was answered with {response.Content.Headers.ContentLength:N0} bytes, more than the "
                    + $"{mostBytes:N0} that are read."
            );
        var body = await BodyAsync(response, shown, mostBytes, cancellation);
        var remark = $"{(int)status} {response.Content.Headers.ContentType}: {_told.Of(body)}";
        CheckStatus((int)status, shown, remark);
        if (body.Length == 0 || (int)status is 404 or 410 or 204)
            return new ApiAnswer(status, null, null, TimeSpan.Zero, null, remark);
        try
        {
            using var document = JsonDocument.Parse(body);
            return new ApiAnswer(
                status,
                document.RootElement.Clone(),
                response.Headers.ETag?.ToString(),
                AgeOf(response),
                NextOf(response),
                remark
            );
        }
        catch (JsonException)
        {
            throw Fault(
                $"{shown} was answered with {response.Content.Headers.ContentType?.MediaType ?? "something"} "
                    + $"that is not JSON: {_told.Of(body)}"
            );
        }
    }

    /// <exception cref="SourceException">The status says neither that there is an answer nor that there is no record.</exception>
    private static void CheckStatus(int status, string shown, string remark)
    {
        switch (status)
        {
            case 404 or 410 or (>= 200 and < 300):
                break;
            case 401 or 403:
                throw new SourceException(
                    SourceTrouble.Away,
                    $"{shown} was refused ({status}): the credentials are missing, wrong or not sufficient."
                )
                {
                    IsFinding = true,
                };
            case 408 or 429 or >= 500:
                throw new SourceException(SourceTrouble.Away, $"{shown} was answered with {remark}.");
            default:
                throw Fault($"{shown} was answered with {remark}.");
        }
    }

    private static async Task<ReadOnlyMemory<byte>> BodyAsync(
        HttpResponseMessage response,
        string shown,
        int mostBytes,
        CancellationToken cancellation
    )
    {
        await using var stream = await response.Content.ReadAsStreamAsync(cancellation);
        using var body = new MemoryStream();
        var piece = new byte[16 * 1024];
        int read;
        while ((read = await stream.ReadAsync(piece, cancellation)) > 0)
        {
            if (body.Length + read > mostBytes)
                throw Fault($"{shown} was answered with more than the {mostBytes:N0} bytes that are read.");
            body.Write(piece, 0, read);
        }

        return body.GetBuffer().AsMemory(0, (int)body.Length);
    }

    /// <summary>The longest pause to wait for within a visit. After a longer one the visitor must try again.</summary>
    private static TimeSpan MostPause { get; } = TimeSpan.FromSeconds(1);

    private static TimeSpan MostQuiet { get; } = TimeSpan.FromMinutes(1);

    private TimeSpan? RetryAfter(HttpResponseMessage response) =>
        response.Headers.RetryAfter switch
        {
            { Delta: { } pause } => pause,
            { Date: { } at } => at - _settings.Clock.GetUtcNow() is var left && left > TimeSpan.Zero ? left : TimeSpan.Zero,
            _ => null,
        };

    private static TimeSpan AgeOf(HttpResponseMessage response) =>
        response.Headers.CacheControl is { NoStore: false, NoCache: false, MaxAge: { } age } ? age : TimeSpan.Zero;

    /// <summary>The next page according to a Link header (RFC 8288), only on the same host.</summary>
    private string? NextOf(HttpResponseMessage response)
    {
        if (!response.Headers.TryGetValues("Link", out var values))
            return null;
        foreach (var link in values.SelectMany(value => value.Split(",")))
        {
            var (open, close) = (link.IndexOf('<'), link.IndexOf('>'));
            if (
                open < 0
                || close < open
                || !link[close..]
                    .Replace("\"", "")
                    .Split(';')
                    .Any(part => part.Trim().Equals("rel=next", StringComparison.OrdinalIgnoreCase))
            )
                continue;
            var next = new Uri(response.RequestMessage!.RequestUri!, link[(open + 1)..close]);
            return IsOwn(next)
                ? next.AbsoluteUri
                : throw Fault($"{_settings.ShownAs} names a next page on another host, {next.Host}, which is not followed.");
        }

        return null;
    }

    private static SourceException Fault(string message) => new(SourceTrouble.Failed, message) { IsFinding = true };

    private async ValueTask<Stream> ConnectAsync(SocketsHttpConnectionContext context, CancellationToken cancellation)
    {
        var addresses = await Dns.GetHostAddressesAsync(context.DnsEndPoint.Host, cancellation);
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            var allowed = addresses.Where(address => _api.LinkLocal || !LinkLocal.Is(address)).ToArray();
            if (allowed.Length == 0)
                throw new SourceException(
                    SourceTrouble.Away,
                    $"{context.DnsEndPoint.Host} is a link-local address. Such addresses are called only if the app file "
                        + "says link_local: allowed."
                )
                {
                    IsFinding = true,
                };
            await socket.ConnectAsync(allowed, context.DnsEndPoint.Port, cancellation);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }
}
