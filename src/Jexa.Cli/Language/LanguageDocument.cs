using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Rewriting;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;
using Jexa.Service.Workshop;

namespace Jexa.Cli.Language;

/// <summary>An app file that is open in an editor: its text, and what it comes to.</summary>
internal sealed class LanguageDocument(string uri, SourceRegistry sources) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly Lock _lock = new();
    private readonly string _file = new Uri(uri).LocalPath;
    private readonly KnownText _known = new((text, stop) => CompileAsync(sources, new Uri(uri).LocalPath, text, stop));
    private string _text = "";
    private int _version;
    private FileMap? _readable;
    private (int Version, Compilation Compilation)? _compiled;

    public string Uri => uri;

    /// <summary>Takes the text as it is now. Gives its number.</summary>
    public int Take(string text)
    {
        lock (_lock)
        {
            _text = text;
            _readable = FileMap.Read(text) ?? _readable;
            return ++_version;
        }
    }

    public bool IsLatest(int version) => Volatile.Read(ref _version) == version;

    /// <summary>The offset of a line and column, both from 1.</summary>
    public int OffsetOf(int line, int column)
    {
        var at = 0;
        for (var i = 1; i < line; i++)
        {
            var next = _text.IndexOf('\n', at);
            if (next < 0)
                return _text.Length;
            at = next + 1;
        }

        return Math.Min(at + column - 1, _text.Length);
    }

    /// <summary>What can be asked about the text.</summary>
    public async Task<Core.Guidance.Language> LanguageAsync(CancellationToken cancellation) =>
        AppLanguage.Of(_text, _readable, await CompileAsync(cancellation));

    /// <summary>What can be asked where somebody types, even if the text cannot be read for a moment.</summary>
    public async Task<Core.Guidance.Language> LanguageAsync(int offset, CancellationToken cancellation)
    {
        var text = _text;
        var compilation = await CompileAsync(cancellation);
        if (FileMap.Read(text) is not null)
            return AppLanguage.Of(text, null, compilation);
        await _turn.WaitAsync(cancellation);
        try
        {
            var (map, known) = await _known.ForAsync(text, offset, compilation, cancellation);
            return AppLanguage.Of(text, map, known);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>The findings that a change is known to mend, with that change.</summary>
    public async Task<IReadOnlyList<(Finding Finding, NamedChange Change)>> RemediesAsync(CancellationToken cancellation)
    {
        var compilation = await CompileAsync(cancellation);
        if (FileMap.Read(_text) is not { } map)
            return [];
        var found = new List<(Finding, NamedChange)>();
        foreach (var finding in compilation.FindingsInAppFile)
            if (Remedy.Of(finding, map) is { } change)
                found.Add((finding, change));
        return found;
    }

    /// <summary>The edits of a change by the URIs of their files: this one, and Markdown files beside it.</summary>
    /// <exception cref="RewriteException">The change cannot be made.</exception>
    public async Task<Dictionary<string, object[]>> EditsAsync(NamedChange change, CancellationToken cancellation)
    {
        var compilation = change.AsksApp ? await CompileAsync(cancellation) : null;
        var disk = new AppFileDisk(_file);
        var before = _text;
        var (after, texts) = AppFileEditor.Make(disk, before, [change], compilation);
        var edits = new Dictionary<string, object[]> { [uri] = [Edit(before, after)] };
        foreach (var text in texts)
            edits[new Uri(disk.PathOf(text.Name)).AbsoluteUri] = [Edit(disk.TextOf(text.Name)!, text.Text)];
        return edits;
    }

    public void Dispose() => _turn.Dispose();

    /// <summary>A range as the protocol has it.</summary>
    public static object Range(MapRange range) =>
        new
        {
            start = new { line = range.Line - 1, character = range.Column - 1 },
            end = new { line = range.EndLine - 1, character = range.EndColumn - 1 },
        };

    /// <summary>The one part in which two texts differ.</summary>
    private static object Edit(string before, string after)
    {
        var splice = TextSplice.Between("", before, after);
        return new
        {
            range = new
            {
                start = PositionOf(before, splice.Start),
                end = PositionOf(before, splice.Start + splice.Before.Length),
            },
            newText = splice.After,
        };
    }

    private static object PositionOf(string text, int offset)
    {
        var start = offset == 0 ? 0 : text.LastIndexOf('\n', offset - 1) + 1;
        return new { line = text.AsSpan(0, offset).Count('\n'), character = offset - start };
    }

    private async Task<Compilation> CompileAsync(CancellationToken cancellation)
    {
        await _turn.WaitAsync(cancellation);
        try
        {
            var (text, version) = (_text, _version);
            if (_compiled is not { } known || known.Version != version)
            {
                _compiled = known = (version, await CompileAsync(sources, _file, text, cancellation));
                _known.Take(text, FileMap.Read(text), known.Compilation);
            }

            return known.Compilation;
        }
        finally
        {
            _turn.Release();
        }
    }

    private static Task<Compilation> CompileAsync(SourceRegistry sources, string file, string text, CancellationToken stop) =>
        AppFileCompiler.Over(sources, Mount.Root).CompileAsync(file, Encoding.UTF8.GetBytes(text), stop);
}
