using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>What a server's column holds, as far as reading, comparing and writing it differ.</summary>
internal enum NativeKind
{
    Integer,

    /// <summary>A whole number that may be beyond 63 bits, or a decimal: read as its digits.</summary>
    Decimal,
    Real,
    Text,
    Boolean,
    Date,

    /// <summary>A date and time without a zone.</summary>
    Timestamp,

    /// <summary>A moment: read as the date and time it has in UTC.</summary>
    Moment,
    Uuid,
    Bytes,

    /// <summary>Whatever else there is: read and compared as the text that the server makes of it.</summary>
    Other,
}

internal static class NativeKinds
{
    /// <summary>The type of a field over a column of this kind.</summary>
    public static FieldType Field(this NativeKind kind) =>
        kind switch
        {
            NativeKind.Integer => FieldType.Integer,
            NativeKind.Decimal => FieldType.Decimal,
            NativeKind.Real => FieldType.Real,
            NativeKind.Boolean => FieldType.Boolean,
            NativeKind.Date => FieldType.Date,
            NativeKind.Timestamp or NativeKind.Moment => FieldType.Timestamp,
            NativeKind.Uuid => FieldType.Uuid,
            NativeKind.Bytes => FieldType.Bytes,
            _ => FieldType.Text,
        };
}

/// <summary>A column as its server knows it, beside what the schema says of it.</summary>
/// <param name="TypeName">The type as it can be written in SQL.</param>
internal sealed record NativeColumn(ColumnSchema Column, NativeKind Kind, string TypeName)
{
    /// <summary>Whether its texts are filled up with blanks, which mean nothing.</summary>
    public bool IsPadded { get; init; }

    /// <summary>Whether its texts compare character by character, so that a range of them is a range of an index.</summary>
    public bool IsOrdinal { get; init; }
}

/// <summary>What a table is called in SQL, and its columns.</summary>
internal sealed record NativeTable(string Sql, TableSchema Schema, IReadOnlyList<NativeColumn> Columns)
{
    public NativeColumn? Find(string name) => Columns.FirstOrDefault(column => column.Column.Name == name);
}

/// <summary>How one cell of a server's row is read.</summary>
/// <param name="IsStored">Whether it is read as it is stored: dates, moments and UUIDs as their text, truth values as 0 and
/// 1.</param>
internal readonly record struct CellReading(NativeKind Kind, FieldType Type, bool IsStored)
{
    public static CellReading Count { get; } = new(NativeKind.Integer, FieldType.Integer, false);
}
