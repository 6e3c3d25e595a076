namespace Jexa.Sources.Files;

/// <param name="Misfits">Values that are not of their column's type, one sentence a column.</param>
/// <param name="Doubles">Why a declared key is not a key, by its columns.</param>
internal sealed record TableNotes(IReadOnlyList<string> Misfits, IReadOnlyDictionary<string, string> Doubles);
