using Jexa.Core.Formats;

namespace Jexa.Core.Edits;

/// <summary>How a form takes a file for a field, compiled.</summary>
/// <param name="Folder">The folder that the file goes into.</param>
/// <param name="Form">What the field shows.</param>
/// <param name="MostBytes">The largest file.</param>
/// <param name="Kinds">Endings without their point; empty for any.</param>
/// <param name="Name">The beginning of the file's name, in which <c>{field}</c> stands for a value of the form.</param>
/// <param name="Several">Whether a form of a new record takes several files and makes a record of each.</param>
public sealed record UploadPlan(
    string Folder,
    FieldForm Form,
    long MostBytes,
    IReadOnlyList<string> Kinds,
    string Name,
    bool Several
)
{
    /// <summary>What can be sent for a field, by its form. A drawing (SVG) is taken only if the app file names it.</summary>
    public static IReadOnlyList<string> KindsOf(FieldForm form) =>
        form switch
        {
            FieldForm.Picture => ["jpg", "png", "webp", "gif", "avif"],
            FieldForm.Video => ["mp4", "webm", "mov", "ogg"],
            FieldForm.Audio => ["mp3", "m4a", "ogg", "flac", "wav", "webm"],
            _ => [],
        };
}
