using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;

namespace Jexa.Core.Compiler;

/// <summary>A source that could be described, under its name in the app file.</summary>
/// <param name="Queries">The developer's own queries over it, as the source describes them, by their text.</param>
internal sealed record DescribedSource(
    string Name,
    ISource Source,
    SourceSchema Schema,
    IReadOnlyDictionary<string, QuerySchema> Queries
)
{
    public static DescribedSource? Of(SiteSource found) =>
        found is { Source: { } source, Description: { } description }
            ? new DescribedSource(found.Name, source, description.Schema, description.Queries)
            : null;
}
