using System.Net;
using System.Text.Json;
using Jexa.Core.Drafts;
using Jexa.Core.Endpoints;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>Finds out what an API has: from its description if there is one, else from what its lists answer.</summary>
public static class ApiSampler
{
    private const int MostBytes = 8 << 20;

    /// <summary>Some APIs wrap records in objects. More levels than this are not searched.</summary>
    private const int MostDepth = 4;

    private static readonly string[] KeyWords = ["id", "uuid", "code", "key", "slug", "number", "name"];

    /// <summary>Usual addresses of descriptions, below the base address.</summary>
    public static IReadOnlyList<string> UsualPlaces { get; } = ["/openapi.json", "/openapi.yaml", "/openapi"];

    /// <summary>The bytes at an address; null if there are none.</summary>
    /// <exception cref="SourceException">It cannot be reached, or the answer is too large.</exception>
    public static async Task<byte[]?> FetchAsync(Uri address, TimeSpan limit, CancellationToken cancellation)
    {
        using var http = new HttpClient(new SocketsHttpHandler { UseProxy = false, UseCookies = false })
        {
            Timeout = limit,
            MaxResponseContentBufferSize = MostBytes,
        };
        try
        {
            using var response = await http.GetAsync(address, cancellation);
            return response.IsSuccessStatusCode ? await response.Content.ReadAsByteArrayAsync(cancellation) : null;
        }
        catch (Exception lost)
            when (lost is HttpRequestException or IOException
                || (lost is OperationCanceledException && !cancellation.IsCancellationRequested)
            )
        {
            throw new SourceException(
                SourceTrouble.Away,
                $"{address} cannot be read: {(lost.InnerException ?? lost).Message}",
                lost
            );
        }
    }

    /// <summary>
    /// Endpoints from the answers of some lists. The first records are used to find out whether records can be read one by one.
    /// </summary>
    /// <param name="lists">Paths below the base address.</param>
    public static async Task<ApiDescription> SampleAsync(
        SourceSettings settings,
        IReadOnlyList<string> lists,
        CancellationToken cancellation
    )
    {
        using var caller = new ApiCaller(settings with { Api = new ApiSettings([], [], false, []) });
        var (endpoints, doubts) = (new List<ApiEndpoint>(), new List<string>());
        foreach (var list in lists)
            if (await EndpointAsync(caller, list, endpoints, doubts, cancellation) is { } endpoint)
                endpoints.Add(endpoint);
        return new ApiDescription(null, null, endpoints, doubts);
    }

    /// <summary>An endpoint for one list. Null, with a doubt, if the answer is no list.</summary>
    private static async Task<ApiEndpoint?> EndpointAsync(
        ApiCaller caller,
        string list,
        List<ApiEndpoint> endpoints,
        List<string> doubts,
        CancellationToken cancellation
    )
    {
        var answer = await caller.GetAsync(list, null, MostBytes, cancellation);
        var sampled = RecordsOf(answer.Json);
        if (sampled.Records.Count == 0)
        {
            doubts.Add($"{list} answers with no list of objects; it is left out.");
            return null;
        }

        var fields = FieldsOf(sampled.Records);
        var key = sampled.Names ?? KeyOf(fields.Keys, sampled.Records);
        var path = list.Split('?')[0].TrimEnd('/');
        if (key is null)
            doubts.Add($"Nothing in {list} tells its records apart: they have no page of their own.");
        var item = key is null ? null : $"{path}/{{{key}}}";
        var paging = answer.Next is not null
            ? ApiPaging.Links
            : await PagingOfAsync(caller, list, answer.Json, sampled, cancellation);
        var record = item is null ? null : await TryItemAsync(caller, item, (key!, fields[key!]), sampled, cancellation);
        return new ApiEndpoint(
            NameOf(path, endpoints),
            record is null ? null : item,
            list + (paging is ApiPaging.Links ? "" : $"{{?{paging.ToString().ToLowerInvariant()}}}"),
            record ?? "",
            sampled.Pointer,
            sampled.Names,
            key is null ? [] : [key],
            paging,
            60,
            10_000,
            fields
        );
    }

    /// <summary>The fields with single values, and their types.</summary>
    private static Dictionary<string, FieldType> FieldsOf(List<ApiRecord> records) =>
        records
            .SelectMany(record => record.Members.Keys)
            .Distinct()
            .Where(field =>
                !records.Exists(record =>
                    record.Members.TryGetValue(field, out var value)
                    && value.ValueKind is JsonValueKind.Object or JsonValueKind.Array
                )
            )
            .ToDictionary(field => field, field => ApiRecords.TypeOf(field, records));

    /// <summary>The field that tells records apart, those with the name of a key first. Null if there is none.</summary>
    private static string? KeyOf(IEnumerable<string> fields, List<ApiRecord> records) =>
        fields
            .Where(field => IsUnique(field, records))
            .OrderBy(field => Array.IndexOf(KeyWords, field.ToLowerInvariant()) is var at && at < 0 ? KeyWords.Length : at)
            .FirstOrDefault();

