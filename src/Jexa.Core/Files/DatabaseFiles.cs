using System.Collections.Concurrent;

namespace Jexa.Core.Files;

/// <summary>
/// The database files that this process uses. Only their library may open them. When a process closes any descriptor of a file,
/// the system drops all locks of the process on that file (fcntl(2)). Another program then believes that nobody uses the
/// database, and deletes the log that we still write to. Locks belong to the process, so this list does too.
/// </summary>
public static class DatabaseFiles
{
    /// <summary>The files that SQLite keeps beside a database.</summary>
    private static readonly string[] Endings = ["", "-wal", "-shm", "-journal"];

    private static readonly ConcurrentDictionary<string, int> InUse = new(StringComparer.Ordinal);

    /// <summary>Marks a database file as used until the result is disposed. The file need not exist yet.</summary>
    public static IDisposable Hold(string path)
    {
        path = Path.GetFullPath(path);
        InUse.AddOrUpdate(path, 1, (_, count) => count + 1);
        return new Holding(path);
    }

    /// <summary>
    /// Whether a path leads to a database file in use, or to a file that its library keeps beside it. Links and other names of
    /// the file are followed.
    /// </summary>
    public static bool Holds(string path)
    {
        if (InUse.IsEmpty || FileIdentity.Of(path) is not { } asked)
            return false;
        foreach (var (database, _) in InUse)
        foreach (var ending in Endings)
            if (FileIdentity.Of(database + ending) == asked)
                return true;
        return false;
    }

    private sealed class Holding(string path) : IDisposable
    {
        private int _isOver;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref _isOver, 1) == 1)
                return;
            if (InUse.AddOrUpdate(path, 0, (_, count) => count - 1) <= 0)
                InUse.TryRemove(new KeyValuePair<string, int>(path, 0));
        }
    }
}
