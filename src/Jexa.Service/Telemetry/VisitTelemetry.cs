using System.Diagnostics;
using System.Diagnostics.Metrics;
using System.Reflection;
using Jexa.Core.Visits;
using Microsoft.AspNetCore.Http;
using OpenTelemetry;
using OpenTelemetry.Exporter;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;

namespace Jexa.Service.Telemetry;

/// <summary>
/// Tells a collector about every visit, over OTLP by HTTP (OpenTelemetry protocol 1): a span with a child for each step, and for
/// each page the number of visits by outcome and their durations. Without a collector it costs one comparison a visit. It never
/// contains anything of a record, nor a query string.
/// </summary>
internal sealed class VisitTelemetry : IDisposable
{
    private const string Name = "Jexa";
    private const int ShutdownMilliseconds = 1000;

    private readonly ActivitySource _source = new(Name);
    private readonly Meter _meter = new(Name);
    private readonly Counter<long> _visits;
    private readonly Histogram<double> _durations;
    private readonly TracerProvider? _tracer;
    private readonly MeterProvider? _metrics;

    /// <param name="collector">The collector's base URL; null for none.</param>
    public VisitTelemetry(Uri? collector)
    {
        _visits = _meter.CreateCounter<long>("jexa.visits", "{visit}", "Visits, by page and outcome");
        _durations = _meter.CreateHistogram(
            "jexa.visit.duration",
            "s",
            "How long visits took, by page and outcome",
            tags: null,
            new InstrumentAdvice<double>
            {
                HistogramBucketBoundaries =
                [
                    0.0001,
                    0.00025,
                    0.0005,
                    0.001,
                    0.0025,
                    0.005,
                    0.01,
                    0.025,
                    0.05,
                    0.1,
                    0.25,
                    0.5,
                    1,
                    5,
                ],
            }
        );
        if (collector is null)
            return;
        var version = typeof(VisitTelemetry)
            .Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()
            ?.InformationalVersion;
        var resource = ResourceBuilder.CreateDefault().AddService("jexa", serviceVersion: version);
        _tracer = Sdk.CreateTracerProviderBuilder()
            .SetResourceBuilder(resource)
            .AddSource(Name)
            .AddOtlpExporter(otlp => Send(otlp, collector, "v1/traces"))
            .Build();
        _metrics = Sdk.CreateMeterProviderBuilder()
            .SetResourceBuilder(resource)
            .AddMeter(Name)
            .AddOtlpExporter(otlp => Send(otlp, collector, "v1/metrics"))
            .Build();
    }

    /// <summary>Tells of a visit that has ended.</summary>
    public void Tell(VisitTrace trace, HttpRequest request)
    {
        if (_metrics is not null)
        {
            var tags = new TagList
            {
                { "jexa.page", trace.Page?.Name ?? "" },
                { "jexa.outcome", trace.Outcome?.Word ?? "left" },
                { "http.response.status_code", trace.Status },
            };
            _visits.Add(1, tags);
            _durations.Record(trace.TotalMicroseconds / 1e6, tags);
        }

        if (_tracer is not null)
            Trace(trace, request);
    }

    public void Dispose()
    {
        // A collector that is away must not delay the end of the service.
        _tracer?.Shutdown(ShutdownMilliseconds);
        _metrics?.Shutdown(ShutdownMilliseconds);
        _tracer?.Dispose();
        _metrics?.Dispose();
        _source.Dispose();
        _meter.Dispose();
    }

    private void Trace(VisitTrace trace, HttpRequest request)
    {
        // The client may have begun the trace (W3C Trace Context).
        ActivityContext.TryParse(request.Headers.TraceParent, request.Headers.TraceState, isRemote: true, out var caller);
        // The server may have begun an activity that nobody records. A child of it would not be recorded either.
        Activity.Current = null;
        var start = trace.At;
        using var visit = _source.StartActivity(
            $"{trace.Method} {trace.Page?.Head.Template.Text ?? "no page"}",
            ActivityKind.Server,
            caller,
            tags: null,
            links: null,
            start
        );
        if (visit is null)
            return;
        visit.SetTag("http.request.method", trace.Method);
        visit.SetTag("url.path", trace.Target.Split('?', 2)[0]);
        visit.SetTag("http.response.status_code", trace.Status);
        visit.SetTag("http.route", trace.Page?.Head.Template.Text);
        visit.SetTag("jexa.page", trace.Page?.Name);
        visit.SetTag("jexa.outcome", trace.Outcome?.Word ?? "left");
        visit.SetTag("jexa.visit", trace.Number);
        if (trace.Status >= StatusCodes.Status500InternalServerError)
            visit.SetStatus(ActivityStatusCode.Error, trace.Why);
        foreach (var (step, microseconds) in trace.Timings)
        {
            using var child = _source.StartActivity(step, ActivityKind.Internal, visit.Context, tags: null, links: null, start);
            start += TimeSpan.FromMicroseconds(microseconds);
            child?.SetEndTime(start.UtcDateTime);
        }

        visit.SetEndTime((trace.At + TimeSpan.FromMicroseconds(trace.TotalMicroseconds)).UtcDateTime);
    }

    private static void Send(OtlpExporterOptions otlp, Uri collector, string path)
    {
        otlp.Protocol = OtlpExportProtocol.HttpProtobuf;
        otlp.Endpoint = new Uri($"{collector.AbsoluteUri.TrimEnd('/')}/{path}");
    }
}
