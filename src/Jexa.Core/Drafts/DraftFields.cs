using Jexa.Core.Formats;
using Jexa.Core.Schemas;
using static Jexa.Core.Drafts.DraftNames;

namespace Jexa.Core.Drafts;

/// <summary>What a draft says about the fields of a record, by column, and what it only proposes.</summary>
internal static class DraftFields
{
    /// <summary>Safe to write: its effect is visible at once, and no existing value is refused because of it.</summary>
    public static Dictionary<string, string> Of(DraftRecord record, bool isEdited)
    {
        var fields = new Dictionary<string, string>();
        foreach (var secret in record.Secrets)
            fields[secret.Name] = "secret: true";
        foreach (var kind in isEdited ? (string[])["created", "changed"] : [])
        foreach (var kept in record.Kept(kind).Take(1))
            fields.TryAdd(kept.Name, $"kept: {kind}");
        foreach (var column in Plain(record))
        {
            if (ShownAs(record, column) is { } shown)
                fields.TryAdd(column.Name, shown);
        }

        return fields;
    }

    /// <summary>Only the owner of the data can decide it. It is written as a comment, with the reason.</summary>
    public static Dictionary<string, (string Text, string Why)> Proposed(DraftRecord record)
    {
        var proposals = new Dictionary<string, (string, string)>();
        foreach (var column in Plain(record))
        {
            if (record.Look(column) == ValueLook.PictureName)
                proposals[column.Name] = (
                    "as: image, under: FOLDER",
                    "these are names of pictures: say which folder they are in"
                );
            else if (
                record.FewValues(column) is { Count: > 0 } values
                && column != record.Label
                && ShownAs(record, column) is null
            )
                proposals[column.Name] = (
                    values is ["0", "1"] ? "type: boolean" : Choices(values),
                    "the only values that were seen"
                );
        }

        return proposals;
    }

    private static string Choices(IReadOnlyList<string> values) =>
        $"choices: {{ {string.Join(", ", values.Select(value => $"{Quoted(value)}: {Quoted(Labels.Capital(value))}"))} }}";

    private static IEnumerable<ColumnSchema> Plain(DraftRecord record) =>
        record.Table.Columns.Where(column =>
            !record.IsSecret(column)
            && !record.Key.Contains(column.Name)
            && record.Table.ForeignKeys.All(key => !key.Columns.Contains(column.Name))
        );

    private static string? ShownAs(DraftRecord record, ColumnSchema column) =>
        record.Look(column) switch
        {
            _ when column.DeclaredType.StartsWith("json", StringComparison.OrdinalIgnoreCase) => null,
            ValueLook.Json => "as: json",
            ValueLook.Web => "as: web",
            ValueLook.WebPicture => "as: image",
            ValueLook.Mail => "as: email",
            ValueLook.Epoch => "as: epoch",
            ValueLook.Money when column.Rules.Scale is null => "decimals: 2",
            _ => DraftRecord.IsLong(column) && column.Rules.MaxLength is null ? "as: long_text" : null,
        };
}
