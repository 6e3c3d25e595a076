using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A column of the key of records that can be chosen.</summary>
/// <param name="Type">How it is read and written.</param>
/// <param name="Ordinal">Where it stands in a row, read as its type.</param>
/// <param name="Stored">The same, as it is stored: that is what the foreign key will hold.</param>
public sealed record ChoiceKey(KeyType Type, int Ordinal, int Stored);
