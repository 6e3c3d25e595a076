using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>Finds the name of a record's picture by the record's ID, exactly where the record itself may be seen.</summary>
/// <param name="Folder">The folder that the pictures are in.</param>
/// <param name="Ordinal">Where the picture's name stands in a row.</param>
public sealed record PictureLookup(SiteRecord Record, SiteField Field, RecordLookup Lookup, string Folder, int Ordinal)
{
    /// <summary>The segment below Jexa's own that pictures have their addresses under.</summary>
    public const string Segment = "pictures";

    /// <summary>A lookup for each field of the records that names pictures in a folder.</summary>
    internal static IReadOnlyList<PictureLookup> Of(IEnumerable<SiteRecord> records) =>
    [
        .. records.SelectMany(record => record.Fields
            .Where(field => field is { Secret: false, Style.Pictures.Folder: not null } && record.Key.All(key => KeyType.For(key.Column, key.Type, key.Form) is not null))
            .Select(field => Of(record, field))),
    ];

    private static PictureLookup Of(SiteRecord record, SiteField field)
    {
        var load = new Projections(record);
        var ordinals = record.Key.Select(load.Add).ToList();
        var ordinal = load.Add(field);
        var keys = record.Key.Select(key => KeyType.For(key.Column, key.Type, key.Form)!).ToList();
        var lookup = Lookups.Compile(record, load, keys, ordinals, [.. record.Key.Select(FieldPath.Own)], record.Visible);
        return new PictureLookup(record, field, lookup, field.Style.Pictures!.Folder!, ordinal);
    }
}
