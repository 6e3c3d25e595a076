using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Changes;

/// <summary>Runs a query, by itself or within the transaction of a change.</summary>
internal delegate ValueTask QueryRun(IPreparedQuery query, IReadOnlyList<TypedValue> arguments, RowBlock rows);
