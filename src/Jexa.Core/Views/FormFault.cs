namespace Jexa.Core.Views;

/// <summary>What is wrong with what was sent.</summary>
/// <param name="Field">Null for the form as a whole.</param>
public sealed record FormFault(FormInput? Field, string Text);
