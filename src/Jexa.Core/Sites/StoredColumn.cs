using Jexa.Core.Edits;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A column of a record, and the cell with its stored value.</summary>
public sealed record StoredColumn(SiteField Field, int Ordinal)
{
    /// <summary>The cell with its value as visitors may see it; -1 if visitors see none.</summary>
    public int Shown { get; init; } = -1;

    /// <summary>Whether it refers to a record that may not be seen. Visitors are told nothing of the value.</summary>
    public bool IsWithheld(Row row) => StoredValue.IsWithheld(row, Shown, Ordinal);
}
