using System.Collections.Concurrent;
using Jexa.Core.Files;

namespace Jexa.Service.Media;

/// <summary>Keeps what was read of files. A file is read again only if it has changed.</summary>
/// <param name="read">Reads the opened file; null if it does not say what is looked for.</param>
internal sealed class FactsOfFiles<T>(Func<FileStream, T?> read)
    where T : class
{
    private const int MostKept = 10_000;

    private readonly ConcurrentDictionary<string, (FileStatus File, T? Facts)> _kept = [];

    /// <summary>The facts; null if there are none, or the file cannot be read.</summary>
    /// <param name="file">The path of the file.</param>
    public T? Of(string file)
    {
        if (FileStatus.Of(file) is not { } now)
            return null;
        if (_kept.TryGetValue(file, out var kept) && kept.File == now)
            return kept.Facts;
        if (_kept.Count >= MostKept)
            _kept.Clear();
        try
        {
            using var stream = PlainFile.OpenRead(file);
            var facts = read(stream);
            _kept[file] = (now, facts);
            return facts;
        }
        catch (Exception unread) when (unread is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
