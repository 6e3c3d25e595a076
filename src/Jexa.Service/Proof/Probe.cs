using System.Globalization;
using System.Text.Json;
using AngleSharp.Html.Parser;
using Jexa.Core.Definitions;

namespace Jexa.Service.Proof;

/// <summary>
/// Asks a running service for each case of each page, as HTML, as JSON and by HEAD, and compares the answers with what the app
/// file asks for. It changes nothing: a method that changes is only sent to pages that must refuse it.
/// </summary>
/// <param name="http">Asks the pages; leads nowhere by itself.</param>
/// <param name="below">The path prefix that the service puts before its addresses; empty for none.</param>
/// <param name="traceOf">What the service itself says of a visit, by its number; null if it does not tell.</param>
/// <param name="pause">Between two requests.</param>
public sealed class Probe(HttpClient http, string below, Func<string, Task<string?>> traceOf, TimeSpan pause)
{
    private const int MostBytes = 2 * 1024 * 1024;

    /// <summary>The kinds of cases, in the order in which people look at them.</summary>
    private static readonly string[] Order =
    [
        "right",
        "missing",
        "malformed",
        "not-canonical",
        "twice",
        "unknown",
        "hidden",
        "gone",
        "moved",
        "ambiguous",
        "control",
        "method",
    ];

    /// <summary>What no visitor may ever see, in any answer.</summary>
    private static readonly string[] Inside =
    [
        "   at Jexa.",
        "System.Exception",
        "SELECT t0.",
        "SqliteException",
        "NpgsqlException",
    ];

    private readonly PagesPlace _place = new(http.BaseAddress!, below);
    private readonly List<ProbeDifference> _differences = [];
    private readonly List<(string Page, ProofCell Cell)> _cells = [];

    /// <summary>How many requests were sent.</summary>
    public long Requests { get; private set; }

    /// <summary>What differs from what is asked for.</summary>
    public IReadOnlyList<ProbeDifference> Differences => _differences;

    /// <summary>All that was tried, page by page.</summary>
    public ProofBoard Board =>
        new(
            [.. Order.Where(name => _cells.Any(one => one.Cell.Case == name))],
            [.. _cells.GroupBy(one => one.Page).Select(page => new ProofRow(page.Key, [.. page.Select(one => one.Cell)]))]
        );

    /// <summary>Tries the cases of one page.</summary>
    /// <param name="allow">The methods that the page takes.</param>
    /// <exception cref="HttpRequestException">The service does not answer.</exception>
    public async Task PageAsync(IReadOnlyList<ProbeCaseInfo> cases, string allow, CancellationToken cancellation)
    {
        ProbeAnswer? unknown = null;
        ProbeCaseInfo? unknownCase = null;
        foreach (var one in cases)
        {
            if (one.Case == "method")
            {
                await MethodAsync(one, allow, cancellation);
                continue;
            }

            var html = await AskAsync(one, "html", "GET", cancellation);
            await ExpectAsync(one, html, one.HtmlStatus);
            var json = await AskAsync(one, "json", "GET", cancellation);
            await ExpectAsync(one, json, one.JsonStatus);
            await HeadAsync(one, html, cancellation);
            if (one is { Case: "right", HtmlStatus: 200 })
                await RightAsync(one, html, json, cancellation);
            if (one.Case == "unknown" && html.Status == one.HtmlStatus)
                (unknown, unknownCase) = (html, one);
            if (one.Case == "hidden" && unknown is not null)
                Compare(one, html, unknownCase!, unknown);
        }
    }

    /// <summary>What is asked of every answer: status, outcome, where it leads; and it shows nothing of the inside.</summary>
    private async Task ExpectAsync(ProbeCaseInfo one, ProbeAnswer answer, int status)
    {
        var isAway = answer.Status == 503 && status != 503;
        var wrong =
            answer.Status != status ? $"status {answer.Status}"
            : answer.How == "json" && answer.Outcome is { } outcome && outcome != one.Outcome ? $"outcome {outcome}"
            : status == 301 && one.Leads is { } leads && !LeadsTo(answer, leads) ? $"leads to {answer.Location ?? "nothing"}"
            : null;
        var expected = $"{one.Outcome} ({status})";
        Note(one, answer.How, expected, wrong ?? $"{one.Outcome} ({answer.Status})", wrong is null);
        if (wrong is not null)
            await TellAsync(ProofCodes.OtherAnswer, one, answer, $"{wrong} instead of {expected}", isAway);
        if (Inside.FirstOrDefault(word => answer.Body.Contains(word, StringComparison.Ordinal)) is { } shown)
            await TellAsync(ProofCodes.InsideShown, one, answer, $"it contains “{shown.Trim()}”", false);
    }

