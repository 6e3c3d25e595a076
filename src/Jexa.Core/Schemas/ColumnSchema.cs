using Jexa.Core.Values;

namespace Jexa.Core.Schemas;

/// <summary>A column as its source declares it.</summary>
/// <param name="DeclaredType">The type as it is written in the source; empty if nothing is declared.</param>
/// <param name="Nullable">Whether a row may have no value here.</param>
/// <param name="Default">The default as the source writes it, or null.</param>
/// <param name="Automatic">Whether the source fills it by itself (an automatic key, a computed column).</param>
/// <param name="FoldsCase">Whether the column's collation may find a row under another spelling.</param>
public sealed record ColumnSchema(
    string Name,
    string DeclaredType,
    FieldType Type,
    bool Nullable,
    string? Default,
    bool Automatic,
    bool FoldsCase
)
{
    /// <summary>The least whole number the column's type can hold.</summary>
    public long Min { get; init; } = long.MinValue;

    /// <summary>The greatest whole number the column's type can hold.</summary>
    public long Max { get; init; } = long.MaxValue;

    /// <summary>What a value must satisfy besides its type, as far as the source says it in a way that can be read.</summary>
    public ColumnRules Rules { get; init; } = ColumnRules.None;
}
