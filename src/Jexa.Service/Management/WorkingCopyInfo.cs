namespace Jexa.Service.Management;

/// <summary>The working copy of the app file, and what it would come to.</summary>
/// <param name="File">The app file.</param>
/// <param name="Version">Tells this text from all others.</param>
/// <param name="Revision">Increases with each change of the working copy.</param>
/// <param name="Changed">Whether it differs from the file that it was begun from.</param>
/// <param name="DiskDiffers">Whether somebody else has changed the file since. It must be merged before it can be saved.</param>
/// <param name="DiskGone">Whether the file that it was begun from is not there any more. Saving writes it anew.</param>
/// <param name="Obstacle">Why the file cannot be written; null if it can.</param>
/// <param name="Steps">What was done, in order, with what was taken back at the end.</param>
/// <param name="Done">How many of the steps are done; the others can be made again.</param>
/// <param name="Readable">Whether named changes can be made to the text. If not, only the text itself can be changed.</param>
/// <param name="Serves">Whether the text makes a site that visitors could be given.</param>
/// <param name="Preview">The prefix of the preview's addresses, below the pages' origin.</param>
/// <param name="Pages">The pages of the preview.</param>
/// <param name="Findings">What check says of the text.</param>
public sealed record WorkingCopyInfo(
    string File,
    string Text,
    string Version,
    int Revision,
    bool Changed,
    bool DiskDiffers,
    bool DiskGone,
    string? Obstacle,
    IReadOnlyList<string> Steps,
    int Done,
    bool Readable,
    bool Serves,
    string Preview,
    IReadOnlyList<WorkingPageInfo> Pages,
    IReadOnlyList<WorkingFindingInfo> Findings
);
