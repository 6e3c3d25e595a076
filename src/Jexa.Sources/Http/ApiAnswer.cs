using System.Net;
using System.Text.Json;

namespace Jexa.Sources.Http;

/// <summary>What an API answered.</summary>
/// <param name="Json">Null where there is nothing: 204, 304, 404, 410, an empty body.</param>
/// <param name="Remark">The request, the status and the first kilobyte of the answer, for traces; no secret is in it.</param>
internal sealed record ApiAnswer(
    HttpStatusCode Status,
    JsonElement? Json,
    string? Tag,
    TimeSpan MaxAge,
    string? Next,
    string Remark
);
