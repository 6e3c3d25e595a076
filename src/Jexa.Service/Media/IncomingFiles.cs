using Jexa.Core.Files;

namespace Jexa.Service.Media;

/// <summary>
/// Files that were sent and wait for their record to be saved: in a folder inside the field's own, so that putting one in its
/// place is one rename. A record that names a waiting file already shows it, so nothing is lost if a process ends in between.
/// </summary>
internal static class IncomingFiles
{
    /// <summary>The name of the folder. No record can name a file in it by its path.</summary>
    public const string FolderName = ".jexa-incoming";

    /// <summary>The ending of a file that has not arrived completely.</summary>
    public const string Partial = ".part";

    public static string FolderOf(string folder) => Path.Combine(folder, FolderName);

    /// <summary>The path of a waiting file; null if there is none of this name.</summary>
    public static string? Find(string folder, string name)
    {
        if (name.Contains('/') || name.EndsWith(Partial, StringComparison.Ordinal))
            return null;
        var path = Path.Combine(FolderOf(folder), name);
        return FolderFiles.IsFile(path) ? path : null;
    }

    /// <summary>Makes the folder, and opens a new file in it.</summary>
    /// <exception cref="IOException">It cannot be made.</exception>
    public static FileStream Begin(string folder, out string path)
    {
        var incoming = FolderOf(folder);
        Directory.CreateDirectory(incoming, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
        path = Path.Combine(incoming, Guid.NewGuid().ToString("N") + Partial);
        return PlainFile.Create(path);
    }

    /// <summary>Gives a file that arrived its name. From here on it waits.</summary>
    public static void Keep(string folder, string partial, string name)
    {
        File.Move(partial, Path.Combine(FolderOf(folder), name), overwrite: false);
        FolderSync.Run(FolderOf(folder));
    }

    /// <summary>Puts a waiting file in its place. Does nothing if none of this name waits.</summary>
    public static void Place(string folder, string name)
    {
        if (Find(folder, name) is not { } waiting)
            return;
        File.Move(waiting, Path.Combine(folder, name), overwrite: false);
        FolderSync.Run(folder);
        FolderSync.Run(FolderOf(folder));
    }

    public static void Remove(string path)
    {
        try
        {
            File.Delete(path);
        }
        catch (Exception unremoved) when (unremoved is IOException or UnauthorizedAccessException)
        {
            // The keeper tries again.
        }
    }
}
