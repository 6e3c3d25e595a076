using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Guidance;
using Jexa.Core.Rewriting;
using Jexa.Core.Sources;
using Jexa.Service.Hosting;

namespace Jexa.Service.Workshop;

/// <summary>
/// Where the app file is changed before it is saved: one working copy, shared by all consoles of the service. Each operation
/// waits for its turn, and compiles what it has made, so that the preview shows it.
/// </summary>
/// <param name="compiler">Compiles for the prefix of the preview.</param>
public sealed class Workbench(
    AppFileDisk disk,
    SiteCompiler compiler,
    Preview preview,
    FileVersions versions,
    Func<WorkingCopy?> read,
    Action<WorkingCopy> keep,
    TimeProvider clock
) : IDisposable
{
    /// <summary>The longest app file that is edited here, in UTF-16 units.</summary>
    private const int MostText = 4 * 1024 * 1024;

    /// <summary>A source that was away is asked again after this time.</summary>
    private static readonly TimeSpan AwayPause = TimeSpan.FromSeconds(2);

    private readonly SemaphoreSlim _turn = new(1, 1);
    private readonly KnownText _known = new((text, stop) => compiler.CompileAsync(disk.File, Encoding.UTF8.GetBytes(text), stop));
    private WorkingCopy? _copy;
    private (string Text, FileMap? Map)? _mapped;
    private Compilation? _compilation;
    private long _compiledAt;
    private int _revision;

    public Preview Preview => preview;

    public AppFileDisk Disk => disk;

    public FileVersions Versions => versions;

    /// <summary>Increases with each change of the working copy.</summary>
    public int Revision => Volatile.Read(ref _revision);

    /// <summary>The sources that the preview uses.</summary>
    public IEnumerable<ISource> Sources => _compilation?.Sources.Select(source => source.Source).OfType<ISource>() ?? [];

    /// <summary>The working copy as it is. One without changes follows the file.</summary>
    public Task<WorkshopState> LookAsync(CancellationToken cancellation) => DoAsync((copy, _) => copy, cancellation);

    /// <summary>What can be asked about a text that somebody types.</summary>
    /// <param name="offset">Where it is being typed, in UTF-16 units.</param>
    public async Task<Language> LanguageAsync(string text, int offset, CancellationToken cancellation)
    {
        var state = await LookAsync(cancellation);
        if (text == state.Copy.Text && state.Map is not null)
            return AppLanguage.Of(text, state.Map, state.Map, state.Compilation);
        await _turn.WaitAsync(cancellation);
        try
        {
            var (map, compilation) = await _known.ForAsync(text, offset, state.Compilation, cancellation);
            return AppLanguage.Of(text, null, map, compilation);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>Makes named changes, all or none. They are one step.</summary>
    /// <exception cref="RewriteException">A change cannot be made. Nothing is changed.</exception>
    public Task<WorkshopState> ChangeAsync(IReadOnlyList<NamedChange> changes, string label, CancellationToken cancellation) =>
        DoAsync(
            (copy, compilation) =>
            {
                var rewriter = MapOf(copy.Text) is { } map ? new FileRewriter(map) : new FileRewriter(copy.Text);
                var texts = AppFileEditor.Make(
                    disk,
                    rewriter,
                    changes,
                    new AppKnowledge(compilation),
                    copy.Texts.GetValueOrDefault
                );
                _mapped = (rewriter.Text, rewriter.Map);
                return copy.With(
                    label,
                    clock.GetUtcNow(),
                    rewriter.Text,
                    [
                        .. texts.Select(one =>
                            (one.Name, copy.Texts.GetValueOrDefault(one.Name) ?? disk.TextOf(one.Name) ?? "", one.Text)
                        ),
                    ]
                );
            },
            cancellation
        );

    /// <summary>Replaces the text as it was typed.</summary>
    /// <param name="version">The version that was typed into.</param>
    /// <exception cref="StaleFileException">The working copy is another version.</exception>
    public Task<WorkshopState> TypeAsync(string version, string text, CancellationToken cancellation) =>
        DoAsync(
            (copy, _) =>
                copy.Version != version ? throw new StaleFileException("The text was changed elsewhere meanwhile.")
                : text.Length > MostText ? throw new RewriteException("The text is longer than 4 MiB.")
                : copy.With("typing", clock.GetUtcNow(), text, []),
            cancellation
        );

    /// <summary>Replaces the whole text in one step.</summary>
    public Task<WorkshopState> ReplaceAsync(string text, string label, CancellationToken cancellation) =>
        DoAsync((copy, _) => copy.With(label, clock.GetUtcNow(), text, []), cancellation);

    /// <summary>Takes the last step back.</summary>
    public Task<WorkshopState> UndoAsync(CancellationToken cancellation) => DoAsync((copy, _) => copy.Undone(), cancellation);

    /// <summary>Makes the step again that was taken back last.</summary>
    public Task<WorkshopState> RedoAsync(CancellationToken cancellation) => DoAsync((copy, _) => copy.Redone(), cancellation);

    /// <summary>Drops all changes: the working copy is the file as it is.</summary>
    public Task<WorkshopState> DiscardAsync(CancellationToken cancellation) =>
        DoAsync((copy, _, now) => WorkingCopy.Of(now.Text ?? copy.Base), cancellation);

    /// <summary>Saves the working copy.</summary>
    /// <param name="version">The version that its author has seen.</param>
    /// <exception cref="StaleFileException">The file or the working copy was changed meanwhile. Nothing is saved.</exception>
    /// <exception cref="RewriteException">The file may not be written.</exception>
    public Task<WorkshopState> SaveAsync(string version, CancellationToken cancellation) =>
        DoAsync(
            (copy, _, now) =>
            {
                if (copy.Version != version)
                    throw new StaleFileException("The working copy was changed elsewhere meanwhile. Look at it, and save again.");
                if (now.Trouble is { } trouble)
                    throw new RewriteException($"{trouble} Nothing was saved.");
                // A file that is gone is written anew.
                if (now.Text is { } there && there != copy.Base)
                    throw new StaleFileException(
                        $"{disk.Name} was changed on the disk since this was begun. Nothing was saved: merge the two first."
                    );
                if (copy.Base is { } former)
                    versions.Keep(former);
                disk.Write(copy.Text, copy.Texts.Select(text => (text.Key, text.Value)));
                versions.Keep(copy.Text);
                return copy with { Base = copy.Text, BaseTexts = copy.Texts };
            },
            cancellation
        );

    /// <summary>Brings the working copy and a file that was changed meanwhile together.</summary>
    /// <param name="takeMine">For each conflict, in order, whether the working copy's lines are taken. Null if no choice was
    /// made yet.</param>
    /// <exception cref="RewriteException">There are conflicts that nothing was chosen for.</exception>
    public Task<WorkshopState> MergeAsync(IReadOnlyList<bool>? takeMine, CancellationToken cancellation) =>
        DoAsync(
            (copy, _, now) =>
            {
                if (now.Text is not { } there)
                    throw new RewriteException(now.Trouble ?? $"{disk.Name} is not there any more: there is nothing to merge.");
                var parts = LineMerge.Parts(copy.Base ?? "", copy.Text, there);
                var conflicts = parts.Count(part => part.IsConflict);
                if (conflicts != (takeMine?.Count ?? 0))
                    throw new RewriteException($"Choose for each of {conflicts} conflicts whose lines are taken.");
                var text = LineMerge.Merge(parts, takeMine ?? [], FileRewriter.NewLineOf(copy.Text));
                return copy.With("merge with the file", clock.GetUtcNow(), text, []) with { Base = there };
            },
            cancellation
        );

    public void Dispose() => _turn.Dispose();

    private Task<WorkshopState> DoAsync(Func<WorkingCopy, Compilation?, WorkingCopy> make, CancellationToken cancellation) =>
        DoAsync((copy, compilation, _) => make(copy, compilation), cancellation);

    private async Task<WorkshopState> DoAsync(
        Func<WorkingCopy, Compilation?, FileOnDisk, WorkingCopy> make,
        CancellationToken cancellation
    )
    {
        await _turn.WaitAsync(cancellation);
        try
        {
            var now = await disk.LookAsync(cancellation);
            var before = Following(_copy ?? read(), now.Text);
            await CompileAsync(before, cancellation);
            var after = make(before, _compilation, now);
            await CompileAsync(after, cancellation);
            if (after != _copy)
            {
                keep(after);
                _copy = after;
                Interlocked.Increment(ref _revision);
            }

            if (after.Base != now.Text)
                now = await disk.LookAsync(cancellation);
            return new WorkshopState(after, _compilation!, MapOf(after.Text), now, _revision);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>The working copy beside the file as it is now. One without changes follows the file. One whose file cannot be
    /// read, or is gone, stays: it may be all that is left.</summary>
    private WorkingCopy Following(WorkingCopy? copy, string? now)
    {
        if (copy is null)
            return WorkingCopy.Of(now);
        if (now is null || now == copy.Base)
            return copy;
        // What was saved is in the file, though that was not noted down before the service ended.
        if (now == copy.Text && copy.Texts.All(text => disk.TextOf(text.Key) == text.Value))
            return copy with { Base = now, BaseTexts = copy.Texts };
        return copy.IsChanged ? copy : WorkingCopy.Of(now);
    }

    /// <summary>What stands where in a text. To read a large one takes long, so the last reading is kept.</summary>
    private FileMap? MapOf(string text)
    {
        if (_mapped?.Text != text)
            _mapped = (text, FileMap.Read(text));
        return _mapped.Value.Map;
    }

    private WorkingCopy? _compiled;
    private readonly BesideFiles _beside = new();

    /// <summary>Compiles a working copy, unless that was done, and shows it in the preview.</summary>
    private async Task CompileAsync(WorkingCopy copy, CancellationToken cancellation)
    {
        var isSame =
            _compiled is { } last && last.Text == copy.Text && ReferenceEquals(last.Texts, copy.Texts) && !_beside.HasChanged;
        if (isSame && !(_compilation!.SourceIsAway && clock.GetElapsedTime(_compiledAt) > AwayPause))
            return;
        var beside = _beside.State;
        _compilation = await compiler.CompileAsync(disk.File, Encoding.UTF8.GetBytes(copy.Text), copy.Texts, cancellation);
        (_compiled, _compiledAt) = (copy, clock.GetTimestamp());
        _beside.Take(_compilation, beside);
        _known.Take(copy.Text, MapOf(copy.Text), _compilation);
        // What cannot be read at all leaves the last pages that could.
        if (_compilation.Partial is { } site)
            preview.Site = site;
    }
}
