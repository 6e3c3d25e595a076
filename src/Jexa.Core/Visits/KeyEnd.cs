namespace Jexa.Core.Visits;

/// <summary>What became of a key that no record has any more.</summary>
/// <param name="MovedTo">The ID texts that the record has now, in the order of the page's parameters; null if it was
/// deleted.</param>
internal sealed record KeyEnd(IReadOnlyList<string>? MovedTo);
