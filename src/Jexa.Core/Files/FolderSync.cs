using System.Runtime.InteropServices;

namespace Jexa.Core.Files;

/// <summary>
/// Writes the names in a folder to the disk. A file that was just created or renamed is safe only after that (fsync(2)).
/// </summary>
public static partial class FolderSync
{
    private const int ReadOnly = 0;
    private const int CloseOnExecute = 0x80000;

    /// <summary>Waits until the folder is on the disk. Does nothing on file systems that cannot sync folders.</summary>
    public static void Run(string folder)
    {
        var descriptor = Open(folder, ReadOnly | CloseOnExecute);
        if (descriptor < 0)
            return;
        _ = Fsync(descriptor);
        _ = Close(descriptor);
    }

    [LibraryImport("libc", EntryPoint = "open", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Open(string path, int flags);

    [LibraryImport("libc", EntryPoint = "fsync")]
    private static partial int Fsync(int descriptor);

    [LibraryImport("libc", EntryPoint = "close")]
    private static partial int Close(int descriptor);
}
