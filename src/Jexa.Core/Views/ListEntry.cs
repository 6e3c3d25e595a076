using Jexa.Core.Addresses;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <param name="Total">Null if it was not counted in time, or cannot be.</param>
public sealed record ListEntry(PlainLink Link, Total? Total);
