namespace Jexa.Service.Management;

/// <summary>How the working copy differs from the file.</summary>
/// <param name="Lines">The lines of the app file that differ, in order.</param>
/// <param name="Texts">Markdown files that are changed too.</param>
/// <param name="Lost">Addresses that are served now, and that no page of the working copy would have.</param>
/// <param name="Merge">If the file was changed meanwhile: what each side changed. Empty otherwise.</param>
/// <param name="Patch">The differences of all files as a unified patch.</param>
public sealed record WorkingDifferenceInfo(
    IReadOnlyList<ChangedLineInfo> Lines,
    IReadOnlyList<ChangedTextInfo> Texts,
    IReadOnlyList<string> Lost,
    IReadOnlyList<MergePartInfo> Merge,
    string Patch
);
