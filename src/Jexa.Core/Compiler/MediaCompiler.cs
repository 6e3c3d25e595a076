using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the lookups of files and bytes by their addresses.</summary>
internal static class MediaCompiler
{
    /// <summary>A lookup for each field that names files in a folder, or holds bytes.</summary>
    public static IReadOnlyList<MediaLookup> Compile(IEnumerable<SiteRecord> records) =>
        [
            .. records.SelectMany(record =>
                record
                    .Fields.Where(field =>
                        !field.Secret
                        && (field.Style.Files?.Folder is not null || HoldsBytes(record, field))
                        && HasAddress(record)
                    )
                    .Select(field => Compile(record, field))
            ),
        ];

    /// <summary>Whether a field holds bytes that are not a key.</summary>
    public static bool HoldsBytes(SiteRecord record, SiteField field) =>
        field.Type == FieldType.Bytes
        && !record.Key.Contains(field)
        && !record.References.Any(key => key.Columns.Contains(field.Column.Name));

    /// <summary>Whether an address can contain the key of such records.</summary>
    public static bool HasAddress(SiteRecord record) =>
        record.Key.Count > 0 && record.Key.All(key => KeyType.For(key.Column, key.Type, key.Form) is not null);

    private static MediaLookup Compile(SiteRecord record, SiteField field)
    {
        var load = new Projections(record);
        var key = record
            .Key.Select(part => LookupPart.Of(KeyType.For(part.Column, part.Type, part.Form)!, FieldPath.Own(part), load))
            .ToList();
        var ordinal = load.Add(field);
        var when = field.When.Count == 0 ? null : RowCompiler.When(field, load);
        var lookup = Lookups.Compile(record, load, key, record.Visible);
        return new MediaLookup(record, field, lookup, field.Style.Files?.Folder, ordinal, when);
    }
}
