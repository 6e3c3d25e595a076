namespace Jexa.Core.Files;

/// <summary>
/// Files that no library owns. Every file that Jexa itself reads or writes goes through here, so that a database in use is never
/// among them (<see cref="DatabaseFiles"/>).
/// </summary>
public static class PlainFile
{
    /// <summary>For files that nobody but their owner may read or write.</summary>
    public const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private const int BufferSize = 16 * 1024;

    /// <summary>Opens a file for reading; others may write, replace or delete it meanwhile.</summary>
    /// <exception cref="IOException">It is not there, cannot be read, or is a database in use.</exception>
    /// <exception cref="UnauthorizedAccessException">It may not be read.</exception>
    public static FileStream OpenRead(string path)
    {
        RefuseDatabase(path);
        return new FileStream(
            path,
            FileMode.Open,
            FileAccess.Read,
            FileShare.ReadWrite | FileShare.Delete,
            BufferSize,
            useAsync: true
        );
    }

    /// <summary>Reads a file whole, up to a number of bytes.</summary>
    /// <param name="most">More than this is not read: one byte more tells that there is more.</param>
    public static byte[] ReadAllBytes(string path, long most = long.MaxValue - 1)
    {
        using var file = OpenRead(path);
        using var bytes = new MemoryStream();
        var chunk = new byte[64 * 1024];
        int read;
        while (bytes.Length <= most && (read = file.Read(chunk)) > 0)
            bytes.Write(chunk, 0, read);
        return bytes.ToArray();
    }

    /// <summary>Reads a text file whole: UTF-8, or what its byte order mark says.</summary>
    public static string ReadAllText(string path)
    {
        using var reader = new StreamReader(OpenRead(path));
        return reader.ReadToEnd();
    }

    /// <summary>Makes or overwrites a file.</summary>
    public static void WriteAllBytes(string path, ReadOnlySpan<byte> bytes)
    {
        RefuseDatabase(path);
        using var file = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.Read);
        file.Write(bytes);
    }

    /// <summary>
    /// Writes a file whole or not at all. When this returns, contents and name are on the disk. An old file of the name is
    /// replaced.
    /// </summary>
    /// <param name="mode">Who may read and write it, from its first moment.</param>
    public static void Replace(string path, ReadOnlySpan<byte> bytes, UnixFileMode mode)
    {
        RefuseDatabase(path);
        var draft = $"{path}.{Environment.ProcessId}";
        try
        {
            var options = new FileStreamOptions
            {
                Mode = FileMode.Create,
                Access = FileAccess.Write,
                UnixCreateMode = mode,
            };
            using (var file = new FileStream(draft, options))
            {
                file.Write(bytes);
                file.Flush(flushToDisk: true);
            }

            File.Move(draft, path, overwrite: true);
        }
        catch
        {
            File.Delete(draft);
            throw;
        }

        FolderSync.Run(Path.GetDirectoryName(Path.GetFullPath(path))!);
    }

    private static void RefuseDatabase(string path)
    {
        if (DatabaseFiles.Holds(path))
            throw new IOException($"{Path.GetFileName(path)} is a database in use: nothing but its library may open it.");
    }
}
