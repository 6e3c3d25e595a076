namespace Jexa.Service.Management;

/// <summary>The app that is being served.</summary>
/// <param name="Waiting">The number of pages that cannot be served before their source has answered.</param>
/// <param name="Behind">Whether the app file has been changed and makes no site now; the last good one is served.</param>
/// <param name="Fresh">Whether there is no app file yet, and none was served.</param>
/// <param name="WorkingRevision">Increases with every change of the working copy.</param>
/// <param name="Revision">Increases with every loaded change of the app file.</param>
public sealed record SiteInfo(
    string App,
    string File,
    string PagesUrl,
    string? Home,
    int Pages,
    int Waiting,
    int Findings,
    bool Behind,
    int Revision,
    int WorkingRevision,
    bool Fresh
);
