using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>A source of an app file as the compiler found it.</summary>
/// <param name="Connection">As the app file writes it, without values of variables.</param>
/// <param name="Source">Null if it could not be opened.</param>
/// <param name="Description">What it contains, or contained when it last answered; null if it never did.</param>
/// <param name="Absence">Why it does not answer; null if it does.</param>
public sealed record SiteSource(
    string Name,
    string Engine,
    string Connection,
    ISource? Source,
    SourceDescription? Description,
    SourceAbsence? Absence
);
