using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;

namespace Jexa.Demo;

/// <summary>
/// A small stand-in for an outside service: water gauges on the valley's rivers, over HTTP as JSON. It can behave well and badly:
/// each
/// way below a prefix of its own.
/// <list type="bullet">
/// <item><c>/gauges</c> (all, <c>?river=</c>, <c>?page=</c>), <c>/gauges/CODE</c>: plain objects and arrays</item>
/// <item><c>/wrapped/…</c>: within <c>data</c> or <c>items</c>; <c>/nested/…</c>: two deep; <c>/array/…</c>: one record within an
/// array; <c>/named</c>: an object of objects</item>
/// <item><c>/linked</c>: pages with Link headers; <c>/paged?page=</c>, <c>/offset?offset=</c></item>
/// <item><c>/slow/…</c>: after three seconds; <c>/drip/…</c>: a byte a second; <c>/failing/…</c>: 500; <c>/refusing/…</c>: 401
/// unless a token is sent</item>
/// <item><c>/lying/…</c>: another gauge than asked for; <c>/twice/…</c>: two; <c>/empty/…</c>: nothing; <c>/page/…</c>: HTML;
/// <c>/broken/…</c>: half of it; <c>/huge/…</c>: 200 MB; <c>/away/…</c>: leads to another host</item>
/// <item><c>/tagged/…</c>: with an entity tag; <c>/aged/…</c>: good for a minute; <c>/busy/…</c>: 429, to be left alone for half
/// a minute</item>
/// <item><c>/openapi.json</c>: what it says of itself</item>
/// </list>
/// </summary>
public sealed class GaugeService : IDisposable
{
    /// <summary>Where the demo's app file looks for it.</summary>
    public const int Port = 7449;

    private const int PageSize = 5;

    private readonly TcpListener _listener;
    private readonly CancellationTokenSource _ending = new();
    private int _requests;

    private GaugeService(TcpListener listener)
    {
        _listener = listener;
        _ = AcceptAsync();
    }

    public string Url => $"http://127.0.0.1:{((IPEndPoint)_listener.LocalEndpoint).Port}";

    /// <summary>How many requests it has had.</summary>
    public int Requests => Volatile.Read(ref _requests);

    /// <summary>Whether it is away: it closes every connection at once.</summary>
    public bool IsAway { get; set; }

    /// <summary>Starts it; null if the port is taken, by another demo more likely than not.</summary>
    /// <param name="port">0 for any that is free.</param>
    public static GaugeService? Start(int port = Port)
    {
        var listener = new TcpListener(IPAddress.Loopback, port);
        try
        {
            listener.Start();
            return new GaugeService(listener);
        }
        catch (SocketException)
        {
            listener.Dispose();
            return null;
        }
    }

    public void Dispose()
    {
        _ending.Cancel();
        _listener.Dispose();
        _ending.Dispose();
    }

    /// <summary>The gauges: a few on each river, the same on every machine; levels of the year's first day.</summary>
    public static IReadOnlyList<Dictionary<string, object?>> Gauges { get; } =
    [
        .. RegisterWords.Rivers.SelectMany(
            (river, at) =>
                Enumerable
                    .Range(1, 1 + (at % 3))
                    .Select(number =>
                    {
                        var random = new SplitMix((ulong)(20_260_300 + (at * 10) + number));
                        return new Dictionary<string, object?>
                        {
                            ["code"] = $"G-{at + 1:00}{number}",
                            ["number"] = 9_007_199_254_740_993 + (at * 10) + number,
                            ["river"] = river,
                            ["place"] = number switch
                            {
                                1 => "Upper weir",
                                2 => "Mill race",
                                _ => "Lower lock",
                            },
                            ["level_m"] = (20 + random.Below(380)) / 100m,
                            ["rising"] = random.Below(2) == 0,
                            ["measured_at"] = new DateTime(2026, 1, 1, 6, 10 * random.Below(6), 0, DateTimeKind.Utc),
                            ["note"] = random.Below(4) == 0 ? "Ice on the sensor." : null,
                        };
                    })
        ),
    ];

