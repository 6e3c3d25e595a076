namespace Jexa.Core.Sites;

/// <summary>A field of a record, or of a record that foreign keys lead to.</summary>
/// <param name="Name">As the app file says it: <c>name</c>, <c>district.name</c>.</param>
/// <param name="Steps">Empty for a field of the record itself.</param>
public sealed record FieldPath(string Name, IReadOnlyList<FieldStep> Steps, SiteField Field)
{
    /// <summary>Whether the field is the record's own, not one of a record that a foreign key leads to.</summary>
    public bool IsOwn => Steps.Count == 0;

    /// <summary>The record that the field belongs to.</summary>
    public SiteRecord Owner(SiteRecord from) => IsOwn ? from : Steps[^1].Other;

    /// <summary>Whether the value may be empty: the field may be empty, or one of the records on the way may not exist.</summary>
    public bool MayBeEmpty => !IsOwn || Field.Column.Nullable;

    /// <summary>The path to a record's own field.</summary>
    public static FieldPath Own(SiteField field) => new(field.Name, [], field);
}
