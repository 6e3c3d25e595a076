using System.Diagnostics.CodeAnalysis;
using System.Text.Json;
using Jexa.Core.Definitions;
using Jexa.Core.Rewriting;
using Jexa.Core.Sources;
using StreamJsonRpc;

namespace Jexa.Cli.Language;

/// <summary>
/// Speaks the Language Server Protocol (3.17) about app files: findings as one types, what can be typed, what words mean, where
/// names are defined and used, renames, and remedies. All of it comes from the same place as in the console.
/// </summary>
[SuppressMessage("Performance", "CA1822", Justification = "The protocol calls methods of an object.")]
internal sealed class LanguageServer(SourceRegistry sources) : IDisposable
{
    /// <summary>A pause in typing after which the text is checked.</summary>
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(200);

    /// <summary>The protocol’s code for parameters that make no sense.</summary>
    private const int InvalidParameters = -32602;

    private readonly Dictionary<string, LanguageDocument> _documents = [];
    private readonly TaskCompletionSource _ended = new();
    private JsonRpc? _client;

    /// <summary>The notifications go here.</summary>
    public JsonRpc Client
    {
        set => _client = value;
    }

    /// <summary>Done when the client has said that it ends.</summary>
    public Task Ended => _ended.Task;

    [JsonRpcMethod("initialize", UseSingleObjectParameterDeserialization = true)]
    public object Initialize(JsonElement _) =>
        new
        {
            capabilities = new
            {
                textDocumentSync = new { openClose = true, change = 1 },
                completionProvider = new { triggerCharacters = new[] { " ", ":", "[", "{", "," } },
                hoverProvider = true,
                definitionProvider = true,
                referencesProvider = true,
                renameProvider = true,
                codeActionProvider = new { codeActionKinds = new[] { "quickfix" } },
            },
            serverInfo = new { name = "jexa" },
        };

    [JsonRpcMethod("initialized", UseSingleObjectParameterDeserialization = true)]
    public void Initialized(JsonElement _) { }

    [JsonRpcMethod("shutdown")]
    public object? Shutdown() => null;

    [JsonRpcMethod("exit")]
    public void Exit() => _ended.TrySetResult();

    [JsonRpcMethod("textDocument/didOpen", UseSingleObjectParameterDeserialization = true)]
    public void Open(JsonElement given)
    {
        var document = given.GetProperty("textDocument");
        var uri = document.GetProperty("uri").GetString()!;
        lock (_documents)
        {
            if (_documents.Remove(uri, out var before))
                before.Dispose();
            _documents[uri] = new LanguageDocument(uri, sources);
        }

        _ = TakeAsync(uri, document.GetProperty("text").GetString()!, TimeSpan.Zero);
    }

    [JsonRpcMethod("textDocument/didChange", UseSingleObjectParameterDeserialization = true)]
    public void Change(JsonElement given)
    {
        var changes = given.GetProperty("contentChanges");
        if (changes.GetArrayLength() > 0)
            _ = TakeAsync(UriOf(given), changes[changes.GetArrayLength() - 1].GetProperty("text").GetString()!, Pause);
    }

    [JsonRpcMethod("textDocument/didSave", UseSingleObjectParameterDeserialization = true)]
    public void Saved(JsonElement _) { }

    [JsonRpcMethod("textDocument/didClose", UseSingleObjectParameterDeserialization = true)]
    public Task CloseAsync(JsonElement given)
    {
        var uri = UriOf(given);
        lock (_documents)
            if (_documents.Remove(uri, out var document))
                document.Dispose();
        return TellAsync(uri, []);
    }

