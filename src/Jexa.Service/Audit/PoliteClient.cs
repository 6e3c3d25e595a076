using System.Net;
using System.Text;
using AngleSharp.Html.Parser;

namespace Jexa.Service.Audit;

/// <summary>
/// Asks somebody's application, one request after the other: GET only, on one origin, at most so many and so fast, and nothing
/// that its robots.txt (RFC 9309) forbids.
/// </summary>
internal sealed class PoliteClient : IDisposable
{
    /// <summary>The trouble of an address that robots.txt forbids.</summary>
    public const string IsForbidden = "robots.txt forbids it";

    private const int MostBytes = 2 * 1024 * 1024;
    private const int MostRedirects = 5;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    private readonly HttpClient _http;
    private readonly AuditLimits _limits;
    private readonly Uri _origin;
    private readonly TimeProvider _clock;
    private readonly long _started;
    private IReadOnlyList<string> _forbidden = [];

    public PoliteClient(Uri start, AuditLimits limits, TimeProvider clock)
    {
        (_limits, _origin, _clock, _started) = (limits, start, clock, clock.GetTimestamp());
        _http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = false,
                UseProxy = false,
                ConnectTimeout = TimeSpan.FromSeconds(10),
                AutomaticDecompression = DecompressionMethods.All,
            }
        )
        {
            Timeout = Patience,
        };
    }

    /// <summary>Ends it early.</summary>
    public CancellationToken Stop { get; init; }

    /// <summary>Is told what is asked for, and how many requests there were.</summary>
    public Action<string, long> Tell { get; init; } = (_, _) => { };

    /// <summary>How many requests were sent.</summary>
    public int Requests { get; private set; }

    /// <summary>Addresses that were not asked for, because robots.txt forbids them.</summary>
    public int Forbidden { get; private set; }

    /// <summary>Why no more is asked; null as long as more may be.</summary>
    public string? IsOver =>
        Stop.IsCancellationRequested ? "it was stopped"
        : Requests >= _limits.Requests ? $"{_limits.Requests:N0} requests were sent"
        : _clock.GetElapsedTime(_started) >= _limits.Within ? $"{_limits.Within.TotalSeconds:0} s were over"
        : null;

    /// <summary>Reads robots.txt.</summary>
    public async Task BeginAsync(CancellationToken cancellation)
    {
        var answer = await SendAsync(new Uri(_origin, "/robots.txt"), cancellation);
        if (answer.Status == 200)
            _forbidden = Rules(answer.Body);
    }

    /// <summary>The answer at an address, after its redirects on this origin.</summary>
    public async Task<AuditAnswer> GetAsync(Uri address, CancellationToken cancellation)
    {
        var at = address;
        var met = new HashSet<Uri>();
        for (var hops = 0; ; hops++)
        {
            if (_forbidden.Any(rule => at.PathAndQuery.StartsWith(rule, StringComparison.Ordinal)))
            {
                Forbidden++;
                return new AuditAnswer(address, at, 0, "", null, IsForbidden);
            }

            var answer = await SendAsync(at, cancellation);
            if (answer.Location is not { } location)
                return answer with { Asked = address };
            if (!Uri.TryCreate(at, location, out var next))
                return answer with { Asked = address, Trouble = "a redirect to no address" };
            if (next.Authority != _origin.Authority)
                return answer with
                {
                    Asked = address,
                    Trouble = $"a redirect to another origin, {next.GetLeftPart(UriPartial.Authority)}",
                };
            if (!met.Add(next) || hops == MostRedirects)
                return answer with { Asked = address, Trouble = "redirects in a circle" };
            at = new Uri(next.GetLeftPart(UriPartial.Query));
        }
    }

    private async Task<AuditAnswer> SendAsync(Uri address, CancellationToken cancellation)
    {
        if (Requests++ > 0 && _limits.Pause > TimeSpan.Zero)
            await Task.Delay(_limits.Pause, _clock, cancellation);
        Tell(address.PathAndQuery, Requests);
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.TryAddWithoutValidation("Accept", "text/html, application/xhtml+xml;q=0.9, */*;q=0.1");
        request.Headers.TryAddWithoutValidation("User-Agent", _limits.Agent);
        foreach (var (name, value) in _limits.Headers)
            request.Headers.TryAddWithoutValidation(name, value);
        try
        {
            using var answer = await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancellation);
            var status = (int)answer.StatusCode;
            if (status is 301 or 302 or 303 or 307 or 308 && answer.Headers.Location is { } location)
                return new AuditAnswer(address, address, status, "", null, null) { Location = location.OriginalString };
            var body = await BodyAsync(answer, cancellation);
            var type = answer.Content.Headers.ContentType?.MediaType ?? "";
            if (type is not ("text/html" or "application/xhtml+xml" or ""))
                return new AuditAnswer(address, address, status, body, null, $"it is {type}, not HTML")
                {
                    IsFile = status == 200,
                };
            return new AuditAnswer(address, address, status, body, new HtmlParser().ParseDocument(body), null);
        }
        catch (HttpRequestException refused)
        {
            return new AuditAnswer(address, address, 0, "", null, refused.Message);
        }
        catch (IOException broken)
        {
            return new AuditAnswer(address, address, 0, "", null, $"the answer broke off: {broken.Message}");
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            return new AuditAnswer(address, address, 0, "", null, $"no whole answer within {Patience.TotalSeconds:0} s")
            {
                IsSilent = true,
            };
        }
    }

    private static async Task<string> BodyAsync(HttpResponseMessage answer, CancellationToken cancellation)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        patience.CancelAfter(Patience);
        await using var stream = await answer.Content.ReadAsStreamAsync(patience.Token);
        using var bytes = new MemoryStream();
        var chunk = new byte[64 * 1024];
        int read;
        while (bytes.Length < MostBytes && (read = await stream.ReadAsync(chunk, patience.Token)) > 0)
            bytes.Write(chunk, 0, read);
        var encoding = Encoding.UTF8;
        try
        {
            if (answer.Content.Headers.ContentType?.CharSet is { Length: > 0 } named)
                encoding = Encoding.GetEncoding(named.Trim('"'));
        }
        catch (ArgumentException)
        {
            // A name that nobody knows: most of it is readable as UTF-8.
        }

        return encoding.GetString(bytes.GetBuffer(), 0, (int)bytes.Length);
    }

    /// <summary>The path prefixes that robots.txt forbids for all, or for this program.</summary>
    private static List<string> Rules(string robots)
    {
        var (rules, applies, wasAgent) = (new List<string>(), false, false);
        foreach (var line in robots.Split('\n').Select(line => line.Split('#')[0].Trim()).Where(line => line.Contains(':')))
        {
            var (key, value) = (line[..line.IndexOf(':')].Trim().ToLowerInvariant(), line[(line.IndexOf(':') + 1)..].Trim());
            if (key == "user-agent")
            {
                applies = (wasAgent && applies) || value == "*" || value.StartsWith("jexa", StringComparison.OrdinalIgnoreCase);
                wasAgent = true;
                continue;
            }

            wasAgent = false;
            if (applies && key == "disallow" && value.Length > 0)
                rules.Add(value.TrimEnd('*', '$'));
        }

        return rules;
    }

    public void Dispose() => _http.Dispose();
}
