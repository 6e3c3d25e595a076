using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace Jexa.Core.Files;

/// <summary>
/// The status of a file at this moment, read without opening it (statx(2), whose layout is the same on every architecture).
/// </summary>
/// <param name="Length">Bytes.</param>
/// <param name="ChangedAt">When its contents were last changed: nanoseconds since 1970, as exact as the file system.</param>
public readonly partial record struct FileStatus(FileIdentity Identity, long Length, long ChangedAt)
{
    private const long NanosecondsPerSecond = 1_000_000_000;
    private const int AtCurrentFolder = -100;
    private const uint WantBasics = 0x7ff;

    /// <summary>The status of the file at a path, links followed; null if there is no file.</summary>
    public static FileStatus? Of(string path)
    {
        Span<byte> status = stackalloc byte[256];
        status.Clear();
        if (Statx(AtCurrentFolder, path, 0, WantBasics, ref MemoryMarshal.GetReference(status)) != 0)
            return null;
        var identity = new FileIdentity(
            BinaryPrimitives.ReadUInt64LittleEndian(status[32..]),
            BinaryPrimitives.ReadUInt64LittleEndian(status[136..])
        );
        var changedAt =
            (BinaryPrimitives.ReadInt64LittleEndian(status[112..]) * NanosecondsPerSecond)
            + BinaryPrimitives.ReadUInt32LittleEndian(status[120..]);
        return new FileStatus(identity, BinaryPrimitives.ReadInt64LittleEndian(status[40..]), changedAt);
    }

    [LibraryImport("libc", EntryPoint = "statx", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Statx(int folder, string path, int flags, uint mask, ref byte buffer);
}
