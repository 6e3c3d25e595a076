using Jexa.Core.Edits;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A column of a record, and where it stands in a row as it is stored.</summary>
public sealed record StoredColumn(SiteField Field, int Ordinal)
{
    /// <summary>Where it stands as visitors may see it, read as its type; -1 where no visitor is told.</summary>
    public int Shown { get; init; } = -1;

    /// <summary>Whether it leads to a record that may not be seen: visitors are told nothing of the value.</summary>
    public bool IsWithheld(Row row) => StoredValue.IsWithheld(row, Shown, Ordinal);
}
