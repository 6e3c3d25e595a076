using System.Globalization;
using System.Text;
using Jexa.Core.Files;
using Jexa.Service.Hosting;
using Jexa.Service.State;

namespace Jexa.Service.Workshop;

/// <summary>
/// Versions of the app file, whoever saved them, kept in the state folder: 50 at most, for 30 days at most. Of the older ones,
/// those that were soon followed by another one make room.
/// </summary>
public sealed class FileVersions(StateFolder state, string file, TimeProvider clock)
{
    private const int Most = 50;

    /// <summary>The latest ones never make room.</summary>
    private const int Latest = 10;
    private const string Moment = "yyyyMMddTHHmmssfff";
    private static readonly TimeSpan Longest = TimeSpan.FromDays(30);
    private readonly Lock _lock = new();

    /// <summary>The folder of this app file's versions: one state folder may have served several.</summary>
    private string Folder => Path.Combine(state.Path, "versions", AppFileDisk.VersionOf(Path.GetFullPath(file))[..16]);

    /// <summary>Keeps a file as it was read, if it is text.</summary>
    public void Keep(ReadOnlySpan<byte> bytes)
    {
        if (System.Text.Unicode.Utf8.IsValid(bytes))
            Keep(Encoding.UTF8.GetString(bytes));
    }

    /// <summary>
    /// Keeps a text, unless it is the latest version already. A disk that is full keeps nothing, and is no error.
    /// </summary>
    public void Keep(string text)
    {
        lock (_lock)
        {
            try
            {
                var all = All();
                var version = AppFileDisk.VersionOf(text);
                if (all is [{ } latest, ..] && latest.Version == version)
                    return;
                Directory.CreateDirectory(Folder, PlainFile.OwnerOnly | UnixFileMode.UserExecute);
                var now = clock.GetUtcNow();
                var name = $"{now.ToString(Moment, CultureInfo.InvariantCulture)}-{version}.yaml";
                PlainFile.Replace(Path.Combine(Folder, name), Encoding.UTF8.GetBytes(text), PlainFile.OwnerOnly);
                foreach (var old in all.Where(old => now - old.At > Longest))
                    File.Delete(PathOf(old));
                if (all.Count >= Most)
                    File.Delete(PathOf(all[Enumerable.Range(Latest, all.Count - Latest).MinBy(i => all[i - 1].At - all[i].At)]));
            }
            catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
            {
                // Saving the file matters more than keeping what it was.
            }
        }
    }

    /// <summary>The kept versions, the latest first.</summary>
    public IReadOnlyList<FileVersion> All()
    {
        if (!Directory.Exists(Folder))
            return [];
        var versions = new List<FileVersion>();
        foreach (var path in Directory.EnumerateFiles(Folder, "*.yaml"))
            if (
                Path.GetFileNameWithoutExtension(path).Split('-') is [var moment, var version]
                && DateTimeOffset.TryParseExact(
                    moment,
                    Moment,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal,
                    out var at
                )
            )
                versions.Add(new FileVersion(version, at));
        return [.. versions.OrderByDescending(version => version.At)];
    }

    /// <summary>The text of a kept version; null if it is not kept.</summary>
    public string? Read(string version)
    {
        try
        {
            return All().FirstOrDefault(one => one.Version == version) is { } found ? PlainFile.ReadAllText(PathOf(found)) : null;
        }
        catch (FileNotFoundException)
        {
            // It made room at this moment.
            return null;
        }
    }

    private string PathOf(FileVersion version) =>
        Path.Combine(Folder, $"{version.At.UtcDateTime.ToString(Moment, CultureInfo.InvariantCulture)}-{version.Version}.yaml");
}
