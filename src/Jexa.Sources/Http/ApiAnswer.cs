using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Jexa.Core.Sources;
using Polly;
using Polly.CircuitBreaker;
using Polly.Retry;

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
