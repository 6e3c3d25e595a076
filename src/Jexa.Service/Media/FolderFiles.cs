using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Media;

/// <summary>
/// Finds files in the folders of app files: regular files that are inside the folder after following all links.
/// </summary>
public static class FolderFiles
{
    private const int MostLinks = 8;

    /// <summary>
    /// Appends the address of the file that a row names. False if there is none: no name, no address, or no such file.
    /// </summary>
    /// <param name="file">The path of the file; null if it comes from the web.</param>
    public static bool TryFind(FilePlan plan, Row row, Utf8Buffer address, out string? file)
    {
        file = null;
        return plan.TryWrite(row, address)
            && (plan.Folder is not { } folder || (file = Find(folder, plan.NameOf(row), plan.MostBytes)) is not null);
    }

    /// <summary>Whether there is a file of this name that can be shown.</summary>
    public static bool Has(FilePlan plan, string name) =>
        plan.Folder is not { } folder || Find(folder, name, plan.MostBytes) is not null;

    /// <summary>Whether a path is a regular file, and no link.</summary>
    public static bool IsFile(string path) => new FileInfo(path) is { Exists: true, LinkTarget: null };

    /// <summary>What people call the file: the end of its name.</summary>
    public static string ShownName(string name) => name[(name.LastIndexOf('/') + 1)..];

    /// <summary>The path of a file; null if there is none below the folder.</summary>
    /// <param name="name">The name in the record: untrusted.</param>
    /// <param name="most">The most bytes of the file.</param>
    public static string? Find(string folder, string name, long most = long.MaxValue)
    {
        if (
            name.Length is 0 or > 400
            || name.Contains('\0')
            || name.Contains('\\')
            || Path.IsPathRooted(name)
            || name.Contains(IncomingFiles.FolderName, StringComparison.Ordinal)
        )
            return null;
        try
        {
            var root = Real(folder, MostLinks);
            return
                root is not null
                && (Below(root, name, MostLinks) ?? IncomingFiles.Find(root, name)) is { } file
                && new FileInfo(file) is { Exists: true, Length: > 0 } info
                && info.Length <= most
                ? file
                : null;
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException or ArgumentException)
        {
            return null;
        }
    }

    /// <summary>A path with all links followed; null if they form a circle or the path does not exist.</summary>
    private static string? Real(string path, int links)
    {
        var real = "/";
        foreach (var part in Path.GetFullPath(path).Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            real = Path.Combine(real, part);
            FileSystemInfo info = Directory.Exists(real) ? new DirectoryInfo(real) : new FileInfo(real);
            if (!info.Exists && info.LinkTarget is null)
                return null;
            if (info.LinkTarget is not { } target)
                continue;
            if (links == 0 || Real(Path.GetFullPath(target, Path.GetDirectoryName(real)!), links - 1) is not { } followed)
                return null;
            real = followed;
        }

        return real;
    }

    private static string? Below(string root, string name, int links)
    {
        var path = Path.GetFullPath(Path.Combine(root, name));
        if (!path.StartsWith(root + "/", StringComparison.Ordinal))
            return null;
        return Real(path, links) is { } real && real.StartsWith(root + "/", StringComparison.Ordinal) && !Directory.Exists(real)
            ? real
            : null;
    }
}
