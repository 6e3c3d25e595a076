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
