using System.Runtime.InteropServices;

namespace Jexa.Core.Files;

/// <summary>How many files this process may have open at once (getrlimit(2), RLIMIT_NOFILE).</summary>
public static partial class OpenFileLimit
{
    private const int LimitOfOpenFiles = 7;

    /// <summary>The limit that most systems set.</summary>
    private const long Usual = 1024;

    /// <summary>The limit in force. Sockets, pipes and files of libraries count too.</summary>
    public static long Read() =>
        GetLimit(LimitOfOpenFiles, out var limit) == 0 ? (long)Math.Min(limit.Soft, int.MaxValue) : Usual;

    [LibraryImport("libc", EntryPoint = "getrlimit")]
    private static partial int GetLimit(int resource, out Limits limit);

    [StructLayout(LayoutKind.Sequential)]
    private struct Limits
    {
        public ulong Soft;
        public ulong Hard;
    }
}
