using System.Net;
using Jexa.Bench.Direct;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;

// The two pages of the demo as somebody would write them by hand who wants them fast and nothing else: no page table, no
// app file, no trace, no outcomes beyond "not found". With "whole" the record's page says in its headers what Jexa's says.
// Usage: direct DATABASE PORT [whole], or direct ENGINE CONNECTION PORT [whole]
var isWhole = args[^1] == "whole";
if (isWhole)
    args = args[..^1];
var database = args[0];
var port = int.Parse(args[^1]);
var server = args.Length == 3 ? new DriverPages(args[0], args[1]) : null;
var builder = WebApplication.CreateSlimBuilder();
builder.Logging.ClearProviders();
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Listen(IPAddress.Loopback, port);
});
var app = builder.Build();
var readers = new ReaderPool(database);
app.Run(http =>
{
    var path = http.Request.Path.Value!;
    if (server is not null)
        return path.StartsWith("/bridges/", StringComparison.Ordinal) && long.TryParse(path.AsSpan(9), out var asked)
            ? SendFromDriver(http, asked)
            : NotFound(http);
    if (path == "/bridges")
        return Send(http, PageBuffer.Rent(), static (reader, page, _) => reader.WriteList(page), 0);
    return path.StartsWith("/bridges/", StringComparison.Ordinal) && long.TryParse(path.AsSpan(9), out var id)
        ? Send(http, PageBuffer.Rent(), static (reader, page, id) => reader.WriteDetail(page, id), id)
        : NotFound(http);
});
Console.WriteLine($"http://127.0.0.1:{port}/");
app.Run();

async Task Send(HttpContext http, PageBuffer page, Func<Reader, PageBuffer, long, bool> write, long id)
{
    var reader = readers.Rent();
    var found = write(reader, page, id);
    readers.Return(reader);
    if (!found)
    {
        page.Return();
        await NotFound(http);
        return;
    }

    await SendPage(http, page, id);
    page.Return();
}

async Task SendFromDriver(HttpContext http, long id)
{
    var page = PageBuffer.Rent();
    if (!await server.WriteDetailAsync(page, id, http.RequestAborted))
    {
        page.Return();
        await NotFound(http);
        return;
    }

    await SendPage(http, page, id);
    page.Return();
}

ValueTask SendPage(HttpContext http, PageBuffer page, long id)
{
    if (isWhole && id > 0 && PageHeaders.Set(http, page.Written.Span, id))
        return default;
    http.Response.ContentType = "text/html; charset=utf-8";
    http.Response.ContentLength = page.Length;
    return http.Response.Body.WriteAsync(page.Written);
}

static Task NotFound(HttpContext http)
{
    http.Response.StatusCode = 404;
    return Task.CompletedTask;
}
