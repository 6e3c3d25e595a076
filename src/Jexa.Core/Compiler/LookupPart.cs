using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>One part of an ID, by which a record is looked up.</summary>
/// <param name="Key">How it is read and compared.</param>
/// <param name="Ordinal">The cell that holds it.</param>
/// <param name="Field">The field that it is compared with.</param>
internal readonly record struct LookupPart(KeyType Key, int Ordinal, FieldPath Field)
{
    /// <summary>A part whose field the query loads.</summary>
    public static LookupPart Of(KeyType key, FieldPath field, Projections load) => new(key, load.Add(field), field);
}
