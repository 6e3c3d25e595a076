using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>A column that a list can be ordered by.</summary>
/// <param name="Name">What an address calls it.</param>
/// <param name="Stored">The type that its value is read as to mark a place: as it is stored.</param>
public sealed record OrderChoice(string Name, string Label, ColumnRef Column, FieldType Stored, bool MayBeEmpty);
