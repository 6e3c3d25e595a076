namespace Jexa.Core.Rewriting;

/// <summary>A change that cannot be made to the text of an app file. The message is a sentence for the developer.</summary>
public sealed class RewriteException(string message) : Exception(message);
