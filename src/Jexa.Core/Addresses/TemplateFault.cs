namespace Jexa.Core.Addresses;

/// <summary>A mistake in a template: its place, what is wrong, and what to write instead.</summary>
public sealed record TemplateFault(int Offset, string Message, string Remedy);
