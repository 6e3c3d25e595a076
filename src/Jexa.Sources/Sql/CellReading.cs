using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>How a cell of a server's row is read.</summary>
/// <param name="IsStored">Whether it is read as it is stored: dates, moments and UUIDs as text, booleans as 0 and 1.</param>
internal readonly record struct CellReading(NativeKind Kind, FieldType Type, bool IsStored)
{
    public static CellReading Count { get; } = new(NativeKind.Integer, FieldType.Integer, false);
}
