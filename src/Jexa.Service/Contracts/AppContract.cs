using System.Buffers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Jexa.Core.Addresses;
using Jexa.Core.Changes;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Assets;
using Jexa.Service.Hosting;
using Jexa.Service.Json;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Contracts;

/// <summary>
/// What other front ends can ask about the app, below <c>/_jexa/app/</c>: <c>openapi.json</c>, and <c>choices/PAGE/FIELD</c>, the
/// choices for a field of a form. These are no visits.
/// </summary>
internal sealed class AppContract(SiteHost host)
{
    private const string DescriptionName = "openapi.json";
    private const string ChoicesName = "choices";

    /// <summary>Further pages have no examples: each costs a visit.</summary>
    private const int MostExamples = 200;

    private static readonly TimeSpan ExamplesTake = TimeSpan.FromSeconds(10);
    private static readonly TimeSpan Kept = TimeSpan.FromSeconds(30);

    private static readonly JsonSerializerOptions Relaxed = new()
    {
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly Lock _lock = new();
    private (Site Site, long At, Task<Asset> Description)? _kept;

    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved
        && target.Segments.Length > 2
        && target.Text(1).SequenceEqual("app")
        && (
            target.Segments.Length == 3
                ? target.Text(2).SequenceEqual(DescriptionName)
                : target.Segments.Length == 5 && target.Text(2).SequenceEqual(ChoicesName)
        );

    public async Task AnswerAsync(HttpContext http, RequestTarget target)
    {
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            http.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            http.Response.Headers.Allow = Page.Reading;
            return;
        }

        try
        {
            if (target.Segments.Length == 3)
                await AssetAnswer.SendAsync(http, await DescriptionAsync().WaitAsync(http.RequestAborted), "private, no-cache");
            else
                await ChoicesAsync(http, target);
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            // The client has gone.
        }
    }

    /// <summary>Whoever asks while it is being made waits for the same one.</summary>
    private Task<Asset> DescriptionAsync()
    {
        lock (_lock)
        {
            var site = host.Site;
            if (_kept is { Description.IsFaulted: false } kept && kept.Site == site && host.Clock.GetElapsedTime(kept.At) < Kept)
                return kept.Description;
            var making = Task.Run(async () =>
                new Asset(
                    DescriptionName,
                    "application/json",
                    OpenApiWriter.Write(site, await ExamplesAsync(site, CancellationToken.None))
                )
            );
            _kept = (site, host.Clock.GetTimestamp(), making);
            return making;
        }
    }

    /// <summary>For each page the first record with an address, as far as time allows.</summary>
    private async Task<Dictionary<string, PageExample>> ExamplesAsync(Site site, CancellationToken cancellation)
    {
        var examples = new Dictionary<string, PageExample>();
        var began = host.Clock.GetTimestamp();
        var away = new HashSet<ISource>();
        foreach (var page in site.Pages.Take(MostExamples))
        {
            if (host.Clock.GetElapsedTime(began) > ExamplesTake)
                break;
            if (page.Record is { } record && away.Contains(record.Source))
                continue;
            try
            {
                if (await Samples.FirstAsync(page, cancellation) is { } sample)
                    examples[page.Name] = new PageExample(sample.Ids, await JsonAsync(site, sample.Address, cancellation));
            }
            catch (SourceException)
            {
                if (page.Record is { } lost)
                    away.Add(lost.Source);
            }
        }

        return examples;
    }

    private async Task<ReadOnlyMemory<byte>?> JsonAsync(Site site, string address, CancellationToken cancellation)
    {
        var target = RequestTarget.Read(address, site.Frame.Mount);
        using var answer = await host.Runner.RunAsync(
            site,
            new VisitRequest("GET", target, Reader.Program, Principal.Anonymous.Value),
            new VisitTrace("GET", address, host.Clock),
            cancellation
        );
        if (answer is not { Status: 200, View: { } view })
            return null;
        using var json = new Utf8Buffer(4096);
        JsonPageWriter.Write(view, address, json);
        var whole = JsonNode.Parse(json.Written)!;
        Shorten(whole);
        return Encoding.UTF8.GetBytes(whole.ToJsonString(Relaxed));
    }

    /// <summary>Two items are enough for an example.</summary>
    private static void Shorten(JsonNode? node)
    {
        if (node is JsonArray array)
        {
            while (array.Count > 2 && array[^1] is JsonObject)
                array.RemoveAt(array.Count - 1);
            foreach (var item in array)
                Shorten(item);
        }
        else if (node is JsonObject members)
        {
            foreach (var (name, member) in members)
                if (name is not ("links" or "related" or "sides"))
                    Shorten(member);
                else
                    foreach (var item in member!.AsArray())
                        Shorten(item);
        }
    }

    private async Task ChoicesAsync(HttpContext http, RequestTarget target)
    {
        var find = target.Query.Where(pair => pair.Name == "find").Select(pair => pair.Value).FirstOrDefault() ?? "";
        var (page, field) = (target.Text(3).ToString(), target.Text(4).ToString());
        var trace = new VisitTrace(http.Request.Method, target.Raw, host.Clock);
        http.Response.Headers.CacheControl = "no-store";
        try
        {
            if (await host.Runner.FindChoicesAsync(host.Site, page, field, find.Trim(), trace, http.RequestAborted) is { } found)
            {
                http.Response.ContentType = "application/json";
                await http.Response.Body.WriteAsync(Json(page, found), http.RequestAborted);
                return;
            }

            await ProblemAsync(
                http,
                StatusCodes.Status404NotFound,
                "Not Found",
                "unknown",
                $"The page “{page}” has no field “{field}” that something can be chosen for."
            );
        }
        catch (SourceException)
        {
            http.Response.Headers.RetryAfter = "5";
            await ProblemAsync(
                http,
                StatusCodes.Status503ServiceUnavailable,
                "Service Unavailable",
                "unavailable",
                "The records cannot be read just now."
            );
        }
    }

    private static ReadOnlyMemory<byte> Json(string page, FieldChoices found)
    {
        var bytes = new ArrayBufferWriter<byte>();
        using var json = new Utf8JsonWriter(bytes);
        json.WriteStartObject();
        json.WriteString("outcome", "listed");
        json.WriteString("page", page);
        json.WriteStartArray("choices");
        foreach (var (value, label) in found.Choices)
        {
            json.WriteStartObject();
            json.WriteString("value", value);
            json.WriteString("label", label);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteBoolean("more", found.IsMore);
        json.WriteEndObject();
        json.Flush();
        return bytes.WrittenMemory;
    }

    private static Task ProblemAsync(HttpContext http, int status, string title, string outcome, string detail)
    {
        http.Response.StatusCode = status;
        return http.Response.WriteAsJsonAsync(
            new
            {
                type = "about:blank",
                title,
                status,
                detail,
                outcome,
                links = Array.Empty<object>(),
            },
            options: null,
            contentType: "application/problem+json",
            http.RequestAborted
        );
    }
}
