using Jexa.Core.Definitions;

namespace Jexa.Service.Hosting;

/// <summary>The app file as it is now, whether it makes a site or not.</summary>
/// <param name="Text">Null where it cannot be read.</param>
/// <param name="Definition">As far as it could be read; null if there is nothing to go on with.</param>
/// <param name="Behind">It makes no site: the last good one is served.</param>
/// <param name="Revision">Counts up with every change taken up.</param>
public sealed record AppFileState(
    string? Text,
    AppDefinition? Definition,
    IReadOnlyList<Finding> Findings,
    bool Behind,
    int Revision
);
