using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// Finds what a record's field holds or names outside of its page, by the record's ID: exactly where the field itself may be
/// seen.
/// </summary>
/// <param name="Folder">The folder of the pictures that the field names; null if the field holds the bytes themselves.</param>
/// <param name="Ordinal">Where the field's value stands in a row.</param>
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
    /// <summary>The segment below Jexa's own that pictures in folders have their addresses under.</summary>
    public const string PictureSegment = "pictures";

    /// <summary>The segment that bytes in the records themselves have their addresses under.</summary>
    public const string BytesSegment = "bytes";

    public string Segment => Folder is null ? BytesSegment : PictureSegment;
}
