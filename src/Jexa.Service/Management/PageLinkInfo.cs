namespace Jexa.Service.Management;

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
