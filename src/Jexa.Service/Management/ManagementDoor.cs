using System.Text.RegularExpressions;
using Jexa.Core.Changes;
using Jexa.Core.Edits;
using Jexa.Service.Assets;
using Jexa.Service.Hosting;
using Jexa.Service.Runs;
using Jexa.Service.State;
using Jexa.Service.Web;
using Jexa.Service.Workshop;
using Jexa.Service.Writing;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.OpenApi;

namespace Jexa.Service.Management;

/// <summary>
/// The second door: management API and console, on an origin of its own. Everything below <c>/api/</c> requires the bearer token,
/// except the exchange of a start code for it.
/// </summary>
internal sealed partial class ManagementDoor(
    SiteHost host,
    IChangeLog changes,
    Undo undo,
    BearerToken token,
    StartCodes startCodes,
    AppFileEditor editor,
    Workbench bench,
    SecretsFile secrets,
    ProofDesk desk,
    PageWriters writers,
    Serilog.ILogger logger
)
{
    private readonly OwnHost _ownHost = new([]);
    private readonly ManagementApi _api = new(host, token, startCodes, bench, writers);
    private readonly AppFileApi _appFile = new(host, editor);
    private readonly WorkingCopyApi _workingCopy = new(host, bench, new PreviewReader(bench.Preview));
    private readonly StartApi _start = new(bench, secrets);
    private readonly WatchApi _watch = new(host);
    private readonly TableApi _tables = new(host, bench);
    private readonly QueryApi _queries = new(host, bench);
    private readonly ChangesApi _changes = new(host, changes, undo);
    private readonly ProofApi _proofs = new(host, changes, desk);
    private readonly ConsoleFiles _console = new();

    public WebApplication Build(int port)
    {
        var builder = Doors.Builder([System.Net.IPAddress.Loopback], port, logger);
        builder.Services.AddProblemDetails();
        builder.Services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.RespectNullableAnnotations = true;
            json.SerializerOptions.RespectRequiredConstructorParameters = true;
            json.SerializerOptions.NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict;
        });
        builder.Services.AddOpenApi("v1", Describe);
        var app = builder.Build();
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.Use(NoteFaultsAsync);
        app.Use(GuardAsync);
        app.UseRouting();
        app.MapOpenApi("/openapi.json");
        var api = app.MapGroup("/api").WithTags("management").ProducesProblem(StatusCodes.Status401Unauthorized);
        _api.Map(api);
        _appFile.Map(api);
        _workingCopy.Map(api);
        _start.Map(api);
        _tables.Map(api);
        _queries.Map(api);
        _watch.Map(api);
        _changes.Map(api);
        _proofs.Map(api);
        app.MapGet("/app-file.schema.json", http => AssetAnswer.SendAsync(http, AppLanguage.SchemaFile, "no-cache"))
            .ExcludeFromDescription();
        app.MapFallback("/api/{**rest}", () =>
            TypedResults.Problem(
                "There is no such operation; /openapi.json has them all.",
                statusCode: StatusCodes.Status404NotFound
            )
        );
        app.MapFallback("{**path}", _console.SendAsync);
        return app;
    }

    /// <summary>Sets the addresses of the doors, when their ports are known.</summary>
    public void PointTo(string pagesUrl, string consoleUrl)
    {
        _api.PointTo(pagesUrl, consoleUrl);
        desk.PointTo(pagesUrl);
        _console.PointTo(pagesUrl);
    }

    /// <summary>Describes the API as a whole. Its types are described by their comments.</summary>
    private static void Describe(OpenApiOptions options)
    {
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info.Title = "Jexa management API";
                document.Info.Version = "1";
                document.Info.Description =
                    "What the command line and the console ask a running service. Needs the token of the state folder.";
                document.Servers = [];
                return Task.CompletedTask;
            }
        );
        // A comment of several lines is one text.
        options.AddSchemaTransformer(
            (schema, _, _) =>
            {
                foreach (var part in (schema.Properties?.Values ?? []).OfType<OpenApiSchema>().Append(schema))
                    part.Description = part.Description is { } text ? Blanks().Replace(text, " ") : null;
                return Task.CompletedTask;
            }
        );
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();

    private async Task GuardAsync(HttpContext http, RequestDelegate next)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = "default-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
        headers.XContentTypeOptions = "nosniff";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        headers["Referrer-Policy"] = "no-referrer";
        headers.CacheControl = "no-store";
        if (!_ownHost.IsNamedBy(http))
            await Refuse(StatusCodes.Status421MisdirectedRequest, "This service does not answer to that host name.")
                .ExecuteAsync(http);
        else if (Doors.HasTwoLengths(http))
            await Refuse(StatusCodes.Status400BadRequest, "The request says the length of its body in two ways.")
                .ExecuteAsync(http);
        else if (http.Request.Path.StartsWithSegments("/api") && http.Request.Path != "/api/session" && !token.IsShownBy(http))
            await ChallengeAsync(http);
        else
            await next(http);
    }

    /// <summary>A fault of our own is answered with 500 and no word of it: what it was stands in the log.</summary>
    private async Task NoteFaultsAsync(HttpContext http, RequestDelegate next)
    {
        try
        {
            await next(http);
        }
        catch (Exception fault) when (fault is not (OperationCanceledException or BadHttpRequestException))
        {
            logger.Error(
                fault,
                "A fault of Jexa’s own at {Method} {Path} of the console",
                http.Request.Method,
                http.Request.Path.Value
            );
            throw;
        }
    }

    private static Task ChallengeAsync(HttpContext http)
    {
        http.Response.Headers.WWWAuthenticate = "Bearer";
        return Refuse(StatusCodes.Status401Unauthorized, "This needs the token that the state folder keeps.").ExecuteAsync(http);
    }

    private static IResult Refuse(int status, string detail) => TypedResults.Problem(detail, statusCode: status);
}
