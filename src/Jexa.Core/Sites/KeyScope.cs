using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A set of fields by which addresses name a record, and their cells in a row.</summary>
public sealed record KeyScope(string Name, IReadOnlyList<(KeyType Key, int Ordinal)> Parts)
{
    /// <summary>The scope of a page's addresses; null if they depend on more than the record's own fields.</summary>
    public static string? NameOf(PageHead head) =>
        head.Kind is { } record
        && head.Definition.HasId
        && head.Definition.Where.Count == 0
        && head.Parameters.All(parameter => parameter.Path is null)
            ? $"{record.Name}:"
                + string.Join(',', head.Parameters.Select(parameter => parameter.Field.Name).Order(StringComparer.Ordinal))
            : null;
}
