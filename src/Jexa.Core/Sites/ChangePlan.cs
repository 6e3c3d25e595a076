using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A column of a record, and where it stands in a row as it is stored.</summary>
public sealed record StoredColumn(SiteField Field, int Ordinal)
{
    /// <summary>Where it stands as visitors may see it, read as its type; -1 where no visitor is told.</summary>
    public int Shown { get; init; } = -1;

    /// <summary>Whether it leads to a record that may not be seen: visitors are told nothing of the value.</summary>
    public bool IsWithheld(Row row) => StoredValue.IsWithheld(row, Shown, Ordinal);
}

/// <summary>What Jexa keeps in a field by itself.</summary>
public enum KeptKind
{
    /// <summary>When the record was made.</summary>
    Created,

    /// <summary>When it was last changed.</summary>
    Changed,

    /// <summary>A number that grows with every change.</summary>
    Version,
}

public sealed record KeptField(KeptKind Kind, SiteField Field);

/// <summary>The fields that some addresses name a record by, and where they stand in a row.</summary>
public sealed record KeyScope(string Name, IReadOnlyList<(KeyType Key, int Ordinal)> Parts)
{
    /// <summary>The scope of a page's addresses; null where they hang on more than the record's own fields.</summary>
    public static string? NameOf(PageHead head) =>
        head.Kind is { } record
        && head.Definition.HasId
        && head.Definition.Where.Count == 0
        && head.Parameters.All(parameter => parameter.Path is null)
            ? $"{record.Name}:"
                + string.Join(',', head.Parameters.Select(parameter => parameter.Field.Name).Order(StringComparer.Ordinal))
            : null;
}

/// <summary>
/// How the records of a kind are changed: what is read back of them, what is noted, where their visitor is led.
/// </summary>
/// <param name="Reread">Reads one record by its key as it is stored.</param>
/// <param name="Flag">Where a row says whether it is visible; -1 where every row is.</param>
/// <param name="Columns">Every column, as it is stored.</param>
/// <param name="Key">Which of the columns make the key.</param>
/// <param name="Label">What the record is called.</param>
/// <param name="Id">Writes the key as it stands in addresses; null where no page shows one.</param>
/// <param name="Then">Where a change leads; null where there is no page of the record's own to lead to.</param>
/// <param name="Otherwise">Where it leads if that cannot be, or the record is gone.</param>
/// <param name="Scopes">What its addresses name it by.</param>
public sealed record ChangePlan(
    SiteRecord Record,
    IPreparedQuery Reread,
    int Flag,
    IReadOnlyList<StoredColumn> Columns,
    IReadOnlyList<StoredColumn> Key,
    TextPlan Label,
    LinkPlan? Id,
    LinkPlan? Then,
    PlainLink Otherwise,
    IReadOnlyList<KeyScope> Scopes,
    IReadOnlyList<KeptField> Kept
)
{
    /// <summary>The columns that addresses name the record by.</summary>
    public IReadOnlySet<string> ScopeColumns { get; init; } = new HashSet<string>();
}
