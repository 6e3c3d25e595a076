using System.Runtime.CompilerServices;

namespace Jexa.Core.Visits;

/// <summary>When each step ended, in the trace's clock; 0 for a step that was not reached.</summary>
[InlineArray(5)]
internal struct TraceEnds
{
    private long _first;
}
