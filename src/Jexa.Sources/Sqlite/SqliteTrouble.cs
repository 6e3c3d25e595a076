using Jexa.Core.Sources;
using SQLitePCL;

namespace Jexa.Sources.Sqlite;

/// <summary>Maps SQLite's result codes to what they mean for a visit.</summary>
internal static class SqliteTrouble
{
    public static SourceException From(int code, string message)
    {
        var trouble = (code & 0xff) switch
        {
            raw.SQLITE_CANTOPEN or raw.SQLITE_NOTADB or raw.SQLITE_CORRUPT or raw.SQLITE_IOERR or raw.SQLITE_PERM or raw.SQLITE_FULL
                or raw.SQLITE_NOMEM or raw.SQLITE_PROTOCOL => SourceTrouble.Away,
            raw.SQLITE_BUSY or raw.SQLITE_LOCKED or raw.SQLITE_INTERRUPT => SourceTrouble.TooSlow,
            _ => SourceTrouble.Failed,
        };
        return new SourceException(trouble, $"SQLite says: {message} (code {code}).");
    }

    /// <summary>Whether a connection that met this code is better opened anew.</summary>
    public static bool BreaksConnection(int code) => (code & 0xff) is raw.SQLITE_NOTADB or raw.SQLITE_CORRUPT or raw.SQLITE_IOERR or raw.SQLITE_CANTOPEN;
}
