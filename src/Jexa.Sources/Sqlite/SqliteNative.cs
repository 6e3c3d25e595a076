using System.Runtime.InteropServices;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The few functions of SQLite's C interface that are called once or more for every cell. The driver's lower layer guards each
/// call with a reference count of the statement's handle, which costs more than the call; here the caller holds the
/// statement as long as it reads, and the calls, none of which can block, are made without leaving the runtime's own mode.
/// </summary>
internal static partial class SqliteNative
{
    /// <summary>The library that the driver brings and has loaded already.</summary>
    private const string Library = "e_sqlite3";

    [LibraryImport(Library, EntryPoint = "sqlite3_column_type")]
    [SuppressGCTransition]
    public static partial int ColumnType(nint statement, int column);

    [LibraryImport(Library, EntryPoint = "sqlite3_column_int64")]
    [SuppressGCTransition]
    public static partial long ColumnInteger(nint statement, int column);

    [LibraryImport(Library, EntryPoint = "sqlite3_column_double")]
    [SuppressGCTransition]
    public static partial double ColumnReal(nint statement, int column);

    /// <summary>A text's or a blob's bytes, valid until the next step; a text must be UTF-8 by now.</summary>
    public static unsafe ReadOnlySpan<byte> ColumnBytes(nint statement, int column)
    {
        var start = Blob(statement, column);
        return new ReadOnlySpan<byte>((void*)start, start == 0 ? 0 : Length(statement, column));
    }

    [LibraryImport(Library, EntryPoint = "sqlite3_column_blob")]
    [SuppressGCTransition]
    private static partial nint Blob(nint statement, int column);

    [LibraryImport(Library, EntryPoint = "sqlite3_column_bytes")]
    [SuppressGCTransition]
    private static partial int Length(nint statement, int column);
}
