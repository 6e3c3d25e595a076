namespace Jexa.Core.Guidance;

/// <summary>A name that can stand at a place of an app file.</summary>
/// <param name="Text">What is written.</param>
/// <param name="Detail">What it is, in a few words: a path, a type, a record.</param>
public sealed record Choice(string Text, string Detail);
