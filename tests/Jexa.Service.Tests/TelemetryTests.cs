using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>What a collector of OpenTelemetry is told, and what the log says as JSON.</summary>
public class TelemetryTests
{
    [Fact]
    public async Task A_collector_is_told_of_every_visit_and_of_nothing_in_the_records()
    {
        using var collector = new Collector();
        using (var service = await RunningService.StartAsync("demo", "--telemetry", collector.Url))
        {
            Assert.Contains("Oak Footbridge", (await service.GetAsync("/bridges/7")).Body);
            await service.GetAsync(
                "/bridges/7?note=private",
                "traceparent: 00-0af7651916cd43dd8448eb211c80319c-b7ad6b7169203331-01\r\n"
            );
            await service.GetAsync("/bridges/x");
            await service.EndAsync();
        }

        var spans = collector.Told("/v1/traces");
        foreach (
            var said in new[]
            {
                "GET /bridges/{id}",
                "match",
                "parse",
                "load",
                "decide",
                "answer",
                "jexa.outcome",
                "found",
                "malformed",
                "http.route",
                "url.path",
            }
        )
            Assert.Contains(said, spans);
        Assert.DoesNotContain("private", spans);
        Assert.DoesNotContain("Oak", spans);
        // The caller's own trace is gone on with.
        Assert.Contains(Encoding.Latin1.GetString(Convert.FromHexString("0af7651916cd43dd8448eb211c80319c")), spans);
        var metrics = collector.Told("/v1/metrics");
        foreach (var said in new[] { "jexa.visits", "jexa.visit.duration", "jexa.page", "bridge", "malformed" })
            Assert.Contains(said, metrics);
    }

    [Fact]
    public async Task A_collector_that_is_away_neither_harms_a_visit_nor_holds_up_the_end()
    {
        using var service = await RunningService.StartAsync("demo", "--telemetry", "http://127.0.0.1:9");
        Assert.Equal(200, (await service.GetAsync("/bridges/7")).Status);
        var (took, exitCode) = await service.EndAsync();
        Assert.Equal(0, exitCode);
        Assert.InRange(took.TotalSeconds, 0, 5);
    }

    [Theory]
    [InlineData("localhost:4318")]
    [InlineData("ftp://127.0.0.1")]
    [InlineData("nonsense")]
    public async Task A_collector_that_is_no_URL_is_wrong_use(string url)
    {
        var ran = await RunningService.RunAsync("demo", "--port", "0", "--telemetry", url);
        Assert.Equal(2, ran.ExitCode);
        Assert.Contains(url, ran.Error);
    }

    [Fact]
    public async Task The_log_can_be_JSON_a_line()
    {
        using var service = await RunningService.StartAsync("demo", "--log", "visits", "--log-form", "json");
        await service.GetAsync("/bridges/x");
        for (var i = 0; i < 50 && !service.Errors.Contains('{', StringComparison.Ordinal); i++)
            await Task.Delay(50, TestContext.Current.CancellationToken);
        using var line = JsonDocument.Parse(service.Errors.Split('\n').First(text => text.StartsWith('{')));
        var values = line.RootElement.GetProperty("Properties");
        Assert.Equal(
            ("malformed", 400, "/bridges/x"),
            (
                values.GetProperty("Outcome").GetString(),
                values.GetProperty("Status").GetInt32(),
                values.GetProperty("Target").GetString()
            )
        );
        Assert.Equal("Information", line.RootElement.GetProperty("Level").GetString());
    }

    /// <summary>A stand-in for a collector: keeps what it is sent.</summary>
    private sealed class Collector : IDisposable
    {
        private readonly HttpListener _listener = new();
        private readonly ConcurrentQueue<(string Path, string Body)> _sent = [];

        public Collector()
        {
            using (var probe = new TcpListener(IPAddress.Loopback, 0))
            {
                probe.Start();
                Url = $"http://127.0.0.1:{((IPEndPoint)probe.LocalEndpoint).Port}/";
            }

            _listener.Prefixes.Add(Url);
            _listener.Start();
            _ = Task.Run(ListenAsync);
        }

        public string Url { get; }

        /// <summary>Everything sent to a path: protocol buffers, in which texts stand as they are.</summary>
        public string Told(string path) => string.Concat(_sent.Where(sent => sent.Path == path).Select(sent => sent.Body));

        public void Dispose() => ((IDisposable)_listener).Dispose();

        private async Task ListenAsync()
        {
            while (_listener.IsListening)
            {
                var asked = await _listener.GetContextAsync();
                using var body = new MemoryStream();
                await asked.Request.InputStream.CopyToAsync(body);
                _sent.Enqueue((asked.Request.Url!.AbsolutePath, Encoding.Latin1.GetString(body.ToArray())));
                asked.Response.ContentType = "application/x-protobuf";
                asked.Response.Close();
            }
        }
    }
}
