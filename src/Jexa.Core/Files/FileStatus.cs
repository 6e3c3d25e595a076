using System.Buffers.Binary;

namespace Jexa.Core.Files;

/// <summary>A file as it is at this moment, told without opening it.</summary>
/// <param name="Length">Bytes.</param>
/// <param name="ChangedAt">When its contents were last changed: nanoseconds since 1970, as exact as the file system.</param>
public readonly record struct FileStatus(FileIdentity Identity, long Length, long ChangedAt)
{
    private const long NanosecondsPerSecond = 1_000_000_000;

    /// <summary>The status of the file at a path, links followed; null if there is no file.</summary>
    public static FileStatus? Of(string path)
    {
        Span<byte> status = stackalloc byte[256];
        status.Clear();
        if (!FileIdentity.TryRead(path, status)) return null;
        var changedAt = (BinaryPrimitives.ReadInt64LittleEndian(status[112..]) * NanosecondsPerSecond)
            + BinaryPrimitives.ReadUInt32LittleEndian(status[120..]);
        return new FileStatus(FileIdentity.Read(status), BinaryPrimitives.ReadInt64LittleEndian(status[40..]), changedAt);
    }
}
