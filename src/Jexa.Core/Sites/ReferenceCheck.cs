using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>A foreign key of several columns: the row that it refers to must exist.</summary>
public sealed record ReferenceCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query, string One);
