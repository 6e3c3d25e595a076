using Jexa.Core.Schemas;

namespace Jexa.Sources.Sql;

/// <summary>A column as its server knows it, beside what the schema says of it.</summary>
/// <param name="TypeName">The type as it can be written in SQL.</param>
internal sealed record NativeColumn(ColumnSchema Column, NativeKind Kind, string TypeName)
{
    /// <summary>Whether its texts are filled up with blanks, which mean nothing.</summary>
    public bool IsPadded { get; init; }

    /// <summary>Whether its texts compare character by character, so that a range of them is a range of an index.</summary>
    public bool IsOrdinal { get; init; }
}
