using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json;

namespace Jexa.Service.Tests;

/// <summary>
/// A small application of somebody else that a script draws, in one of two ways: with a path for each page, or of components with
/// the page in the fragment. It is right, but for one fault that it is told to have.
/// </summary>
internal sealed class ScriptBed : IDisposable
{
    private static readonly Lazy<string> Components = new(Bundle);

    private readonly HttpListener _listener;
    private readonly string _origin;
    private readonly string _fault;
    private readonly bool _hasPaths;

    public ScriptBed(bool hasPaths, string fault = "")
    {
        (_hasPaths, _fault) = (hasPaths, fault);
        (_listener, _origin) = LoopbackListener.Start(AnswerAsync);
    }

    /// <summary>The address of the list.</summary>
    public string Url => _origin + (_hasPaths ? "register" : "#/bridges");

    /// <summary>The requests so far that could change something.</summary>
    public List<string> Changing { get; } = [];

    private static string Folder => Repository.File("tests/Jexa.Service.Tests/Beds");

    /// <summary>The components with their libraries as one script.</summary>
    private static string Bundle()
    {
        var output = Directory.CreateTempSubdirectory("jexa-bed-").FullName;
        var modules = Repository.File("console/node_modules");
        var settings = Path.Combine(output, "settings.mjs");
        File.WriteAllText(
            settings,
            $$"""
            export default {
              input: {{JsonSerializer.Serialize(Path.Combine(Folder, "main.jsx"))}},
              resolve: { modules: [{{JsonSerializer.Serialize(modules)}}] },
              transform: { jsx: 'react-jsx', define: { 'process.env.NODE_ENV': '"production"' } },
              output: { file: {{JsonSerializer.Serialize(Path.Combine(output, "main.js"))}}, format: 'iife', minify: true },
            };
            """
        );
        using var process = Process.Start(
            new ProcessStartInfo("node", [Path.Combine(modules, "rolldown/bin/cli.mjs"), "-c", settings])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        var said = process.StandardOutput.ReadToEndAsync();
        var errors = process.StandardError.ReadToEnd();
        process.WaitForExit();
        if (process.ExitCode != 0)
            throw new InvalidOperationException(said.Result + errors);
        var script = File.ReadAllText(Path.Combine(output, "main.js"));
        Directory.Delete(output, recursive: true);
        return script;
    }

    private async Task AnswerAsync(HttpListenerContext context)
    {
        var request = context.Request;
        if (request.HttpMethod is not ("GET" or "HEAD"))
            lock (Changing)
                Changing.Add($"{request.HttpMethod} {request.RawUrl}");
        // Data takes a moment, as it does.
        if (request.Url!.AbsolutePath.StartsWith("/api/", StringComparison.Ordinal))
            await Task.Delay(15);
        var (status, type, body) = Answer(request.Url);
        context.Response.StatusCode = status;
        context.Response.ContentType = type;
        try
        {
            await context.Response.OutputStream.WriteAsync(body);
            context.Response.Close();
        }
        catch (HttpListenerException)
        {
            // Whoever asked has left.
        }
    }

    private (int Status, string Type, byte[] Body) Answer(Uri url)
    {
        var path = Uri.UnescapeDataString(url.AbsolutePath);
        string[] parts = path.Trim('/').Split('/');
        return parts switch
        {
            ["script.js"] => (200, "text/javascript", Script()),
            ["photo", var name] => name == "none.png" ? (404, "text/plain", []) : (200, "image/png", BedRegister.Picture),
            ["api", "bridges"] => (200, "application/json", List(url.Query)),
            ["api", "bridges", var id] => Record(id),
            ["register", var id, ..] when _hasPaths => (StatusOf(id), "text/html; charset=utf-8", Document()),
            [""] or ["register"] => (200, "text/html; charset=utf-8", Document()),
            _ => (404, "text/html; charset=utf-8", Encoding.UTF8.GetBytes("<title>Nothing</title><p>There is no such page.")),
        };
    }

    private byte[] Script() =>
        _hasPaths ? File.ReadAllBytes(Path.Combine(Folder, "paths.js")) : Encoding.UTF8.GetBytes(Components.Value);

    private byte[] Document() =>
        Encoding.UTF8.GetBytes(
            $"<!DOCTYPE html><html lang=en><head><meta charset=utf-8><title>Register</title><link rel=icon href=data:,></head>"
                + $"<body data-fault=\"{_fault}\"><nav><a href='/about'>About</a></nav><main></main>"
                + "<script defer src='/script.js'></script></body></html>"
        );

    /// <summary>What the document of a record is answered with: the server knows which records there are.</summary>
    private int StatusOf(string id) =>
        _fault == "it cannot be refreshed" ? 404
        : _fault is "a wrong ID is 200" or "a wrong ID is blank" or "a wrong ID is an empty record" ? 200
        : NumberOf(id) is null ? 404
        : 200;

    private int? NumberOf(string text)
    {
        text = _fault switch
        {
            "a prefix is enough" => string.Concat(text.TakeWhile(char.IsAsciiDigit)),
            "zeros and blanks are taken" => text.Trim().TrimStart('0'),
            _ => text,
        };
        if (_fault == "a wrong ID shows the first" && !int.TryParse(text, out _))
            return 1;
        return
            int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            && number.ToString(CultureInfo.InvariantCulture) == text
            && number is >= 1 and <= BedRegister.Count
            ? number
            : null;
    }

    private byte[] List(string query)
    {
        var asked = System.Web.HttpUtility.ParseQueryString(query)["page"];
        var page = int.TryParse(asked, out var number) && _fault != "the next page is the same" ? number : 1;
        return JsonSerializer.SerializeToUtf8Bytes(
            Enumerable.Range(((page - 1) * BedRegister.Window) + 1, BedRegister.Window).Select(Of)
        );
    }

    private (int, string, byte[]) Record(string id)
    {
        if (NumberOf(id) is not { } number)
            return (404, "application/json", "{}"u8.ToArray());
        if (_fault == "one record fails" && number == 5)
            return (500, "application/json", "{}"u8.ToArray());
        if (_fault == "always the first record")
            number = 1;
        if (_fault == "one page shows another" && number == 5)
            number = 12;
        return (200, "application/json", JsonSerializer.SerializeToUtf8Bytes(Of(number, isRecord: true)));
    }

    private object Of(int id) => Of(id, isRecord: false);

    private object Of(int id, bool isRecord) =>
        new
        {
            id,
            page = BedRegister.WindowOf(id),
            name = BedRegister.NameOf(id),
            code = BedRegister.CodeOf(id),
            opened = BedRegister.OpenedOn(
                isRecord && _fault == "one field is another record's" ? (id % BedRegister.Window) + 1 : id
            ),
            length = BedRegister.LengthOf(id),
            keeper = BedRegister.KeeperOf(id),
        };

    public void Dispose() => _listener.Close();
}