    private async Task AcceptAsync()
    {
        try
        {
            while (true)
            {
                var client = await _listener.AcceptTcpClientAsync(_ending.Token);
                _ = ServeAsync(client);
            }
        }
        catch (Exception ended) when (ended is OperationCanceledException or ObjectDisposedException or SocketException)
        {
            // It was stopped.
        }
    }

    private async Task ServeAsync(TcpClient client)
    {
        try
        {
            using (client)
            {
                if (IsAway)
                    return;
                await using var stream = client.GetStream();
                using var reader = new StreamReader(stream, Encoding.ASCII, leaveOpen: true);
                while (await reader.ReadLineAsync(_ending.Token) is { Length: > 0 } line)
                {
                    var headers = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
                    while (await reader.ReadLineAsync(_ending.Token) is { Length: > 0 } header)
                        if (header.Split(':', 2) is [var name, var value])
                            headers[name] = value.Trim();
                    Interlocked.Increment(ref _requests);
                    if (IsAway)
                        return;
                    await AnswerAsync(line.Split(' ')[1], headers, stream);
                }
            }
        }
        catch (Exception left)
            when (left is IOException or OperationCanceledException or ObjectDisposedException or SocketException)
        {
            // Whoever asked has gone.
        }
    }

    private async Task AnswerAsync(string target, Dictionary<string, string> headers, NetworkStream stream)
    {
        var (path, query) = target.Split('?', 2) is [var before, var behind] ? (before, behind) : (target, "");
        var asked = query
            .Split('&')
            .Select(pair => pair.Split('=', 2))
            .Where(pair => pair.Length == 2)
            .GroupBy(pair => pair[0])
            .ToDictionary(group => group.Key, group => Uri.UnescapeDataString(group.First()[1].Replace('+', ' ')));
        var segments = path.Split('/', StringSplitOptions.RemoveEmptyEntries).Select(Uri.UnescapeDataString).ToArray();
        var way = segments is ["gauges", ..] or [] ? "gauges" : segments[0];
        var code = segments.Length > 1 && segments[^1] != "gauges" ? segments[^1] : asked.GetValueOrDefault("code");
        var found = Gauges.Where(gauge => (string)gauge["code"]! == code).ToList();
        switch (way)
        {
            case "slow":
                await Task.Delay(3000, _ending.Token);
                break;
            case "failing":
                await SendAsync(stream, 500, Json(new { error = "out of order" }));
                return;
            case "refusing"
                when headers.GetValueOrDefault("Authorization") != "Bearer river-water"
                    && asked.GetValueOrDefault("token") != "river-water":
                await SendAsync(stream, 401, Json(new { error = "who are you?" }));
                return;
            case "lying":
                found = [Gauges.First(gauge => (string)gauge["code"]! != code)];
                break;
            case "page":
                await SendAsync(
                    stream,
                    200,
                    "<!doctype html><title>Welcome</title><p>Nothing to see."u8.ToArray(),
                    "Content-Type: text/html"
                );
                return;
            case "broken":
                await SendAsync(stream, 200, "{\"code\": \"G-011\", \"level"u8.ToArray());
                return;
            case "away":
                await SendAsync(stream, 302, [], "Location: http://127.0.0.2:1/elsewhere");
                return;
            case "huge":
                await SendAsync(stream, 200, [], "Content-Type: application/json", length: 200L << 20);
                for (var piece = 0; piece < 200 * 16; piece++)
                    await stream.WriteAsync(new byte[64 * 1024], _ending.Token);
                return;
            case "drip":
                await SendAsync(stream, 200, [], "Content-Type: application/json", length: 100);
                for (var i = 0; i < 100; i++)
                {
                    await stream.WriteAsync(" "u8.ToArray(), _ending.Token);
                    await Task.Delay(1000, _ending.Token);
                }

                return;
            case "busy":
                await SendAsync(stream, 429, Json(new { error = "too many" }), "Retry-After: 30");
                return;
            case "openapi.json":
                await SendAsync(stream, 200, GaugeDescription.Text());
                return;
            case "tagged" when (found.Count == 1 || code is null) && headers.GetValueOrDefault("If-None-Match") == "\"same\"":
                await SendAsync(stream, 304, [], "ETag: \"same\"");
                return;
        }

        if (code is null || way is "linked" or "paged" or "offset" or "named" && segments.Length == 1)
        {
            await ListAsync(way, asked, stream);
            return;
        }

        if (way == "empty")
            await SendAsync(stream, 200, []);
        else if (way == "twice")
            await SendAsync(stream, 200, Json(new[] { found[0], found[0] }));
        else if (way == "nested")
            await SendAsync(stream, 200, Json(new { data = new { gauge = found[0] } }));
        else if (way == "array")
            await SendAsync(stream, 200, Json(found));
        else if (found.Count == 0)
            await SendAsync(stream, 404, Json(new { error = "no such gauge" }));
        else
            await SendAsync(
                stream,
                200,
                Json(
                    way == "wrapped" ? new { data = found[0] }
                    : way == "named" ? new Dictionary<string, Dictionary<string, object?>> { [code] = Without(found[0], "code") }
                    : found[0]
                ),
                HeaderOf(way)
            );
    }

