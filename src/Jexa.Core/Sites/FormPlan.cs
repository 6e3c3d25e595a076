namespace Jexa.Core.Sites;

/// <summary>A compiled form.</summary>
/// <param name="KeyMade">UUID keys that Jexa creates for a new record.</param>
public sealed record FormPlan(
    IReadOnlyList<FormEntry> Entries,
    IReadOnlyList<UniqueCheck> Unique,
    IReadOnlyList<ReferenceCheck> References,
    IReadOnlyList<SiteField> KeyMade
)
{
    /// <summary>Foreign keys of several columns that people choose as one. Programs write the columns.</summary>
    public IReadOnlyList<TiedChoice> Tied { get; init; } = [];

    /// <summary>The entry of this field. Null if the form does not ask for it.</summary>
    public FormEntry? Find(string name) => Entries.FirstOrDefault(entry => entry.Name == name);
}
