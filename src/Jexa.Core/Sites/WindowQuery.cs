using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>One range query of a window, with its arguments.</summary>
public readonly record struct WindowQuery(IPreparedQuery Query, IReadOnlyList<TypedValue> Arguments);