    private static async Task ListAsync(string way, Dictionary<string, string> asked, NetworkStream stream)
    {
        var gauges = Gauges
            .Where(gauge => !asked.TryGetValue("river", out var river) || (string)gauge["river"]! == river)
            .ToList();
        if (way == "named")
        {
            await SendAsync(
                stream,
                200,
                Json(gauges.ToDictionary(gauge => (string)gauge["code"]!, gauge => Without(gauge, "code")))
            );
            return;
        }

        var page = asked.TryGetValue("page", out var text) && int.TryParse(text, out var number) ? number : 1;
        var skipped =
            way != "offset" ? (page - 1) * PageSize
            : asked.TryGetValue("offset", out var offset) ? int.Parse(offset, CultureInfo.InvariantCulture)
            : 0;
        if (way is "linked" or "paged" or "offset")
        {
            var window = gauges.Skip(skipped).Take(PageSize).ToList();
            await SendAsync(
                stream,
                200,
                Json(window),
                way == "linked" && skipped + PageSize < gauges.Count ? $"Link: </linked?page={page + 1}>; rel=\"next\"" : null
            );
            return;
        }

        await SendAsync(
            stream,
            200,
            way switch
            {
                "wrapped" => Json(new { count = gauges.Count, items = gauges }),
                "nested" => Json(
                    new
                    {
                        status = "ok",
                        data = new
                        {
                            total = gauges.Count,
                            items = gauges,
                            unit = "m",
                        },
                    }
                ),
                _ => Json(gauges),
            },
            HeaderOf(way)
        );
    }

    private static string? HeaderOf(string way) =>
        way switch
        {
            "tagged" => "ETag: \"same\"",
            "aged" => "Cache-Control: max-age=60",
            _ => null,
        };

    private static Dictionary<string, object?> Without(Dictionary<string, object?> gauge, string member) =>
        gauge.Where(pair => pair.Key != member).ToDictionary();

    private static byte[] Json(object value) => JsonSerializer.SerializeToUtf8Bytes(value);

    private static async Task SendAsync(NetworkStream stream, int status, byte[] body, string? header = null, long? length = null)
    {
        var head =
            $"HTTP/1.1 {status} {(HttpStatusCode)status}\r\n"
            + (header?.StartsWith("Content-Type", StringComparison.Ordinal) == true ? "" : "Content-Type: application/json\r\n")
            + $"{(header is null ? "" : header + "\r\n")}Content-Length: "
            + $"{length ?? body.Length}\r\n\r\n";
        await stream.WriteAsync(Encoding.ASCII.GetBytes(head));
        await stream.WriteAsync(body);
    }
}
