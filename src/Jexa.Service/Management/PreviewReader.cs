using System.Text.Json;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Json;
using Jexa.Service.Traces;
using Jexa.Service.Workshop;

namespace Jexa.Service.Management;

/// <summary>Visits pages of the preview on behalf of the console. Addresses are those below the preview's prefix.</summary>
internal sealed class PreviewReader(Preview preview)
{
    private const int MostSamples = 50;
    private const int MostLinks = 60;

    /// <summary>What a visit would come to.</summary>
    public async Task<TraceInfo> TraceAsync(string address, CancellationToken cancellation)
    {
        var trace = new VisitTrace("GET", preview.Mount + address, preview.Clock);
        using var answer = await VisitAsync(trace, Reader.Person, cancellation);
        return TraceReport.Of(trace);
    }

    /// <summary>The addresses of a page for its first records. Null if there is no such page.</summary>
    public async Task<IReadOnlyList<SampleInfo>?> SamplesAsync(string name, CancellationToken cancellation)
    {
        if (preview.Site?.Find(name) is not { } page)
            return null;
        try
        {
            var samples = await Samples.ManyAsync(page, MostSamples, cancellation);
            return samples.Count > 0
                ? [.. samples.Select(sample => new SampleInfo(name, Bare(sample.Address), null, sample.Ids, null, null))]
                :
                [
                    new SampleInfo(
                        name,
                        null,
                        null,
                        [],
                        $"There is no {page.Record?.One ?? "text"} that an address can lead to.",
                        null
                    ),
                ];
        }
        catch (SourceException trouble)
        {
            return [new SampleInfo(name, null, null, [], trouble.Message, null)];
        }
    }

    /// <summary>Addresses to try each page with.</summary>
    /// <param name="name">The page; null for all of them.</param>
    public async Task<IReadOnlyList<IdCaseInfo>> CasesAsync(string? name, CancellationToken cancellation)
    {
        var cases = new List<IdCaseInfo>();
        foreach (var page in preview.Site?.Pages.Where(page => name is null || page.Name == name) ?? [])
        {
            var sample = await SampleAsync(page, cancellation);
            cases.AddRange(
                IdCases
                    .Of(page, sample)
                    .Select(one => new IdCaseInfo(page.Name, one.Kind, one.Parameter, Bare(one.Address), one.Expected))
            );
            if (Empty(page, sample) is { } empty)
                cases.Add(empty);
        }

        return cases;
    }

    /// <summary>
    /// A list, or a record with related blocks, as it is with no records to list. Null for pages that list nothing.
    /// </summary>
    private IdCaseInfo? Empty(Page page, SampleAddress? sample)
    {
        if (sample is null || page.Head.DrawnAt is not null)
            return null;
        return page switch
        {
            ListPage => Case(OutcomeKind.Listed),
            DetailPage { Blocks.Count: > 0 } => Case(OutcomeKind.Found),
            _ => null,
        };

        IdCaseInfo Case(OutcomeKind expected) =>
            new(page.Name, "empty", null, Preview.WithoutRows(Bare(sample.Address)), expected.Word);
    }

    private static async Task<SampleAddress?> SampleAsync(Page page, CancellationToken cancellation)
    {
        try
        {
            return await Samples.FirstAsync(page, cancellation);
        }
        catch (SourceException)
        {
            return null;
        }
    }

    /// <summary>The links of a page as it is at an address, each followed.</summary>
    public async Task<IReadOnlyList<WorkingLinkInfo>> LinksAsync(string address, CancellationToken cancellation)
    {
        var trace = new VisitTrace("GET", preview.Mount + address, preview.Clock);
        using var answer = await VisitAsync(trace, Reader.Program, cancellation);
        if (answer.View is not { } view)
            return [];
        using var json = new Utf8Buffer(16 * 1024);
        JsonPageWriter.Write(view, preview.Mount + address, json);
        using var document = JsonDocument.Parse(json.WrittenMemory);
        var links = new List<WorkingLinkInfo>();
        foreach (var (text, target) in Links(document.RootElement).DistinctBy(link => link.Address).Take(MostLinks))
        {
            var visit = new VisitTrace("GET", target, preview.Clock);
            using var found = await VisitAsync(visit, Reader.Person, cancellation);
            links.Add(new WorkingLinkInfo(visit.Page?.Name ?? "", text, Bare(target), found.Outcome.Word, found.Status));
        }

        return links;
    }

    private ValueTask<Answer> VisitAsync(VisitTrace trace, Reader reader, CancellationToken cancellation) =>
        preview.Runner.RunAsync(preview.Site!, preview.Request("GET", trace.Target, reader), trace, cancellation);

    /// <summary>All links in a page's JSON: objects with an address.</summary>
    private IEnumerable<(string Text, string Address)> Links(JsonElement element)
    {
        if (element.ValueKind == JsonValueKind.Array)
            return element.EnumerateArray().SelectMany(Links);
        if (element.ValueKind != JsonValueKind.Object)
            return [];
        var below = element.EnumerateObject().SelectMany(member => Links(member.Value));
        return
            element.TryGetProperty("address", out var address)
            && address.ValueKind == JsonValueKind.String
            && address.GetString() is { } target
            && target.StartsWith(preview.Mount.Text, StringComparison.Ordinal)
            ? below.Prepend((Text(element, "text"), target))
            : below;
    }

    private static string Text(JsonElement element, string member) =>
        element.TryGetProperty(member, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString()! : "";

    private string Bare(string address) =>
        address.StartsWith(preview.Mount.Text, StringComparison.Ordinal)
        && address[preview.Mount.Text.Length..] is { Length: > 0 } rest
            ? rest
            : "/";
}
