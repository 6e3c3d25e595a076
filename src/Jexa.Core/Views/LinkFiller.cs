using Jexa.Core.Keys;

namespace Jexa.Core.Views;

/// <summary>What fills one parameter of a link.</summary>
/// <param name="Ordinal">Where its value stands in a row.</param>
/// <param name="Field">The field it is read from, behind its record's table where that is another one.</param>
public readonly record struct LinkFiller(KeyType Key, int Ordinal, string Field);
