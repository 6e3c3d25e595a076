namespace Jexa.Core.Addresses;

/// <summary>A mistake in a template: where in its text, what is wrong, what to write instead.</summary>
public sealed record TemplateFault(int Offset, string Message, string Remedy);
