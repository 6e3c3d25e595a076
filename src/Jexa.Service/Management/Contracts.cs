namespace Jexa.Service.Management;

/// <summary>The app that is being served.</summary>
/// <param name="Waiting">Pages that cannot be served before their source has said what it holds.</param>
/// <param name="Behind">The app file has been changed since into something that makes no site; the last good one is
/// served.</param>
/// <param name="Revision">Counts up with every change of the app file that was taken up.</param>
public sealed record SiteInfo(
    string App,
    string File,
    string PagesUrl,
    string? Home,
    int Pages,
    int Waiting,
    int Findings,
    bool Behind,
    int Revision
);

/// <summary>The app file as it is now.</summary>
/// <param name="Text">Null where it cannot be read.</param>
public sealed record AppFileInfo(string File, string? Text);

/// <summary>A page of the app.</summary>
/// <param name="Kind"><c>list</c>, <c>detail</c>, <c>edit</c>, <c>new</c>, <c>delete</c> or <c>text</c>.</param>
/// <param name="Record">The record kind it shows; empty for a text.</param>
/// <param name="Line">Where it begins in the app file that is served.</param>
/// <param name="Address">The address of a page without parameters; null for one that needs some.</param>
/// <param name="InMenu">Whether every page leads to it.</param>
/// <param name="Links">The links that stand on it.</param>
/// <param name="LinkedFrom">The links of all pages that lead to it.</param>
public sealed record PageInfo(
    string Name,
    string Path,
    string Kind,
    string Record,
    string Source,
    int Line,
    IReadOnlyList<ParameterInfo> Parameters,
    string? Address,
    bool InMenu,
    IReadOnlyList<PageLinkInfo> Links,
    IReadOnlyList<PageLinkInfo> LinkedFrom
);

/// <param name="In"><c>path</c> or <c>query</c>.</param>
/// <param name="Field">The field it is compared with, behind those of the records before it.</param>
/// <param name="Looks">What its text looks like.</param>
/// <param name="Required">Without it the page is not meant.</param>
public sealed record ParameterInfo(string Name, string In, string Field, string Type, string Looks, bool Required);

/// <summary>A link, seen from one of its ends.</summary>
/// <param name="Page">The page at the other end.</param>
/// <param name="Column">The shown field it stands on; null for a link of its own.</param>
/// <param name="Reason">
/// <c>written</c> in the app file, from a list to its <c>record</c>s' page of itself, a <c>reference</c> by a foreign key, the
/// way <c>back</c> to the list,
/// or a <c>part</c> of the page: a side list, a related block, a record above.
/// </param>
/// <param name="Passes">Which field fills which parameter.</param>
public sealed record PageLinkInfo(string Page, string Text, string? Column, string Reason, IReadOnlyList<PassInfo> Passes);

public sealed record PassInfo(string Parameter, string Field);

/// <summary>An address of a page that leads to a record at this moment.</summary>
/// <param name="Address">Null where there is none, or it could not be found out.</param>
/// <param name="Ids">The text of each parameter, in their order.</param>
/// <param name="Why">Why there is no address.</param>
/// <param name="Calls">How a program asks for it; null where there is no address.</param>
public sealed record SampleInfo(
    string Page,
    string? Address,
    string? Url,
    IReadOnlyList<string> Ids,
    string? Why,
    CallsInfo? Calls
);

/// <summary>How a page is called, with a real sample.</summary>
/// <param name="Pattern">The URI template of its addresses (RFC 6570).</param>
/// <param name="TypeScript">By the file that <c>jexa client typescript</c> writes.</param>
/// <param name="CSharp">By the file that <c>jexa client csharp</c> writes.</param>
public sealed record CallsInfo(string Pattern, string Curl, string TypeScript, string CSharp);

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
/// <param name="Outcome">Null for a visitor who left before there was one.</param>
/// <param name="Framed">Whether the console showed it.</param>
public sealed record VisitInfo(
    long Number,
    DateTimeOffset At,
    string Method,
    string Target,
    string? Page,
    string? Outcome,
    int Status,
    double Microseconds,
    bool Framed
);

/// <summary>How many of the visits that are kept had an outcome.</summary>
public sealed record OutcomeCount(string Outcome, int Visits);

/// <param name="Kept">How many visits are kept in all.</param>
/// <param name="Outcomes">The outcomes of all visits that are kept, the most frequent first.</param>
/// <param name="Visits">The latest of those asked for, newest first.</param>
public sealed record VisitList(int Kept, IReadOnlyList<OutcomeCount> Outcomes, IReadOnlyList<VisitInfo> Visits);

/// <summary>The recorded steps of one visit.</summary>
/// <param name="Number">0 for a visit that was only tried.</param>
/// <param name="Visitor">The address it came from; a proxy's visitors only where the proxy is trusted.</param>
public sealed record TraceInfo(
    long Number,
    DateTimeOffset At,
    string Method,
    string Target,
    string? Page,
    string? Outcome,
    bool Good,
    int Status,
    string? Location,
    string? Why,
    string? Visitor,
    IReadOnlyList<CandidateInfo> Candidates,
    IReadOnlyList<ParameterTrace> Parameters,
    IReadOnlyList<string> Ignored,
    IReadOnlyList<QueryTrace> Queries,
    IReadOnlyList<StepTrace> Steps,
    double Microseconds
);

