using System.Runtime.InteropServices;

namespace Jexa.Core.Files;

/// <summary>Identifies the file at a path by device and inode, without opening it.</summary>
/// <param name="Inode">The number of the file on its device.</param>
/// <param name="Device">The device, major number first.</param>
public readonly partial record struct FileIdentity(ulong Inode, ulong Device)
{
    private const int AtCurrentFolder = -100;
    private const int AtEffectiveUser = 0x200;
    private const int WriteAccess = 2;

    /// <summary>The identity of the file at a path, links followed; null if there is no file.</summary>
    public static FileIdentity? Of(string path) => FileStatus.Of(path)?.Identity;

    /// <summary>Whether this process may write to a file or folder. The file is not opened (faccessat(2)).</summary>
    public static bool CanWrite(string path) => Faccessat(AtCurrentFolder, path, WriteAccess, AtEffectiveUser) == 0;

    [LibraryImport("libc", EntryPoint = "faccessat", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Faccessat(int folder, string path, int mode, int flags);
}
