using Jexa.Core.Definitions;
using Jexa.Core.Rewriting;

namespace Jexa.Core.Guidance;

/// <summary>What kind of name stands at a place of an app file, and of what it is a part.</summary>
/// <param name="Owner">The record kind of a field, or the page of a parameter; empty for names that have no owner.</param>
public sealed record NamePlace(NameKind Kind, string Owner = "")
{
    /// <summary>What the value at a place names. Null if it is no name.</summary>
    public static NamePlace? OfValue(FileValue file, IReadOnlyList<string> place) =>
        place switch
        {
            ["home"] or ["not_found"] => Pages,
            ["pages", _, "beside" or "add" or "then"] => Pages,
            ["pages", _, "then", "to"] or ["pages", _, "ids", "missing"] => Pages,
            ["pages", _, "links" or "side", _, "to"] or ["pages", _, "related", _, "all" or "add"] => Pages,
            ["pages", _, var kind] when PageKind.Of(kind) is { HasRecord: true } => Records,
            ["pages", _, "related", _, "record" or "list"] or ["records", _, "fields", _, "refers_to"] => Records,
            ["pages", _, "related", _] => Records,
            ["records", _, "source"] => new NamePlace(NameKind.Source),
            ["records", _, "from"] => new NamePlace(NameKind.Table),
            ["pages", var page, "required", ..] => new NamePlace(NameKind.Parameter, page),
            ["pages", var page, "show" or "order" or "search" or "form" or "side", ..] when place.Count <= 4 => OfPage(
                file,
                page
            ),
            ["pages", var page, "side", _, "by"] => OfPage(file, page),
            ["pages", var page, "by", _] => OfPage(file, page),
            ["pages", var page, "links", _, "column"] => OfPage(file, page),
            ["pages", var page, "links", _, "with", _] => OfPage(file, page),
            ["pages", var page, "then", "with", _] => OfPage(file, page),
            ["pages", var page, "related", _, "tied", _] => OfPage(file, page),
            ["pages", _, "related", _, "show" or "order" or "by", ..] => OfBlock(file, place),
            ["records", var record, "key" or "parent" or "label", ..] => new NamePlace(NameKind.Field, record),
            _ => null,
        };

    /// <summary>What the keys of the mapping at a place name. Null if they are no names, or new ones.</summary>
    public static NamePlace? OfKeys(FileValue file, IReadOnlyList<string> place) =>
        place switch
        {
            ["pages", var page, "by"] => new NamePlace(NameKind.Parameter, page),
            ["pages", _, "links", _, "with"] or ["pages", _, "then", "with"] => Target(file, place),
            ["pages", var page, "where"] => OfPage(file, page),
            ["pages", var page, "links", _, "when"] => OfPage(file, page),
            ["pages", _, "related", _, "where" or "tied"] => OfBlock(file, place),
            ["records", var record, "visible" or "fields"] => new NamePlace(NameKind.Field, record),
            ["records", var record, "fields", _, "when"] => new NamePlace(NameKind.Field, record),
            _ => null,
        };

    private static readonly NamePlace Pages = new(NameKind.Page);
    private static readonly NamePlace Records = new(NameKind.Record);

    /// <summary>The parameters of the page that a link leads to.</summary>
    private static NamePlace? Target(FileValue file, IReadOnlyList<string> place) =>
        TextAt(file, [.. place.Take(place.Count - 1), "to"]) is { } page ? new NamePlace(NameKind.Parameter, page) : null;

    private static NamePlace? OfPage(FileValue file, string page) =>
        RecordOf(file, page) is { } record ? new NamePlace(NameKind.Field, record) : null;

    /// <summary>The record kind that a page of the file shows.</summary>
    public static string? RecordOf(FileValue file, string page) =>
        PageKind
            .All.Where(kind => kind.HasRecord)
            .Select(kind => TextAt(file, ["pages", page, kind.Word]))
            .FirstOrDefault(record => record is not null)
        // A page that the “forms” of another one stand for.
        ?? (page.LastIndexOf('-') is > 0 and var dash ? TextAt(file, ["pages", page[..dash], "detail"]) : null);

    private static NamePlace? OfBlock(FileValue file, IReadOnlyList<string> place)
    {
        var block = place.Take(4).ToList();
        return (TextAt(file, [.. block, "record"]) ?? TextAt(file, [.. block, "list"])) is { } record
            ? new NamePlace(NameKind.Field, record)
            : null;
    }

    /// <summary>The text at a place of a file. Null if there is none.</summary>
    internal static string? TextAt(FileValue file, IReadOnlyList<string> place)
    {
        foreach (var step in place)
        {
            var next = file switch
            {
                FileValue.Map map => map.Entries.FirstOrDefault(entry => entry.Key == step).Value,
                FileValue.List list when int.TryParse(step, out var index) && index >= 0 && index < list.Items.Count =>
                    list.Items[index],
                _ => null,
            };
            if (next is null)
                return null;
            file = next;
        }

        return (file as FileValue.Text)?.Value;
    }
}
