namespace Jexa.Core.Drafts;

/// <summary>An app file as a draft, and what it was unsure of.</summary>
public sealed record AppDraft(string Text, IReadOnlyList<string> Doubts, int Records, int Pages);
