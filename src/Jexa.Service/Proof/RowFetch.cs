using System.Text;
using System.Text.Json;
using Jexa.Core.Definitions;
using Jexa.Core.Proof;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Service.Json;

namespace Jexa.Service.Proof;

/// <summary>Asks the running service for records, and compares what it shows with their rows.</summary>
/// <param name="http">Asks the pages.</param>
/// <param name="below">The path prefix of the records' addresses; empty for none.</param>
/// <param name="faults">Gets what differs.</param>
public sealed class RowFetch(HttpClient http, string below, FaultList faults)
{
    private readonly PagesPlace _place = new(http.BaseAddress!, below);

    /// <summary>The records that were compared.</summary>
    public int Compared { get; private set; }

    /// <summary>Asks for one record. What differs is compared once more: the row may have been changed meanwhile.</summary>
    /// <exception cref="HttpRequestException">The service does not answer.</exception>
    /// <exception cref="Core.Sources.SourceException">The source is away, too slow or refused.</exception>
    public async Task CompareAsync(SampledRecord record, CancellationToken cancellation)
    {
        if (record.Page.Rows.FirstOrDefault(rows => rows.Part.Length == 0) is not { } set)
            return;
        var says = await DiffersAsync(set, record, cancellation);
        if (says is not null)
            says = await DiffersAsync(set, record, cancellation);
        Compared++;
        if (says is not null)
            faults.Add(
                ProofCodes.ShownOtherwise,
                record.Page.Name,
                () =>
                    new Fault(
                        ProofCodes.ShownOtherwise,
                        record.Page.Head.Definition.Name.At,
                        record.Page.Name,
                        $"The page “{record.Page.Name}” shows other values than the rows of its records.",
                        "Look whether the service reads the database that was swept, and whether a cache stands in front of it.",
                        0,
                        [],
                        null
                    ),
                new FaultExample(record.Key, record.Address, says)
            );
    }

    /// <summary>How the answers differ from the row; null if they do not.</summary>
    private async Task<string?> DiffersAsync(RowSet set, SampledRecord record, CancellationToken cancellation)
    {
        var rows = await RowsByKey.ReadAsync(set, [record.Values], cancellation);
        var (status, body) = await AskAsync(record.Address, "application/json", cancellation);
        if (rows.Count == 0)
            return status == 200 ? "status 200, and no row that the page may show has this key" : null;
        if (status != 200)
            return $"status {status}";
        using var answer = JsonDocument.Parse(body);
        if (FieldThatDiffers(set, rows[0], answer.RootElement) is { } field)
            return field;
        if (!answer.RootElement.TryGetProperty("title", out var title) || title.GetString() is not { Length: > 0 } text)
            return null;
        var (html, page) = await AskAsync(record.Address, "text/html", cancellation);
        return html != 200 ? $"status {html} as HTML"
            : ShownTitle.IsIn(page, text) ? null
            : $"the HTML does not have the title “{text}”";
    }

    private static string? FieldThatDiffers(RowSet set, Row row, JsonElement answer)
    {
        using var expected = JsonDocument.Parse(Expected(set, row));
        if (!answer.TryGetProperty("fields", out var shown) || shown.ValueKind != JsonValueKind.Object)
            return "the answer has no fields";
        foreach (var field in expected.RootElement.GetProperty("fields").EnumerateObject())
        {
            // The page may show less than its rows have; where it leads from there is proved by the sweep itself.
            if (shown.TryGetProperty(field.Name, out var value) && !JsonElement.DeepEquals(Own(value), Own(field.Value)))
                return $"{field.Name} is {Shown(value)}, and {Shown(field.Value)} in the row";
        }

        return null;
    }

    /// <summary>What a value says of its row: of a reference or file, its ID, label or name.</summary>
    private static JsonElement Own(JsonElement value) =>
        value.ValueKind != JsonValueKind.Object ? value
        : value.TryGetProperty("label", out var label) ? label
        : value.TryGetProperty("name", out var name) ? name
        : value;

    private static byte[] Expected(RowSet set, Row row)
    {
        using var bytes = new MemoryStream();
        using var scratch = new Utf8Buffer(256);
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            JsonValues.WriteFields(set.Columns, row, json, scratch);
            json.WriteEndObject();
        }

        return bytes.ToArray();
    }

    private async Task<(int Status, string Body)> AskAsync(string address, string form, CancellationToken cancellation)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, _place.At(address));
        request.Headers.TryAddWithoutValidation("Accept", form);
        using var answer = await http.SendAsync(request, cancellation);
        var body = await answer.Content.ReadAsByteArrayAsync(cancellation);
        return ((int)answer.StatusCode, Encoding.UTF8.GetString(body));
    }

    private static string Shown(JsonElement value) => ReportWords.Cut(Own(value).GetRawText());
}
