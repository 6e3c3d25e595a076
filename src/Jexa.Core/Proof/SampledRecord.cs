using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Proof;

/// <summary>A record that was chosen to be asked for from the running service.</summary>
/// <param name="Key">Its key, for people.</param>
/// <param name="Values">Its key, as it is stored.</param>
/// <param name="Address">Its address on the page.</param>
public sealed record SampledRecord(RecordPage Page, string Key, IReadOnlyList<TypedValue> Values, string Address);
