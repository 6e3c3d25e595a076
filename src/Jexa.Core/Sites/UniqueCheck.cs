using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Columns whose values must be unique together.</summary>
/// <param name="Query">The stored keys of rows with given values.</param>
public sealed record UniqueCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query);
