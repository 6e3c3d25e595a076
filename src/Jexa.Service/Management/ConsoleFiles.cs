using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Jexa.Service.Assets;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Management;

/// <summary>
/// The console inside this program: its scripts and styles by name, and one document for every screen. The console itself decides
/// which screen an address means.
/// </summary>
internal sealed class ConsoleFiles
{
    private const string Prefix = "console/";
    private const string Document = "index.html";

    /// <summary>A placeholder in the document. Each answer replaces it by its own nonce.</summary>
    private const string NonceMark = "STYLE-NONCE";

    private readonly Dictionary<string, Asset> _files;
    private readonly string? _document;
    private string _pagesOrigin = "";

    public ConsoleFiles()
    {
        _files = typeof(ConsoleFiles)
            .Assembly.GetManifestResourceNames()
            .Where(name => name.StartsWith(Prefix, StringComparison.Ordinal))
            .Select(name => Asset.Embedded(name, "/" + name[Prefix.Length..], MediaType(name)))
            .Append(Asset.Embedded("Jexa.Service.Html.Assets.icon.svg", "/icon.svg", MediaType("icon.svg")))
            .ToDictionary(file => file.Name);
        if (_files.Remove("/" + Document, out var document))
            _document = Encoding.UTF8.GetString(document.Bytes);
    }

    /// <summary>Sets which pages the console may show in a frame.</summary>
    public void PointTo(string pagesUrl) => _pagesOrigin = new Uri(pagesUrl).GetLeftPart(UriPartial.Authority);

    public Task SendAsync(HttpContext http)
    {
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            http.Response.Headers.Allow = "GET, HEAD";
            return TypedResults
                .Problem("The console can only be read.", statusCode: StatusCodes.Status405MethodNotAllowed)
                .ExecuteAsync(http);
        }

        // The names of built files change with their content, so that a browser may keep them for ever.
        if (_files.TryGetValue(http.Request.Path.Value!, out var file))
            return AssetAnswer.SendAsync(http, file, "private, max-age=31536000, immutable");
        if (http.Request.Path.Value!.Contains('.', StringComparison.Ordinal))
            return TypedResults.Problem("There is no such file.", statusCode: StatusCodes.Status404NotFound).ExecuteAsync(http);
        return SendDocumentAsync(http);
    }

    private Task SendDocumentAsync(HttpContext http)
    {
        var nonce = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(16));
        http.Response.Headers.ContentSecurityPolicy =
            $"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data:; connect-src 'self'; "
            + $"frame-src {_pagesOrigin}; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
        http.Response.ContentType = "text/html; charset=utf-8";
        return http.Response.WriteAsync(_document?.Replace(NonceMark, nonce, StringComparison.Ordinal) ?? NotBuilt);
    }

    private static string MediaType(string name) =>
        Path.GetExtension(name) switch
        {
            ".js" => "text/javascript; charset=utf-8",
            ".css" => "text/css; charset=utf-8",
            ".svg" => "image/svg+xml",
            ".html" => "text/html; charset=utf-8",
            _ => "application/octet-stream",
        };

    private const string NotBuilt = """
        <!DOCTYPE html>
        <html lang="en"><head><meta charset="utf-8"><title>Jexa console</title></head>
        <body><h1>The console is not built in</h1><p>Its screens are built with Node.js 20 or newer and packages of
        the npm registry, and one of these was not to be had. Install Node.js, or see to the registry, and start Jexa
        with ./jexa again.
        The management API is here all the same: <a href="/openapi.json">its OpenAPI document</a>.</p></body></html>
        """;
}
