using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>When each step ended, in the trace's clock; 0 for a step that was not reached.</summary>
[InlineArray(5)]
internal struct TraceEnds
{
    private long _first;
}
