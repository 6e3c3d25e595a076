using Jexa.Core.Schemas;

namespace Jexa.Core.Sources;

/// <summary>What a source said that it contains.</summary>
/// <param name="Queries">The developer's own queries over the source, by their text.</param>
public sealed record SourceDescription(SourceSchema Schema, IReadOnlyDictionary<string, QuerySchema> Queries);
