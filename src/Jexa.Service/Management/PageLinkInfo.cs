namespace Jexa.Service.Management;

/// <summary>A link, seen from one of its ends.</summary>
/// <param name="Page">The page at the other end.</param>
/// <param name="Column">The field that it is on; null for a link of its own.</param>
/// <param name="Reason">
/// Why it is there: <c>written</c> in the app file; from a list to the own page of a <c>record</c>; from a foreign key to the
/// record it refers to (<c>reference</c>); <c>back</c> to the list; or a <c>part</c> of the page: a side list, a related block, a
/// record above.
/// </param>
/// <param name="Passes">Which field fills which parameter.</param>
public sealed record PageLinkInfo(string Page, string Text, string? Column, string Reason, IReadOnlyList<PassInfo> Passes);
