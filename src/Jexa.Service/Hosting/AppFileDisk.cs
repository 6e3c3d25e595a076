using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Files;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>An app file, and the Markdown files that it names, as they are on the disk.</summary>
public sealed class AppFileDisk(string file)
{
    /// <summary>The app file's path, as it was given.</summary>
    public string File => file;

    /// <summary>The app file's name, for sentences.</summary>
    public string Name => Path.GetFileName(file);

    /// <summary>Whether there is an app file.</summary>
    public bool IsThere => System.IO.File.Exists(file);

    /// <summary>The version of a text: SHA-256 of its bytes in hexadecimal digits.</summary>
    public static string VersionOf(string text) => VersionOf(Encoding.UTF8.GetBytes(text));

    /// <inheritdoc cref="VersionOf(string)"/>
    public static string VersionOf(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    /// <summary>The path of a file that the app file names.</summary>
    public string PathOf(string name) => Path.GetFullPath(name, Path.GetDirectoryName(Path.GetFullPath(file))!);

    /// <summary>Reads the app file.</summary>
    /// <exception cref="StartException">It cannot be read.</exception>
    /// <exception cref="RewriteException">It is not UTF-8 text.</exception>
    public async Task<string> ReadAsync(CancellationToken cancellation) =>
        TextOf(await AppFileCompiler.ReadAsync(file, cancellation));

    /// <summary>Reads the app file, if there is one.</summary>
    public async Task<FileOnDisk> LookAsync(CancellationToken cancellation)
    {
        try
        {
            return new FileOnDisk(await ReadAsync(cancellation), null);
        }
        catch (Exception refused) when (refused is StartException or RewriteException)
        {
            return new FileOnDisk(null, System.IO.File.Exists(file) || Directory.Exists(file) ? refused.Message : null);
        }
    }

    /// <summary>The Markdown files of these names that name one of the renamed pages, changed. Files that are not there are
    /// left to <c>check</c>.</summary>
    public IReadOnlyList<EditedText> Renamed(
        IEnumerable<string> names,
        IReadOnlyDictionary<string, string> renamed,
        Func<string, string?> known
    )
    {
        var texts = new List<EditedText>();
        foreach (var name in names)
        {
            if ((known(name) ?? TextOf(name)) is not { } before)
                continue;
            var after = PageChanges.RenameInText(before, renamed);
            if (after != before)
                texts.Add(new EditedText(name, after, LineDifference.Between(before, after)));
        }

        return texts;
    }

    /// <summary>The text of a Markdown file; null if it is not there.</summary>
    public string? TextOf(string name) =>
        System.IO.File.Exists(PathOf(name)) ? TextOf(PlainFile.ReadAllBytes(PathOf(name))) : null;

    /// <summary>Replaces the files, the app file last.</summary>
    /// <exception cref="RewriteException">A file may not be written.</exception>
    public void Write(string text, IEnumerable<(string Name, string Text)> texts)
    {
        foreach (var (name, content) in texts)
            Write(PathOf(name), Encoding.UTF8.GetBytes(content));
        Write(file, Encoding.UTF8.GetBytes(text));
    }

    /// <summary>Why the app file cannot be written; null if it can.</summary>
    public string? Obstacle()
    {
        var target = Target(file);
        if (System.IO.File.Exists(target) && new FileInfo(target).IsReadOnly)
            return $"{Name} is read-only.";
        var folder = Path.GetDirectoryName(Path.GetFullPath(target))!;
        return Directory.Exists(target) ? $"{Name} is a folder."
            : !Directory.Exists(folder) ? $"There is no folder {folder}."
            : null;
    }

    /// <summary>Replaces a file as a whole. A link stays a link: the file that it leads to is replaced.</summary>
    private static void Write(string file, byte[] bytes)
    {
        try
        {
            var target = Target(file);
            var isThere = System.IO.File.Exists(target);
            if (isThere && new FileInfo(target).IsReadOnly)
                throw new UnauthorizedAccessException("it is read-only.");
            PlainFile.Replace(target, bytes, isThere ? System.IO.File.GetUnixFileMode(target) : NewFile);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new RewriteException($"{Path.GetFileName(file)} cannot be written: {refused.Message}");
        }
    }

    private const UnixFileMode NewFile =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>The file that a link leads to in the end; any other file itself, and a link that leads in a circle.</summary>
    internal static string Target(string file)
    {
        try
        {
            return new FileInfo(file).LinkTarget is null
                ? file
                : System.IO.File.ResolveLinkTarget(file, returnFinalTarget: true)?.FullName ?? file;
        }
        catch (IOException)
        {
            return file;
        }
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
}
