using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>Finds a record's picture or bytes by record kind, field and ID, but only if the field itself may be seen.</summary>
/// <param name="Folder">The folder of the pictures; null if the field holds the bytes themselves.</param>
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
    /// <summary>The segment of the addresses of pictures in folders.</summary>
    public const string PictureSegment = "pictures";

    /// <summary>The segment of the addresses of bytes in records.</summary>
    public const string BytesSegment = "bytes";

    /// <summary>The first segment of the addresses of this field's contents, after <c>/_jexa</c>.</summary>
    public string Segment => Folder is null ? BytesSegment : PictureSegment;
}
