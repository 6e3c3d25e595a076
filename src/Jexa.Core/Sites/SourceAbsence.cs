namespace Jexa.Core.Sites;

/// <param name="Why">For the developer.</param>
/// <param name="IsSettled">Whether trying again is useless until somebody corrects the cause.</param>
public sealed record SourceAbsence(string Why, bool IsSettled);
