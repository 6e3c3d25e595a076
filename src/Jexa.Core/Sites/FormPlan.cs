namespace Jexa.Core.Sites;

/// <summary>A form, compiled.</summary>
/// <param name="KeyMade">UUID keys that Jexa makes for a new record.</param>
public sealed record FormPlan(
    IReadOnlyList<FormEntry> Entries,
    IReadOnlyList<UniqueCheck> Unique,
    IReadOnlyList<ReferenceCheck> References,
    IReadOnlyList<SiteField> KeyMade
)
{
    /// <summary>Foreign keys of several columns that are one choice each, for people; programs write their columns.</summary>
    public IReadOnlyList<TiedChoice> Tied { get; init; } = [];

    public FormEntry? Find(string name) => Entries.FirstOrDefault(entry => entry.Name == name);
}