    /// <summary>HEAD must say what GET says, without a body.</summary>
    private async Task HeadAsync(ProbeCaseInfo one, ProbeAnswer html, CancellationToken cancellation)
    {
        var head = await AskAsync(one, "head", "HEAD", cancellation);
        var wrong =
            head.Status != html.Status ? $"status {head.Status}, and GET {html.Status}"
            : head.Body.Length > 0 ? "it has a body"
            : head.Location != html.Location ? $"leads to {head.Location ?? "nothing"}, and GET to {html.Location ?? "nothing"}"
            : head.Tag != html.Tag ? $"ETag {head.Tag ?? "none"}, and GET {html.Tag ?? "none"}"
            : null;
        Note(one, "head", $"as GET ({html.Status})", wrong ?? $"as GET ({head.Status})", wrong is null);
        if (wrong is not null)
            await TellAsync(ProofCodes.HeadDiffers, one, head, wrong, false);
    }

    /// <summary>A page that shows something: it is the same when asked again, and its two forms say the same.</summary>
    private async Task RightAsync(ProbeCaseInfo one, ProbeAnswer html, ProbeAnswer json, CancellationToken cancellation)
    {
        if (html.Tag is { } tag)
        {
            var again = await AskAsync(one, "again", "GET", cancellation, tag);

            // Something may have been changed meanwhile: then the answer is the new page with a new tag.
            var holds = again.Status == 304 || (again.Status == 200 && again.Tag != tag);
            Note(one, "again", "304", again.Status.ToString(CultureInfo.InvariantCulture), holds);
            if (!holds)
                await TellAsync(
                    ProofCodes.HeadDiffers,
                    one,
                    again,
                    $"status {again.Status} for its own ETag, instead of 304",
                    false
                );
        }

        if (_place.IsMoved && !_differences.Exists(one => one.Code == ProofCodes.OtherPrefix))
            await PrefixAsync(one, html);
        if (json.Title is not { Length: > 0 } title || json.Status != 200 || html.Status != 200)
            return;
        var says = ShownTitle.IsIn(html.Body, title);
        Note(one, "both", "the same title", says ? "the same title" : "another title", says);
        if (!says)
            await TellAsync(
                ProofCodes.FormsDiffer,
                one,
                html,
                $"the HTML does not have the title “{ReportWords.Cut(title)}” of the JSON",
                false
            );
    }

    /// <summary>Links of a page that lead out of where visitors are. One page tells of all.</summary>
    private async Task PrefixAsync(ProbeCaseInfo one, ProbeAnswer html)
    {
        var page = await new HtmlParser().ParseDocumentAsync(html.Body);
        var links = page.QuerySelectorAll("a[href]").Select(link => link.GetAttribute("href")!);
        if (links.FirstOrDefault(_place.IsOutside) is { } outside)
            await TellAsync(
                ProofCodes.OtherPrefix,
                one,
                html,
                $"it links to {outside}, which is not below {_place.Prefix}",
                false
            );
    }

    /// <summary>Whether a redirect leads to an address, as the service writes it or as a proxy rewrites it.</summary>
    private bool LeadsTo(ProbeAnswer answer, string address) =>
        PathOf(answer.Location) is { } path && (path == address || path == _place.Moved(address));

    private void Compare(ProbeCaseInfo hidden, ProbeAnswer answer, ProbeCaseInfo unknown, ProbeAnswer other)
    {
        var same = Bare(answer.Body, hidden.Address, other: unknown.Address) == Bare(other.Body, unknown.Address, hidden.Address);
        Note(hidden, "compared", "as unknown", same ? "as unknown" : "told from unknown", same && answer.Status == other.Status);
        if (!same || answer.Status != other.Status)
            _differences.Add(
                new ProbeDifference(
                    ProofCodes.HiddenIsTold,
                    hidden,
                    "the answer differs from that of an unknown ID",
                    answer.Request,
                    false
                )
            );
    }

