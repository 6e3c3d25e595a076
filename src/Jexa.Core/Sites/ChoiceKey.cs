using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A key column of records that can be chosen.</summary>
/// <param name="Type">How it is read and written.</param>
/// <param name="Ordinal">The cell with its value as its type.</param>
/// <param name="Stored">The cell with its stored value, which the foreign key will hold.</param>
public sealed record ChoiceKey(KeyType Type, int Ordinal, int Stored);
