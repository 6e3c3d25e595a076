using Jexa.Core.Schemas;

namespace Jexa.Core.Sites;

/// <summary>One step along a foreign key, from a record to another.</summary>
public sealed record FieldStep(ForeignKeySchema Key, SiteRecord Other);
