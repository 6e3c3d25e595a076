using Jexa.Core.Keys;

namespace Jexa.Core.Views;

/// <summary>The value for one parameter of a link.</summary>
/// <param name="Ordinal">The cell of the row with the value.</param>
/// <param name="Field">The name of the field, after its record's table if that is another one.</param>
public readonly record struct LinkFiller(KeyType Key, int Ordinal, string Field);
