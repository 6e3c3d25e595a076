using Jexa.Core.Files;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The files of a database at its path: the database and, in WAL mode, its write-ahead log (<c>-wal</c>) and the log's index
/// (<c>-shm</c>). They are not opened.
/// </summary>
/// <param name="ChangedAt">When the database file was last written, in nanoseconds since 1970.</param>
public readonly record struct SqliteFiles(FileIdentity? Database, long ChangedAt, FileIdentity? Log, FileIdentity? Index)
{
    public static SqliteFiles At(string path)
    {
        var database = FileStatus.Of(path);
        return new SqliteFiles(
            database?.Identity,
            database?.ChangedAt ?? 0,
            FileIdentity.Of(path + "-wal"),
            FileIdentity.Of(path + "-shm")
        );
    }

    /// <summary>
    /// Whether connections that were opened on the files <paramref name="known"/> still use the files at the path. While a
    /// connection is open in WAL mode, SQLite itself never removes or replaces its log.
    /// </summary>
    public bool AreThose(SqliteFiles known) =>
        Database == known.Database && (known.Log is null || Log == known.Log) && (known.Index is null || Index == known.Index);
}
