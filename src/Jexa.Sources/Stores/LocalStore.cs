using Jexa.Core.Sources;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Stores;

/// <summary>
/// A SQLite file of Jexa's own, for records from files or an API. Lists, filters, orders and labels work on it as on any
/// database. It is deleted with its process.
/// </summary>
internal sealed class LocalStore : IAsyncDisposable
{
    private readonly StoreFolder _folder = new();

    /// <param name="settings">Those of the source with the records.</param>
    public LocalStore(SourceSettings settings)
    {
        SqliteEngine.Prepare();
        File = FileNamed("records.db");
        Source = new SqliteEngine().Open(settings with { Connection = File, Writing = SourceWriting.Refused, Api = null });
    }

    /// <summary>The path of the SQLite file.</summary>
    public string File { get; }

    /// <summary>What reads the records.</summary>
    public ISource Source { get; }

    /// <summary>The path of another file in the same folder.</summary>
    public string FileNamed(string name) => _folder.File(name);

    /// <summary>Opens a SQLite file to write records into it. A crash may lose them: they can be read again.</summary>
    /// <param name="journal">The journal mode.</param>
    public static SqliteConnection OpenWriting(string file, string journal)
    {
        var connection = new SqliteConnection($"Data Source={file};Pooling=False");
        connection.Open();
        connection.Run($"PRAGMA journal_mode = {journal}; PRAGMA synchronous = OFF");
        return connection;
    }

    public async ValueTask DisposeAsync()
    {
        await Source.DisposeAsync();
        _folder.Dispose();
    }
}
