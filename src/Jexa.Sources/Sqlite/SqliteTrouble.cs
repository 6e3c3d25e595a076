using Jexa.Core.Sources;
using SQLitePCL;

namespace Jexa.Sources.Sqlite;

/// <summary>The meaning of SQLite's result codes for a visit.</summary>
internal static class SqliteTrouble
{
    public static SourceException From(int code, string message)
    {
        var trouble = (code & 0xff) switch
        {
            raw.SQLITE_CANTOPEN
            or raw.SQLITE_NOTADB
            or raw.SQLITE_CORRUPT
            or raw.SQLITE_IOERR
            or raw.SQLITE_PERM
            or raw.SQLITE_FULL
            or raw.SQLITE_NOMEM
            or raw.SQLITE_PROTOCOL => SourceTrouble.Away,
            raw.SQLITE_BUSY or raw.SQLITE_LOCKED or raw.SQLITE_INTERRUPT => SourceTrouble.TooSlow,
            _ => SourceTrouble.Failed,
        };
        return new SourceException(trouble, $"SQLite says: {message} (code {code}).")
        {
            IsSettled = trouble == SourceTrouble.Away,
        };
    }

    /// <summary>The meaning of a violated rule; null for other codes.</summary>
    public static RefusedException? Refusal(int code, string message)
    {
        if ((code & 0xff) is not (raw.SQLITE_CONSTRAINT or raw.SQLITE_MISMATCH))
            return null;
        var (reason, columns, words) = code switch
        {
            raw.SQLITE_CONSTRAINT_UNIQUE or raw.SQLITE_CONSTRAINT_PRIMARYKEY or raw.SQLITE_CONSTRAINT_ROWID => (
                RefusalReason.Unique,
                Columns(message),
                ""
            ),
            raw.SQLITE_CONSTRAINT_NOTNULL => (RefusalReason.Empty, Columns(message), ""),
            raw.SQLITE_CONSTRAINT_FOREIGNKEY => (RefusalReason.Reference, [], ""),
            raw.SQLITE_CONSTRAINT_TRIGGER => (RefusalReason.Own, [], message),
            // The constraint's name or its text: words in it may be columns.
            raw.SQLITE_CONSTRAINT_CHECK => (RefusalReason.Check, Words(Behind(message)), ""),
            _ when (code & 0xff) == raw.SQLITE_MISMATCH || code == ConstraintDataType => (RefusalReason.Type, Words(message), ""),
            _ => (RefusalReason.Other, (List<string>)[], ""),
        };
        return new RefusedException(reason, columns, words, $"SQLite says: {message} (code {code}).");
    }

    private const int ConstraintDataType = raw.SQLITE_CONSTRAINT | (12 << 8);

    private static string Behind(string message) => message[(message.IndexOf(':') + 1)..].Trim();

    /// <summary><c>… constraint failed: bridge.code, bridge.name</c>.</summary>
    private static List<string> Columns(string message) =>
        [.. Behind(message).Split(", ").Select(name => name[(name.LastIndexOf('.') + 1)..])];

    private static List<string> Words(string text) =>
        [
            .. System
                .Text.RegularExpressions.Regex.Matches(text, "[\\p{L}_][\\p{L}\\p{N}_]*")
                .Select(match => match.Value)
                .Distinct(),
        ];

    /// <summary>Whether a connection with this code should be opened again.</summary>
    public static bool BreaksConnection(int code) =>
        (code & 0xff) is raw.SQLITE_NOTADB or raw.SQLITE_CORRUPT or raw.SQLITE_IOERR or raw.SQLITE_CANTOPEN;
}
