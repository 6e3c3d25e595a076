using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Columns that no two rows may share.</summary>
/// <param name="Query">The keys, as they are stored, of rows that have given values.</param>
public sealed record UniqueCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query);
