namespace Jexa.Core.Visits;

/// <summary>What happened to a key that no record has any more.</summary>
/// <param name="MovedTo">The new ID texts of the record, in the order of the page's parameters; null if it was deleted.</param>
internal sealed record KeyEnd(IReadOnlyList<string>? MovedTo);
