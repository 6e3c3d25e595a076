using Jexa.Core.Keys;
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

    /// <summary>A lookup for each field of the records that names pictures in a folder, or holds bytes.</summary>
    internal static IReadOnlyList<MediaLookup> Of(IEnumerable<SiteRecord> records) =>
        [
            .. records.SelectMany(record =>
                record
                    .Fields.Where(field =>
                        !field.Secret
                        && (field.Style.Pictures?.Folder is not null || HoldsBytes(record, field))
                        && HasAddress(record)
                    )
                    .Select(field => Of(record, field))
            ),
        ];

    /// <summary>Whether a field's bytes are its content, and no key.</summary>
    internal static bool HoldsBytes(SiteRecord record, SiteField field) =>
        field.Type == FieldType.Bytes
        && !record.Key.Contains(field)
        && !record.References.Any(key => key.Columns.Contains(field.Column.Name));

    /// <summary>Whether an address can carry the key of such records.</summary>
    internal static bool HasAddress(SiteRecord record) =>
        record.Key.Count > 0 && record.Key.All(key => KeyType.For(key.Column, key.Type, key.Form) is not null);

    private static MediaLookup Of(SiteRecord record, SiteField field)
    {
        var load = new Projections(record);
        var ordinals = record.Key.Select(load.Add).ToList();
        var ordinal = load.Add(field);
        var when = field.When.Count == 0 ? null : RowCompiler.When(field, load);
        var keys = record.Key.Select(key => KeyType.For(key.Column, key.Type, key.Form)!).ToList();
        var lookup = Lookups.Compile(record, load, keys, ordinals, [.. record.Key.Select(FieldPath.Own)], record.Visible);
        return new MediaLookup(record, field, lookup, field.Style.Pictures?.Folder, ordinal, when);
    }
}
