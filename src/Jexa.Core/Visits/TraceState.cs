using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>What a trace holds beside what came with its request: numbers, times, and what lives longer than the visit.</summary>
internal struct TraceState
{
    public required TimeProvider Clock;
    public required string Method;
    public required DateTimeOffset At;
    public required long Start;
    public TraceEnds Ends;
    public long Number;
    public IPAddress? Visitor;
    public Site? Site;
    public Page? Page;
    public Outcome? Outcome;
    public string? Location;
    public string? Why;
    public string? Finding;
    public int Status;
    public bool Framed;
}
