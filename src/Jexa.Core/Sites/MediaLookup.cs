using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>Finds a record's file or bytes by record kind, field and ID, but only if the field itself may be seen.</summary>
/// <param name="Folder">The folder of the files; null if the field holds the bytes themselves.</param>
/// <param name="Ordinal">The cell with the field's value.</param>
/// <param name="When">Whether a row shows the field; null for always.</param>
public sealed record MediaLookup(
    SiteRecord Record,
    SiteField Field,
    RecordLookup Lookup,
    string? Folder,
    int Ordinal,
    Func<Row, bool>? When
)
{
    private const string PictureSegment = "pictures";
    private const string RecordingSegment = "recordings";
    private const string FileSegment = "files";

    /// <summary>The first segments of the addresses of what records name or contain, after <c>/_jexa</c>.</summary>
    public static IReadOnlyList<string> Segments { get; } = [PictureSegment, RecordingSegment, FileSegment, BytesSegment];

    /// <summary>The segment of the addresses of bytes in records.</summary>
    public const string BytesSegment = "bytes";

    /// <summary>The first segment of the addresses of files in folders.</summary>
    public static string SegmentOf(FieldForm form) =>
        form == FieldForm.Picture ? PictureSegment
        : form.IsRecording() ? RecordingSegment
        : FileSegment;

    /// <summary>The first segment of the addresses of this field's contents, after <c>/_jexa</c>.</summary>
    public string Segment => Folder is null ? BytesSegment : SegmentOf(Field.Style.Form);
}
