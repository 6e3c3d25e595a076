using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>Makes named changes to an app file: on trial, or saved. A saved file is taken up as after any other save.</summary>
public sealed class AppFileEditor(AppFileDisk disk, SiteCompiler compiler) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1, 1);

    /// <summary>Makes the changes, all or none.</summary>
    /// <param name="version">The version that they are for. Null for the one that is there.</param>
    /// <param name="save">Whether to save the file, or only to tell what would become of it.</param>
    /// <exception cref="StartException">The file cannot be read.</exception>
    /// <exception cref="RewriteException">A change cannot be made, or the file may not be written. Nothing is
    /// changed.</exception>
    /// <exception cref="StaleFileException">The file is another version. Nothing is changed.</exception>
    public async Task<EditedFile> ChangeAsync(
        string? version,
        IReadOnlyList<NamedChange> changes,
        bool save,
        CancellationToken cancellation
    )
    {
        await _turn.WaitAsync(cancellation);
        try
        {
            var before = await ReadAsync(version, cancellation);
            var now = changes.Any(change => change.AsksApp)
                ? await compiler.CompileAsync(disk.File, Encoding.UTF8.GetBytes(before), cancellation)
                : null;
            var (text, texts) = Make(disk, before, changes, now);
            var changed = Encoding.UTF8.GetBytes(text);
            var compilation = await compiler.CompileAsync(
                disk.File,
                changed,
                texts.ToDictionary(text => text.Name, text => text.Text),
                cancellation
            );
            if (save && text != before)
            {
                // Somebody may have saved the file while the change was made and compiled.
                await ReadAsync(AppFileDisk.VersionOf(before), cancellation);
                disk.Write(text, texts.Select(text => (text.Name, text.Text)));
            }

            var lines = LineDifference.Between(before, text);
            return new EditedFile(text, AppFileDisk.VersionOf(changed), save, lines, texts, compilation);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <summary>Makes one or more named changes to a text that is nowhere saved yet.</summary>
    /// <param name="now">The text compiled; null if no change asks.</param>
    /// <exception cref="RewriteException">A change cannot be made.</exception>
    public static (string Text, IReadOnlyList<EditedText> Texts) Make(
        AppFileDisk disk,
        string before,
        IReadOnlyList<NamedChange> changes,
        Compilation? now
    )
    {
        var rewriter = new FileRewriter(before);
        var texts = Make(disk, rewriter, changes, new AppKnowledge(now), _ => null);
        return (rewriter.Text, texts);
    }

    /// <summary>Makes named changes to a text, and to the Markdown files that name a page which they rename.</summary>
    /// <param name="rewriter">The text. If a change cannot be made, it may be partly changed: drop it.</param>
    /// <param name="known">The present text of a Markdown file, if it is another one than on the disk.</param>
    /// <exception cref="RewriteException">A change cannot be made.</exception>
    internal static IReadOnlyList<EditedText> Make(
        AppFileDisk disk,
        FileRewriter rewriter,
        IReadOnlyList<NamedChange> changes,
        IAppKnowledge knowledge,
        Func<string, string?> known
    )
    {
        var renamed = new Dictionary<string, string>();
        foreach (var change in changes)
        foreach (var (old, name) in change.Make(rewriter, knowledge))
            renamed[old] = name;
        return renamed.Count == 0 ? [] : disk.Renamed(PageChanges.TextFiles(rewriter.Value), renamed, known);
    }

    public void Dispose() => _turn.Dispose();

    private async Task<string> ReadAsync(string? version, CancellationToken cancellation)
    {
        var text = await disk.ReadAsync(cancellation);
        return version is null || AppFileDisk.VersionOf(text) == version
            ? text
            : throw new StaleFileException(
                $"{disk.Name} has been changed meanwhile. Nothing was changed: look at it again, and repeat the change."
            );
    }
}
