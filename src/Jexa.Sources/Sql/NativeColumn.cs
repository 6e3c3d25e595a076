using Jexa.Core.Schemas;

namespace Jexa.Sources.Sql;

/// <summary>A column as its server knows it, besides its schema.</summary>
/// <param name="TypeName">The type in SQL.</param>
internal sealed record NativeColumn(ColumnSchema Column, NativeKind Kind, string TypeName)
{
    /// <summary>Whether its texts are padded with blanks.</summary>
    public bool IsPadded { get; init; }

    /// <summary>Whether its texts are compared character by character, so that an index serves a range of them.</summary>
    public bool IsOrdinal { get; init; }
}
