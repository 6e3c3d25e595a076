namespace Jexa.Service.Management;

/// <summary>The text of the working copy, as it was typed.</summary>
/// <param name="Version">The version that it was typed into.</param>
public sealed record WorkingTextRequest(string Version, string Text);
