using Jexa.Core.Keys;
using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>How one record is found by an address, and how well it matches.</summary>
/// <param name="Load">At most two rows; each ends with whether it is visible where the record has conditions for that.</param>
/// <param name="Keys">How each part of the key is read and compared.</param>
/// <param name="Ordinals">Where the parts of the key are in a row.</param>
/// <param name="FlagOrdinal">Where a row says whether it is visible; -1 where every row is.</param>
public sealed record RecordLookup(IPreparedQuery Load, IReadOnlyList<KeyType> Keys, IReadOnlyList<int> Ordinals, int FlagOrdinal);
