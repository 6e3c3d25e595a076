namespace Jexa.Core.Sites;

/// <summary>A field that Jexa fills itself, and with what.</summary>
public sealed record KeptField(KeptKind Kind, SiteField Field);
