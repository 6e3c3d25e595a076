using System.Net;
using System.Text;

namespace Jexa.Service.Audit;

/// <summary>
/// Asks somebody's application, one request after the other: GET only, on one origin, at most so many and so fast, and nothing
/// that its robots.txt (RFC 9309) forbids.
/// </summary>
internal sealed class PoliteClient : IPageAsker, IDisposable
{
    private const int MostBytes = 2 * 1024 * 1024;
    private const int MostRedirects = 5;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    private readonly HttpClient _http;
    private readonly AuditBudget _budget;
    private readonly RobotsRules _robots;
    private readonly Uri _origin;

    public PoliteClient(Uri start, AuditBudget budget, RobotsRules robots)
    {
        (_budget, _robots, _origin) = (budget, robots, start);
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

    /// <summary>Reads robots.txt.</summary>
    public async Task BeginAsync(CancellationToken cancellation)
    {
        var answer = await SendAsync(new Uri(_origin, "/robots.txt"), null, cancellation);
        if (answer.Status == 200)
            _robots.Read(answer.Body);
    }

    public Task<AuditAnswer> GetAsync(Uri address, CancellationToken cancellation) => GetAsync(address, null, cancellation);

    public async Task<AuditAnswer> GetAfterAsync(Uri before, Uri address, CancellationToken cancellation)
    {
        var session = new AuditSession(before);
        await GetAsync(before, session, cancellation);
        return await GetAsync(address, session, cancellation);
    }

    /// <summary>What a picture or another file is answered with.</summary>
    public async Task<AuditFile> FileAsync(Uri address, CancellationToken cancellation)
    {
        if (_robots.Forbids(address))
            return new AuditFile(0, "", 0, RobotsRules.IsForbidden);
        var answer = await SendAsync(address, null, cancellation);
        return new AuditFile(answer.Status, answer.Type, answer.Body.Length, answer.Status == 0 ? answer.Trouble : null);
    }

    /// <summary>The answer at an address, after its redirects on this origin.</summary>
    private async Task<AuditAnswer> GetAsync(Uri address, AuditSession? session, CancellationToken cancellation)
    {
        var at = address;
        var met = new HashSet<Uri>();
        for (var hops = 0; ; hops++)
        {
            if (_robots.Forbids(at))
                return AuditAnswer.Nothing(at, RobotsRules.IsForbidden) with { Asked = address };
            var answer = await SendAsync(at, session, cancellation);
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

    /// <summary>Sends a request; once more if the application asks to wait.</summary>
    private async Task<AuditAnswer> SendAsync(Uri address, AuditSession? session, CancellationToken cancellation)
    {
        var answer = await SendOnceAsync(address, session, cancellation);
        if (answer.Status != 429 || !await _budget.WaitAsync(answer.Wait, false, cancellation))
            return answer;
        var second = await SendOnceAsync(address, session, cancellation);
        if (second.Status == 429)
            await _budget.WaitAsync(second.Wait, true, cancellation);
        return second;
    }

    private async Task<AuditAnswer> SendOnceAsync(Uri address, AuditSession? session, CancellationToken cancellation)
    {
        await _budget.SpendAsync(address, cancellation);
        var began = _budget.Clock.GetTimestamp();
        using var request = new HttpRequestMessage(HttpMethod.Get, address);
        request.Headers.TryAddWithoutValidation("Accept", "text/html, application/xhtml+xml;q=0.9, */*;q=0.1");
        request.Headers.TryAddWithoutValidation("User-Agent", _budget.Limits.Agent);
        foreach (var (name, value) in _budget.Limits.Headers)
            request.Headers.TryAddWithoutValidation(name, value);
        session?.AddTo(request);
        try
        {
            using var answer = await _http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancellation);
            var status = (int)answer.StatusCode;
            session?.Take(address, answer);
            if (status is 301 or 302 or 303 or 307 or 308 && answer.Headers.Location is { } location)
                return new AuditAnswer(address, address, status, "", null, null) { Location = location.OriginalString };
            var body = await BodyAsync(answer, cancellation);
            return Read(address, answer, body) with { Took = _budget.Clock.GetElapsedTime(began) };
        }
        catch (HttpRequestException refused)
        {
            return AuditAnswer.Nothing(address, refused.Message);
        }
        catch (IOException broken)
        {
            return AuditAnswer.Nothing(address, $"the answer broke off: {broken.Message}");
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            return AuditAnswer.Nothing(address, $"no whole answer within {Patience.TotalSeconds:0} s") with { IsSilent = true };
        }
    }

    private AuditAnswer Read(Uri address, HttpResponseMessage answer, string body)
    {
        var type = answer.Content.Headers.ContentType?.MediaType ?? "";
        return AuditAnswer.Of(address, address, (int)answer.StatusCode, body, type) with
        {
            Wait = answer.Headers.RetryAfter?.Delta
                ?? (answer.Headers.RetryAfter?.Date is { } until ? until - _budget.Clock.GetUtcNow() : TimeSpan.FromSeconds(5)),
        };
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

    public void Dispose() => _http.Dispose();
}
