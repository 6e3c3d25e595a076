namespace Jexa.Core.Sites;

public sealed record KeptField(KeptKind Kind, SiteField Field);
