using System.Runtime.InteropServices;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// The few functions of SQLite's C interface that are called for every cell. The driver's lower layer counts references of the
/// statement's handle in each call, which costs more than the call. Here the caller holds the statement while it reads. None of
/// these calls can block, so they need no transition of the runtime.
/// </summary>
internal static partial class SqliteNative
{
    /// <summary>The library that the driver has loaded already.</summary>
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

    /// <summary>The bytes of a text or a blob, valid until the next step. A text must be UTF-8.</summary>
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
