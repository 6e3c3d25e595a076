namespace Jexa.Sources.Stores;

/// <summary>
/// A temporary folder for a SQLite file of Jexa's own. It goes with its process; what one that was killed has left behind is
/// taken away by the next that makes one. Whether its process still lives is told by a lock, which ends with it.
/// </summary>
public sealed class StoreFolder : IDisposable
{
    private const string Prefix = "jexa-store-";
    private const string LockName = "in-use";

    private readonly FileStream _lock;

    /// <summary>Makes it, and takes away what dead processes have left.</summary>
    public StoreFolder()
    {
        foreach (var old in Directory.EnumerateDirectories(System.IO.Path.GetTempPath(), Prefix + "*"))
            RemoveLeft(old);
        Path = Directory.CreateTempSubdirectory(Prefix).FullName;
        _lock = new FileStream(System.IO.Path.Combine(Path, LockName), FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None);
    }

    public string Path { get; }

    public string File(string name) => System.IO.Path.Combine(Path, name);

    public void Dispose()
    {
        _lock.Dispose();
        Directory.Delete(Path, recursive: true);
    }

    private static void RemoveLeft(string folder)
    {
        try
        {
            // Between the making of a folder and of its lock it has none.
            using (new FileStream(System.IO.Path.Combine(folder, LockName), FileMode.Open, FileAccess.ReadWrite, FileShare.None))
            { }

            Directory.Delete(folder, recursive: true);
        }
        catch (Exception held) when (held is IOException or UnauthorizedAccessException)
        {
            // Somebody's who lives, or who may not be touched.
        }
    }
}
