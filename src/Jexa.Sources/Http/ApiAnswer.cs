using System.Net;
using System.Text.Json;

namespace Jexa.Sources.Http;

/// <summary>The answer of an API.</summary>
/// <param name="Json">Null if there is none: 204, 304, 404, 410, an empty body.</param>
/// <param name="Remark">The request, the status and the first kilobyte of the answer, for traces, without secrets.</param>
internal sealed record ApiAnswer(
    HttpStatusCode Status,
    JsonElement? Json,
    string? Tag,
    TimeSpan MaxAge,
    string? Next,
    string Remark
);
