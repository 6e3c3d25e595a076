using Jexa.Core.Schemas;

namespace Jexa.Core.Sources;

/// <summary>What a source said that it holds.</summary>
/// <param name="Queries">The developer's own queries over it, by their text.</param>
public sealed record SourceDescription(SourceSchema Schema, IReadOnlyDictionary<string, QuerySchema> Queries);
