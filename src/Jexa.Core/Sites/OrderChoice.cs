using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A column that a list can be ordered by.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Stored">The type for reading its stored value, which marks a place in the list.</param>
public sealed record OrderChoice(string Name, string Label, ColumnRef Column, FieldType Stored, bool MayBeEmpty);
