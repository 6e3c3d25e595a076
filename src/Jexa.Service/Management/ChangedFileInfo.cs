using Jexa.Core.Rewriting;
using Jexa.Service.Hosting;

namespace Jexa.Service.Management;

/// <summary>What named changes make of the app file.</summary>
/// <param name="Version">The version of the changed text.</param>
/// <param name="Saved">Whether the file has the changed text now.</param>
/// <param name="Serves">Whether the changed text makes a site.</param>
/// <param name="Lines">The lines that differ from the file as it was, in order.</param>
/// <param name="Texts">Markdown files that the app file names, and that are changed too.</param>
/// <param name="Findings">What check says of the changed text.</param>
public sealed record ChangedFileInfo(
    string File,
    string Version,
    bool Saved,
    bool Serves,
    IReadOnlyList<ChangedLineInfo> Lines,
    IReadOnlyList<ChangedTextInfo> Texts,
    IReadOnlyList<FindingInfo> Findings
)
{
    public static ChangedFileInfo Of(string file, EditedFile edited) =>
        new(
            file,
            edited.Version,
            edited.IsSaved,
            edited.Compilation.Site is not null,
            Of(edited.Lines),
            [.. edited.Texts.Select(text => new ChangedTextInfo(text.Name, Of(text.Lines)))],
            SiteReport.Of(edited.Compilation.Findings, edited.Compilation.Definition)
        );

    internal static IReadOnlyList<ChangedLineInfo> Of(IReadOnlyList<LineDifference> lines) =>
        [.. lines.Select(line => new ChangedLineInfo(line.IsNew, line.Line, line.Text))];
}
