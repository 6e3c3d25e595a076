using System.Net;
using Jexa.Core.Sites;

namespace Jexa.Core.Visits;

/// <summary>What a trace holds besides its request: numbers, times, and objects that live longer than the visit.</summary>
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
