namespace Jexa.Service.Management;

/// <summary>The app that is being served.</summary>
/// <param name="Behind">The app file has been changed since into something that makes no site; the last good one is served.</param>
public sealed record SiteInfo(string App, string File, string PagesUrl, string? Home, int Pages, int Findings, bool Behind);

/// <summary>A page of the app.</summary>
/// <param name="Kind"><c>list</c> or <c>detail</c>.</param>
/// <param name="Addresses">The whole address of a page without parameters; null for one that needs some.</param>
public sealed record PageInfo(
    string Name, string Path, string Kind, string Record, string Source, IReadOnlyList<ParameterInfo> Parameters, string? Address, IReadOnlyList<LinkInfo> Links);

/// <param name="In"><c>path</c> or <c>query</c>.</param>
/// <param name="Looks">What an ID looks like.</param>
public sealed record ParameterInfo(string Name, string In, string Field, string Type, string Looks);

/// <param name="To">The page it leads to.</param>
public sealed record LinkInfo(string To, string Text);

/// <summary>Asks for the address of a page.</summary>
/// <param name="Values">A text for each parameter, as it would stand in an address before percent-encoding.</param>
public sealed record LinkRequest(string Page, IReadOnlyDictionary<string, string> Values);

public sealed record LinkAnswer(string Page, string Address, string Url);

/// <summary>Asks what a visit to a target would come to.</summary>
/// <param name="Target">A path with its query string, or a whole URL.</param>
/// <param name="Method">GET where left out.</param>
/// <param name="Accept">The Accept header of the visit; what a browser asks for where left out.</param>
public sealed record TraceRequest(string Target, string? Method = null, string? Accept = null);

/// <summary>One line about a visit.</summary>
public sealed record VisitInfo(long Number, DateTimeOffset At, string Method, string Target, string? Page, string? Outcome, int Status, double Microseconds);

/// <summary>The recorded steps of one visit.</summary>
/// <param name="Number">0 for a visit that was only tried.</param>
/// <param name="Visitor">The address it came from; a proxy's visitors only where the proxy is trusted.</param>
public sealed record TraceInfo(
    long Number, DateTimeOffset At, string Method, string Target, string? Page, string? Outcome, bool Good, int Status, string? Location, string? Why, string? Visitor,
    IReadOnlyList<CandidateInfo> Candidates, IReadOnlyList<ParameterTrace> Parameters, IReadOnlyList<string> Ignored,
    IReadOnlyList<QueryTrace> Queries, IReadOnlyList<StepTrace> Steps, double Microseconds);

public sealed record CandidateInfo(string Page, string Path, bool Won, string Reason);

/// <param name="Raw">The decoded text; null where it was absent or could not be decoded.</param>
/// <param name="Value">The typed value, as text.</param>
public sealed record ParameterTrace(string Name, string? Raw, string? Type, string? Value, bool Canonical, string? Fault);

/// <param name="Text">As it could be pasted into the source's own shell.</param>
/// <param name="Rows">The first rows, long values cut.</param>
public sealed record QueryTrace(string Text, IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string?>> Rows, int RowCount, double Microseconds);

public sealed record StepTrace(string Step, double Microseconds);

public sealed record FindingInfo(
    string Code, string Severity, string Title, string File, int Line, int Column, string Message, string? Found, string? Expected, string? Nearest,
    string Remedy);

public sealed record SessionRequest(string Code);

public sealed record SessionAnswer(string Token);
