using Jexa.Core.Definitions;

namespace Jexa.Service.Hosting;

/// <summary>The app file as it is now, whether it makes a site or not.</summary>
/// <param name="Text">Null if it cannot be read.</param>
/// <param name="Definition">As far as it could be read; null if nothing could.</param>
/// <param name="Behind">Whether it makes no site, and the last good one is served.</param>
/// <param name="Revision">Increases with every loaded change.</param>
public sealed record AppFileState(
    string? Text,
    AppDefinition? Definition,
    IReadOnlyList<Finding> Findings,
    bool Behind,
    int Revision
);
