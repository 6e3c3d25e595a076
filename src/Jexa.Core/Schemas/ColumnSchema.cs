using Jexa.Core.Values;

namespace Jexa.Core.Schemas;

/// <summary>A column as its source declares it.</summary>
/// <param name="DeclaredType">The type as the source writes it; empty if none is declared.</param>
/// <param name="Nullable">Whether the column may be empty.</param>
/// <param name="Default">The default as the source writes it, or null.</param>
/// <param name="Automatic">Whether the source fills the column by itself (an automatic key, a computed column).</param>
/// <param name="FoldsCase">Whether the collation of the column finds a row under another spelling.</param>
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

    /// <summary>The rules for values besides the type, as far as the source tells them in a readable form.</summary>
    public ColumnRules Rules { get; init; } = ColumnRules.None;
}
