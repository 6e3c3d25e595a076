namespace Jexa.Core.Files;

/// <summary>
/// Reads and writes files that no library owns. All files that Jexa itself reads or writes go through here, so that a database in
/// use is never opened (<see cref="DatabaseFiles"/>).
/// </summary>
public static class PlainFile
{
    /// <summary>Only the owner may read and write the file.</summary>
    public const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private const int BufferSize = 16 * 1024;

    /// <summary>Opens a file for reading. Others may write, replace or delete it meanwhile.</summary>
    /// <exception cref="IOException">The file does not exist, cannot be read, or is a database in use.</exception>
    /// <exception cref="UnauthorizedAccessException">The process has no permission to read it.</exception>
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

    /// <summary>Reads a whole file, up to a number of bytes.</summary>
    /// <param name="most">The most bytes to read. One byte more than that tells the caller that the file is longer.</param>
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

    /// <summary>Reads a whole text file: UTF-8, or what its byte order mark says.</summary>
    public static string ReadAllText(string path)
    {
        using var reader = new StreamReader(OpenRead(path));
        return reader.ReadToEnd();
    }

    /// <summary>Creates a file for writing. Nobody else can open it meanwhile.</summary>
    /// <exception cref="IOException">There is one of this name, or it cannot be made.</exception>
    public static FileStream Create(string path) =>
        new(path, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, bufferSize: 0, useAsync: true);

    /// <summary>Creates or overwrites a file.</summary>
    public static void WriteAllBytes(string path, ReadOnlySpan<byte> bytes)
    {
        RefuseDatabase(path);
        using var file = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.Read);
        file.Write(bytes);
    }

    /// <summary>
    /// Writes a whole file or nothing. When this returns, contents and name are on the disk. An old file of the same name is
    /// replaced.
    /// </summary>
    /// <param name="mode">The permissions of the file, from the moment it exists.</param>
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