    /// <summary>
    /// How the pages of a list follow each other. The second page is asked for if the answer says that there is more, or has a
    /// round number of records.
    /// </summary>
    private static async Task<ApiPaging> PagingOfAsync(
        ApiCaller caller,
        string list,
        JsonElement? answer,
        SampledList sampled,
        CancellationToken cancellation
    )
    {
        var (pointer, names, first) = sampled;
        if (list.Contains('?') || names is not null || !(SaysThereIsMore(answer, first.Count) || first.Count % 5 == 0))
            return ApiPaging.Links;
        foreach (var (paging, next) in new[] { (ApiPaging.Page, "page=2"), (ApiPaging.Offset, $"offset={first.Count}") })
        {
            try
            {
                var second = ApiRecords.Of(
                    (await caller.GetAsync($"{list}?{next}", null, MostBytes, cancellation)).Json,
                    pointer,
                    null,
                    isList: true
                );

                // An API that does not know the parameter answers with the first page again.
                if (second.Count > 0 && !second.Exists(record => first.Exists(other => AreSame(record, other))))
                    return paging;
            }
            catch (SourceException)
            {
                // The API refuses the parameter.
            }
        }

        return ApiPaging.Links;
    }

    /// <summary>Whether an answer counts more records than it has, or names a next page.</summary>
    private static bool SaysThereIsMore(JsonElement? answer, int count) =>
        answer is { } root
        && Places(root, "", MostDepth)
            .Any(place =>
                place.Pointer[(place.Pointer.LastIndexOf('/') + 1)..].ToLowerInvariant() switch
                {
                    "total" or "count" or "total_count" or "totalcount" or "total_items" => place.Value.ValueKind
                        == JsonValueKind.Number
                        && place.Value.TryGetInt64(out var total)
                        && total > count,
                    "pages" or "total_pages" or "totalpages" or "last_page" => place.Value.ValueKind == JsonValueKind.Number
                        && place.Value.TryGetInt64(out var pages)
                        && pages > 1,
                    "next" or "next_page" or "next_url" => place.Value.ValueKind is JsonValueKind.String or JsonValueKind.Number,
                    "has_more" or "hasmore" or "has_next" => place.Value.ValueKind == JsonValueKind.True,
                    _ => false,
                }
            );

    private static bool AreSame(ApiRecord one, ApiRecord other) =>
        one.Members.Count == other.Members.Count
        && one.Members.All(member =>
            other.Members.TryGetValue(member.Key, out var value) && JsonElement.DeepEquals(member.Value, value)
        );

    /// <summary>
    /// Where the records of a list's answer are: the answer itself, or the array with most of them, at any depth.
    /// </summary>
    private static SampledList RecordsOf(JsonElement? answer)
    {
        var plain = ApiRecords.Of(answer, "", null, isList: true);
        if (plain.Count > 0 || answer is not { ValueKind: JsonValueKind.Object } root)
            return new SampledList("", null, plain);
        var best = Places(root, "", MostDepth)
            .Where(place => place.Value.ValueKind == JsonValueKind.Array)
            .Select(place => (place.Pointer, Records: ApiRecords.Of(answer, place.Pointer, null, isList: true)))
            .OrderByDescending(place => place.Records.Count)
            .FirstOrDefault();
        return best.Records is { Count: > 0 }
            ? new SampledList(best.Pointer, null, best.Records)
            : new SampledList("", "key", ApiRecords.Of(answer, "", "key", isList: true));
    }

    /// <summary>
    /// The members of an object and of the objects in it, outer ones first, each with its JSON Pointer (RFC 6901).
    /// </summary>
    private static IEnumerable<(string Pointer, JsonElement Value)> Places(JsonElement owner, string above, int depth)
    {
        if (owner.ValueKind != JsonValueKind.Object || depth == 0)
            return [];
        var own = owner
            .EnumerateObject()
            .Select(member => (Pointer: $"{above}/{JsonPointer.Escaped(member.Name)}", member.Value))
            .ToList();
        return own.Concat(own.SelectMany(place => Places(place.Value, place.Pointer, depth - 1)));
    }

    /// <summary>Where the record is in the answer for one record: a JSON Pointer; null if the API does not answer.</summary>
    private static async Task<string?> TryItemAsync(
        ApiCaller caller,
        string item,
        (string Key, FieldType Type) by,
        SampledList sampled,
        CancellationToken cancellation
    )
    {
        var ((key, type), names) = (by, sampled.Names);
        var asked = Convert.ToString(sampled.Records[0].Kept(key, type), System.Globalization.CultureInfo.InvariantCulture) ?? "";
        try
        {
            if (
                ApiTemplate.Expand(item, _ => asked) is not { } path
                || await caller.GetAsync(path, null, MostBytes, cancellation) is not { Status: HttpStatusCode.OK, Json: { } json }
            )
                return null;
            bool Is(string pointer) =>
                ApiRecords.Of(json, pointer, names, isList: false) is [var only] && only.Has(key, type, asked);
            return Is("")
                ? ""
                : Places(json, "", MostDepth)
                    .Where(place => place.Value.ValueKind is JsonValueKind.Object or JsonValueKind.Array)
                    .Select(place => place.Pointer)
                    .FirstOrDefault(Is);
        }
        catch (SourceException)
        {
            return null;
        }
    }

    private static bool IsUnique(string field, List<ApiRecord> records)
    {
        var seen = new HashSet<string>();
        return records.TrueForAll(record =>
            record.Members.TryGetValue(field, out var value)
            && value.ValueKind is JsonValueKind.String or JsonValueKind.Number
            && value.ToString().Length > 0
            && seen.Add(value.ToString())
        );
    }

    private static string NameOf(string path, List<ApiEndpoint> taken)
    {
        var last = DraftNames.Named(path[(path.LastIndexOf('/') + 1)..], []);
        var name = last;
        for (var i = 2; taken.Exists(endpoint => endpoint.Name == name); i++)
            name = $"{last}-{i}";
        return name;
    }
}
