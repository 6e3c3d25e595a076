namespace Jexa.Core.Drafts;

/// <summary>A draft of an app file, and its doubts.</summary>
public sealed record AppDraft(string Text, IReadOnlyList<string> Doubts, int Records, int Pages);
