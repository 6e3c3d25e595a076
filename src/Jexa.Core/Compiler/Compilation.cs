using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>The result of compiling: the site, if there are no errors, and all findings in the order of the file.</summary>
/// <param name="Bytes">The file as it was read.</param>
public sealed record Compilation(
    Site? Site,
    AppDefinition? Definition,
    IReadOnlyList<Finding> Findings,
    ReadOnlyMemory<byte> Bytes
)
{
    /// <summary>
    /// The site as far as it can be made, even if there are errors: pages and links with errors are left out. For its author to
    /// look at; visitors never get it. Null if the file cannot be read at all.
    /// </summary>
    public Site? Partial { get; init; }

    /// <summary>The findings as they stand in the app file, for its editors.</summary>
    public IReadOnlyList<Finding> FindingsInAppFile =>
        Definition is { } definition ? [.. Findings.Select(definition.InAppFile)] : Findings;

    /// <summary>The sources of the app file, whether they answered or not.</summary>
    public IReadOnlyList<SiteSource> Sources { get; init; } = [];

    /// <summary>Whether a source could not be reached, so that its part of the file was not checked.</summary>
    public bool SourceIsAway => Findings.Any(finding => finding.Code == FindingCodes.SourceAway);
}