    [JsonRpcMethod("textDocument/completion", UseSingleObjectParameterDeserialization = true)]
    public async Task<object> CompleteAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return Array.Empty<object>();
        var (line, column) = PositionOf(given);
        var offset = document.OffsetOf(line, column);
        var (from, found) = (await document.LanguageAsync(offset, cancellation)).CompletionsAt(offset);
        var range = new
        {
            start = new { line = line - 1, character = column - 1 - (offset - from) },
            end = new { line = line - 1, character = column - 1 },
        };
        return found
            .Select(
                (one, i) =>
                    new
                    {
                        label = one.Label,
                        detail = one.Detail,
                        // Keys are properties, everything else a reference to something.
                        kind = one.Text.EndsWith(": ", StringComparison.Ordinal) ? 10 : 18,
                        sortText = i.ToString("0000", System.Globalization.CultureInfo.InvariantCulture),
                        textEdit = new { range, newText = one.Text },
                    }
            )
            .ToList();
    }

    [JsonRpcMethod("textDocument/hover", UseSingleObjectParameterDeserialization = true)]
    public async Task<object?> HoverAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return null;
        var (line, column) = PositionOf(given);
        return (await document.LanguageAsync(cancellation)).HoverAt(line, column) is { } text
            ? new { contents = new { kind = "markdown", value = text } }
            : null;
    }

    [JsonRpcMethod("textDocument/definition", UseSingleObjectParameterDeserialization = true)]
    public async Task<object?> DefineAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return null;
        var (line, column) = PositionOf(given);
        return (await document.LanguageAsync(cancellation)).DefinitionAt(line, column) is { } range
            ? new { uri = document.Uri, range = LanguageDocument.Range(range) }
            : null;
    }

    [JsonRpcMethod("textDocument/references", UseSingleObjectParameterDeserialization = true)]
    public async Task<object> ReferAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return Array.Empty<object>();
        var (line, column) = PositionOf(given);
        return (await document.LanguageAsync(cancellation))
            .ReferencesAt(line, column)
            .Select(range => new { uri = document.Uri, range = LanguageDocument.Range(range) })
            .ToList();
    }

    [JsonRpcMethod("textDocument/rename", UseSingleObjectParameterDeserialization = true)]
    public async Task<object?> RenameAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return null;
        var (line, column) = PositionOf(given);
        try
        {
            var language = await document.LanguageAsync(cancellation);
            var change = language.RenameAt(line, column, given.GetProperty("newName").GetString()!);
            return new { changes = await document.EditsAsync(change, cancellation) };
        }
        catch (RewriteException refused)
        {
            throw new LocalRpcException(refused.Message) { ErrorCode = InvalidParameters };
        }
    }

    [JsonRpcMethod("textDocument/codeAction", UseSingleObjectParameterDeserialization = true)]
    public async Task<object> ActAsync(JsonElement given, CancellationToken cancellation)
    {
        if (DocumentOf(given) is not { } document)
            return Array.Empty<object>();
        var range = given.GetProperty("range");
        var (first, last) = (LineOf(range, "start"), LineOf(range, "end"));
        var actions = new List<object>();
        foreach (var (finding, remedy) in await document.RemediesAsync(cancellation))
        {
            if (finding.At.Line < first || finding.At.Line > last)
                continue;
            actions.Add(
                new
                {
                    title = $"Write {finding.Nearest}",
                    kind = "quickfix",
                    diagnostics = new[] { Diagnostic(finding) },
                    edit = new { changes = await document.EditsAsync(remedy, cancellation) },
                }
            );
        }

        return actions;
    }

    public void Dispose()
    {
        lock (_documents)
            foreach (var document in _documents.Values)
                document.Dispose();
    }

    /// <summary>Takes a text, and checks it when nothing more was typed for a while.</summary>
    private async Task TakeAsync(string uri, string text, TimeSpan pause)
    {
        LanguageDocument? document;
        lock (_documents)
            _documents.TryGetValue(uri, out document);
        if (document is null)
            return;
        var turn = document.Take(text);
        await Task.Delay(pause);
        if (!document.IsLatest(turn))
            return;
        try
        {
            var findings = (await document.LanguageAsync(CancellationToken.None)).Findings;
            if (document.IsLatest(turn))
                await TellAsync(uri, findings);
        }
        catch (Exception unforeseen) when (unforeseen is not OutOfMemoryException)
        {
            // One text that cannot be checked must not end the editor's server.
            await Console.Error.WriteLineAsync($"jexa: {unforeseen.Message}");
        }
    }

    private Task TellAsync(string uri, IEnumerable<Finding> findings) =>
        _client?.NotifyWithParameterObjectAsync(
            "textDocument/publishDiagnostics",
            new { uri, diagnostics = findings.Select(Diagnostic).ToList() }
        )
        ?? Task.CompletedTask;

    private static object Diagnostic(Finding finding)
    {
        var (line, column) = (Math.Max(0, finding.At.Line - 1), Math.Max(0, finding.At.Column - 1));
        return new
        {
            range = new
            {
                start = new { line, character = column },
                end = new { line, character = column + Math.Max(1, finding.Found?.Length ?? 1) },
            },
            severity = finding.Code.Severity switch
            {
                Severity.Error => 1,
                Severity.Warning => 2,
                _ => 4,
            },
            code = finding.Code.Id,
            source = "jexa",
            message = $"{finding.Message} {finding.Remedy}",
        };
    }

    private LanguageDocument? DocumentOf(JsonElement given)
    {
        lock (_documents)
            return _documents.GetValueOrDefault(UriOf(given));
    }

    private static string UriOf(JsonElement given) => given.GetProperty("textDocument").GetProperty("uri").GetString()!;

    /// <summary>A position of the protocol, from 0, as line and column from 1.</summary>
    private static (int Line, int Column) PositionOf(JsonElement given)
    {
        var position = given.GetProperty("position");
        return (position.GetProperty("line").GetInt32() + 1, position.GetProperty("character").GetInt32() + 1);
    }

    private static int LineOf(JsonElement range, string end) => range.GetProperty(end).GetProperty("line").GetInt32() + 1;
}
