namespace Jexa.Service.Management;

/// <summary>A name or word that can be typed.</summary>
/// <param name="Text">What is written instead of what has been typed.</param>
/// <param name="Label">What is shown of it.</param>
/// <param name="Detail">What it is, in a few words.</param>
public sealed record CompletionInfo(string Text, string Label, string Detail);
