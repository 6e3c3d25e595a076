using Jexa.Core.Schemas;

namespace Jexa.Core.Sites;

/// <summary>One step from a record to the one that a foreign key of it leads to.</summary>
public sealed record FieldStep(ForeignKeySchema Key, SiteRecord Other);
