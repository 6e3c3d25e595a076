using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>A foreign key of several columns: the row it leads to must be there.</summary>
public sealed record ReferenceCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query, string One);
