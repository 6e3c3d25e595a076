using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Service.Proof;

/// <summary>The report of a check.</summary>
public static class CheckReport
{
    /// <param name="definition">The app file, as far as it could be read.</param>
    /// <param name="site">What could be made of it.</param>
    /// <param name="isAway">Whether a source could not be asked.</param>
    public static ProofReport Of(
        string file,
        AppDefinition? definition,
        Site? site,
        IEnumerable<Finding> findings,
        bool isAway,
        (DateTimeOffset Started, TimeSpan Took) time
    ) =>
        new(
            "check",
            file,
            ReportWords.Version,
            time.Started,
            time.Took.TotalSeconds,
            [
                new ProofFigure("pages", definition?.Pages.Count ?? 0),
                new ProofFigure("records", definition?.Records.Count ?? 0),
                new ProofFigure("links", site?.Pages.Sum(page => page.Links.Count) ?? 0),
            ],
            isAway ? [new ProofGap("pages of a source that is away", "it could not be asked")] : [],
            [.. findings.Select(finding => FindingReport.Of(finding, definition))],
            null
        );
}