    /// <summary>A page without what the two addresses differ in.</summary>
    private static string Bare(string body, string address, string other)
    {
        var (mine, theirs) = (address.Split('/', '?', '&', '='), other.Split('/', '?', '&', '='));
        foreach (var (part, twin) in mine.Zip(theirs).Where(pair => pair.First != pair.Second))
            body = body.Replace(part, "#", StringComparison.Ordinal)
                .Replace(Uri.UnescapeDataString(part), "#", StringComparison.Ordinal);
        return body;
    }

    /// <summary>A method that the page does not take: 405, with the methods that it takes.</summary>
    private async Task MethodAsync(ProbeCaseInfo one, string allow, CancellationToken cancellation)
    {
        var answer = await AskAsync(one, one.Method, one.Method, cancellation);
        var wrong =
            answer.Status != 405 ? $"status {answer.Status} instead of 405"
            : answer.Allow != allow ? $"Allow: {answer.Allow ?? "none"} instead of {allow}"
            : null;
        Note(one, one.Method, $"405, Allow: {allow}", wrong ?? "405", wrong is null);
        if (wrong is not null)
            await TellAsync(ProofCodes.MethodNotRefused, one, answer, wrong, answer.Status == 503);
    }

    private void Note(ProbeCaseInfo one, string how, string expected, string actual, bool holds) =>
        _cells.Add((one.Page, new ProofCell(one.Case, how, one.Address, expected, actual, holds)));

    private async Task TellAsync(FindingCode code, ProbeCaseInfo one, ProbeAnswer answer, string says, bool isAway)
    {
        if (answer.Visit is { } visit && await traceOf(visit) is { } why)
            says = $"{says}; the service says: {why}";
        _differences.Add(new ProbeDifference(code, one, says, answer.Request, isAway));
    }

    private async Task<ProbeAnswer> AskAsync(
        ProbeCaseInfo one,
        string how,
        string method,
        CancellationToken cancellation,
        string? tag = null
    )
    {
        if (Requests++ > 0 && pause > TimeSpan.Zero)
            await Task.Delay(pause, cancellation);
        using var request = new HttpRequestMessage(new HttpMethod(method), _place.At(one.Address));
        request.Headers.TryAddWithoutValidation("Accept", how == "json" ? "application/json" : "text/html");
        if (tag is not null)
            request.Headers.TryAddWithoutValidation("If-None-Match", tag);
        using var answer = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancellation);
        var body = await BodyAsync(answer, cancellation);
        var (outcome, title) = how == "json" ? Told(body) : (null, null);
        var curl =
            $"curl -i{(method == "GET" ? "" : method == "HEAD" ? " -I" : $" -X {method}")} -H 'Accept: "
            + $"{(how == "json" ? "application/json" : "text/html")}' '{request.RequestUri!.AbsoluteUri.Replace("'", "%27")}'";
        return new ProbeAnswer(how, (int)answer.StatusCode, body, curl)
        {
            Outcome = outcome,
            Title = title,
            Location = answer.Headers.Location?.OriginalString,
            Tag = answer.Headers.ETag?.ToString(),
            Allow = answer.Content.Headers.TryGetValues("Allow", out var allow) ? string.Join(", ", allow) : null,
            Visit = answer.Headers.TryGetValues("Jexa-Visit", out var visit) ? visit.FirstOrDefault() : null,
        };
    }

    private static async Task<string> BodyAsync(HttpResponseMessage answer, CancellationToken cancellation)
    {
        await using var stream = await answer.Content.ReadAsStreamAsync(cancellation);
        using var bytes = new MemoryStream();
        var chunk = new byte[64 * 1024];
        int read;
        while (bytes.Length < MostBytes && (read = await stream.ReadAsync(chunk, cancellation)) > 0)
            bytes.Write(chunk, 0, read);
        return System.Text.Encoding.UTF8.GetString(bytes.GetBuffer(), 0, (int)bytes.Length);
    }

    private static (string? Outcome, string? Title) Told(string body)
    {
        try
        {
            using var json = JsonDocument.Parse(body);
            return json.RootElement.ValueKind != JsonValueKind.Object
                ? (null, null)
                : (TextOf(json.RootElement, "outcome"), TextOf(json.RootElement, "title"));
        }
        catch (JsonException)
        {
            return (null, null);
        }
    }

    private static string? TextOf(JsonElement json, string name) =>
        json.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;

    private static string? PathOf(string? location) =>
        location is not null && Uri.TryCreate(location, UriKind.Absolute, out var uri) && uri is { Scheme: "http" or "https" }
            ? uri.PathAndQuery
            : location;
}
