using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>The fields that some addresses name a record by, and where they stand in a row.</summary>
public sealed record KeyScope(string Name, IReadOnlyList<(KeyType Key, int Ordinal)> Parts)
{
    /// <summary>The scope of a page's addresses; null if they hang on more than the record's own fields.</summary>
    public static string? NameOf(PageHead head) =>
        head.Kind is { } record
        && head.Definition.HasId
        && head.Definition.Where.Count == 0
        && head.Parameters.All(parameter => parameter.Path is null)
            ? $"{record.Name}:"
                + string.Join(',', head.Parameters.Select(parameter => parameter.Field.Name).Order(StringComparer.Ordinal))
            : null;
}
