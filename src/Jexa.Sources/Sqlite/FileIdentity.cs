using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// Which file stands at a path, so that a file that was put in another's place is seen: device and inode, by statx(2), whose
/// layout is the same on every architecture.
/// </summary>
internal static partial class FileIdentity
{
    private const int AtCurrentFolder = -100;
    private const uint WantInode = 0x100;

    /// <summary>The file's identity, links followed; null where there is none.</summary>
    public static (ulong Inode, ulong Device)? Of(string path)
    {
        Span<byte> buffer = stackalloc byte[256];
        buffer.Clear();
        if (Statx(AtCurrentFolder, path, 0, WantInode, ref MemoryMarshal.GetReference(buffer)) != 0) return null;
        return (BinaryPrimitives.ReadUInt64LittleEndian(buffer[32..]), BinaryPrimitives.ReadUInt64LittleEndian(buffer[136..]));
    }

    [LibraryImport("libc", EntryPoint = "statx", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Statx(int folder, string path, int flags, uint mask, ref byte buffer);
}