public sealed record CandidateInfo(string Page, string Path, bool Won, string Reason);

/// <param name="Raw">The decoded text; null where it was absent or could not be decoded.</param>
/// <param name="Value">The typed value, as text.</param>
public sealed record ParameterTrace(string Name, string? Raw, string? Type, string? Value, bool Canonical, string? Fault);

/// <param name="Text">As it could be pasted into the source's own shell.</param>
/// <param name="Rows">The first rows, long values cut.</param>
public sealed record QueryTrace(
    string Text,
    IReadOnlyList<string> Columns,
    IReadOnlyList<IReadOnlyList<string?>> Rows,
    int RowCount,
    double Microseconds
);

public sealed record StepTrace(string Step, double Microseconds);

/// <param name="Page">The page whose part of the file it is in; null where it is in none.</param>
public sealed record FindingInfo(
    string Code,
    string Severity,
    string Title,
    string File,
    int Line,
    int Column,
    string? Page,
    string Message,
    string? Found,
    string? Expected,
    string? Nearest,
    string Remedy
);

/// <summary>A source of the app file.</summary>
/// <param name="Connection">As the app file writes it: variables are not filled in.</param>
/// <param name="Reachable">Whether it answers at this moment.</param>
/// <param name="Milliseconds">How long it took to answer the lightest question.</param>
/// <param name="Trouble">Why it does not answer.</param>
/// <param name="Known">Whether what it holds is known: from now, or from when it last answered.</param>
/// <param name="Changes">Whether records in it can be changed; null where it is not known.</param>
/// <param name="ReadOnlyBecause">Why they cannot, as the rest of a sentence.</param>
/// <param name="Tables">What it holds.</param>
/// <param name="Pages">The pages that show its records; also those that wait for it.</param>
/// <param name="Waiting">How many of these cannot be served before it has said what it holds.</param>
/// <param name="Notes">What is wrong with parts of it, or doubtful.</param>
public sealed record SourceInfo(
    string Name,
    string Engine,
    string Connection,
    bool Reachable,
    double? Milliseconds,
    string? Trouble,
    bool Known,
    bool? Changes,
    string? ReadOnlyBecause,
    IReadOnlyList<SourceTableInfo> Tables,
    IReadOnlyList<string> Pages,
    int Waiting,
    IReadOnlyList<string> Notes
);

/// <param name="Kind"><c>table</c> or <c>view</c>.</param>
/// <param name="Key">The columns of its primary key; empty where it has none.</param>
/// <param name="Columns">How many columns it has.</param>
/// <param name="AboutRows">How many rows it has, as near as the source can tell at once.</param>
/// <param name="Lists">Whether its rows can be read one after the other, not only each by its key.</param>
/// <param name="Records">The records of the app file that are read from it.</param>
public sealed record SourceTableInfo(
    string Name,
    string Kind,
    IReadOnlyList<string> Key,
    int Columns,
    long? AboutRows,
    bool Lists,
    IReadOnlyList<string> Records
);

public sealed record SessionRequest(string Code);

public sealed record SessionAnswer(string Token);

/// <param name="Url">Opens the console signed in, once.</param>
public sealed record ConsoleInfo(string Url);

/// <summary>A change that was made through a page, or is about to be.</summary>
/// <param name="State"><c>made</c>; <c>intended</c> while it goes on; <c>undetermined</c> where nothing tells whether it was
/// made.</param>
/// <param name="Kind"><c>added</c>, <c>changed</c> or <c>deleted</c>.</param>
/// <param name="Page">The page that made it; <c>(undo)</c> for one that took another back.</param>
/// <param name="Id">The record's ID as it stands in addresses; empty where no page shows it.</param>
/// <param name="Key">The record's key as it is stored, as JSON.</param>
/// <param name="By">Who made it; null as long as nobody signs in.</param>
/// <param name="Undoes">The number of the change that it took back.</param>
/// <param name="UndoneBy">The number of the change that took it back.</param>
public sealed record ChangeInfo(
    long Number,
    DateTimeOffset At,
    string State,
    string Kind,
    string Page,
    string Record,
    string Id,
    string Key,
    string? By,
    long? Undoes,
    long? UndoneBy,
    IReadOnlyList<ChangedField> Fields
);

/// <summary>A field before and after a change, as it is stored.</summary>
/// <param name="Before">Null for nothing.</param>
/// <param name="Secret">Only that it changed is known.</param>
public sealed record ChangedField(string Field, string? Before, string? After, bool Secret);

/// <param name="Changes">Newest first.</param>
/// <param name="More">There are earlier ones.</param>
public sealed record ChangeList(IReadOnlyList<ChangeInfo> Changes, bool More);
