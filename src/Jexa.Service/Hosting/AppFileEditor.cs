using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Compiler;
using Jexa.Core.Files;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>Makes named changes to an app file: on trial, or saved. A saved file is taken up as after any other save.</summary>
public sealed class AppFileEditor(string file, SiteCompiler compiler) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1, 1);

    /// <summary>The version of a text.</summary>
    public static string VersionOf(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

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
            var bytes = await ReadAsync(version, cancellation);
            var before = TextOf(bytes);
            var now = changes.Any(change => change.AsksApp) ? await compiler.CompileAsync(file, bytes, cancellation) : null;
            var rewriter = new FileRewriter(before);
            var knowledge = new AppKnowledge(now);
            var renamed = new Dictionary<string, string>();
            foreach (var change in changes)
            foreach (var (old, name) in change.Make(rewriter, knowledge))
                renamed[old] = name;
            var texts = renamed.Count == 0 ? [] : Texts(PageChanges.TextFiles(rewriter.Value), renamed);
            var changed = Encoding.UTF8.GetBytes(rewriter.Text);
            var compilation = await compiler.CompileAsync(
                file,
                changed,
                texts.ToDictionary(text => text.Name, text => text.Text),
                cancellation
            );
            if (save && rewriter.Text != before)
            {
                // Somebody may have saved the file while the change was made and compiled.
                await ReadAsync(VersionOf(bytes), cancellation);
                foreach (var text in texts)
                    Write(PathOf(text.Name), Encoding.UTF8.GetBytes(text.Text));
                Write(file, changed);
            }

            var lines = LineDifference.Between(before, rewriter.Text);
            return new EditedFile(rewriter.Text, VersionOf(changed), save, lines, texts, compilation);
        }
        finally
        {
            _turn.Release();
        }
    }

    public void Dispose() => _turn.Dispose();

    private string PathOf(string name) => Path.GetFullPath(name, Path.GetDirectoryName(Path.GetFullPath(file))!);

    /// <summary>The Markdown files that name a renamed page, changed. A file that is not there is left to <c>check</c>.</summary>
    private List<EditedText> Texts(IReadOnlyList<string> names, Dictionary<string, string> renamed)
    {
        var texts = new List<EditedText>();
        foreach (var name in names.Where(name => File.Exists(PathOf(name))))
        {
            var before = TextOf(PlainFile.ReadAllBytes(PathOf(name)));
            var after = PageChanges.RenameInText(before, renamed);
            if (after != before)
                texts.Add(new EditedText(name, after, LineDifference.Between(before, after)));
        }

        return texts;
    }

    private async Task<byte[]> ReadAsync(string? version, CancellationToken cancellation)
    {
        var bytes = await AppFileCompiler.ReadAsync(file, cancellation);
        return version is null || VersionOf(bytes) == version
            ? bytes
            : throw new StaleFileException(
                $"{Path.GetFileName(file)} has been changed meanwhile. Nothing was changed: look at it again, and "
                    + "repeat the change."
            );
    }

    private static string TextOf(byte[] bytes)
    {
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            throw new RewriteException("The file is not UTF-8 text.");
        }
    }

    /// <summary>Replaces the file as a whole. A link stays a link: the file that it leads to is replaced.</summary>
    private static void Write(string file, byte[] bytes)
    {
        try
        {
            var target = File.ResolveLinkTarget(file, returnFinalTarget: true)?.FullName ?? file;
            if (new FileInfo(target).IsReadOnly)
                throw new UnauthorizedAccessException("it is read-only.");
            PlainFile.Replace(target, bytes, File.GetUnixFileMode(target));
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new RewriteException($"{Path.GetFileName(file)} cannot be written: {refused.Message}");
        }
    }
}
