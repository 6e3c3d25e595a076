namespace Jexa.Sources.Stores;

/// <summary>
/// A temporary folder for a SQLite file of Jexa's own. It is deleted when its process ends. Folders of killed processes are
/// deleted by the next process that makes one. A lock, which ends with its process, tells whether that still lives.
/// </summary>
public sealed class StoreFolder : IDisposable
{
    private const string Prefix = "jexa-store-";
    private const string LockName = "in-use";

    private readonly FileStream _lock;

    /// <summary>Creates the folder, and deletes those of dead processes.</summary>
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
        try
        {
            Directory.Delete(Path, recursive: true);
        }
        catch (Exception taken) when (taken is IOException or UnauthorizedAccessException)
        {
            // Another process took the unlocked folder for that of a dead one, and is deleting it.
        }
    }

    private static void RemoveLeft(string folder)
    {
        try
        {
            // Between the creation of a folder and of its lock it has none.
            using (new FileStream(System.IO.Path.Combine(folder, LockName), FileMode.Open, FileAccess.ReadWrite, FileShare.None))
            { }

            Directory.Delete(folder, recursive: true);
        }
        catch (Exception held) when (held is IOException or UnauthorizedAccessException)
        {
            // It belongs to a living process, or may not be touched.
        }
    }
}
