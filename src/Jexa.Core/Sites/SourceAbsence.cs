namespace Jexa.Core.Sites;

/// <param name="Why">For the developer.</param>
/// <param name="IsSettled">Trying again changes nothing until somebody mends it.</param>
public sealed record SourceAbsence(string Why, bool IsSettled);
