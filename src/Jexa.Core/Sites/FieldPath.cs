namespace Jexa.Core.Sites;

/// <summary>A field of a record, or of one that foreign keys lead to from it.</summary>
/// <param name="Name">As the app file says it: <c>name</c>, <c>district.name</c>.</param>
/// <param name="Steps">Empty for a field of the record's own.</param>
public sealed record FieldPath(string Name, IReadOnlyList<FieldStep> Steps, SiteField Field)
{
    public bool IsOwn => Steps.Count == 0;

    /// <summary>The record that the field belongs to.</summary>
    public SiteRecord Owner(SiteRecord from) => IsOwn ? from : Steps[^1].Other;

    /// <summary>
    /// Whether there may be no value: the field may be empty, or one of the records before it may not be there.
    /// </summary>
    public bool MayBeEmpty => !IsOwn || Field.Column.Nullable;

    public static FieldPath Own(SiteField field) => new(field.Name, [], field);
}
