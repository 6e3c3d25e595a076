using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles how forms take files.</summary>
internal sealed partial class UploadCompiler(FindingList findings)
{
    private const long Megabyte = 1_000_000;

    private static readonly Dictionary<string, long> Units = new()
    {
        ["kB"] = 1_000,
        ["MB"] = Megabyte,
        ["GB"] = 1_000 * Megabyte,
    };

    /// <summary>Null if the field takes no file: it names none in a folder, or the app file says so.</summary>
    public UploadPlan? Of(FieldDefinition? field, ValueStyle style, FieldType type, string record)
    {
        var said = field?.Upload;
        if (style.Files?.Folder is not { } folder || type != FieldType.Text)
        {
            if (said is not null)
                findings.Add(
                    FindingCodes.WrongShape,
                    field!.Name.At,
                    $"{field.Name} names no file in a folder, so a form cannot take one for it.",
                    "Say which folder: { as: image, under: FOLDER }; or remove “upload”.",
                    found: "upload"
                );
            return null;
        }

        said ??= UploadDefinition.Usual;
        return said.IsOff
            ? null
            : new UploadPlan(
                folder,
                style.Form,
                said.UpTo is { } most ? Size(most) : UsualSize(style.Form),
                Kinds(said, style.Form),
                said.Name is { } name ? Name(name) : record,
                said.Several
            );
    }

    private static long UsualSize(FieldForm form) =>
        form switch
        {
            FieldForm.Video => 500 * Megabyte,
            FieldForm.Audio => 100 * Megabyte,
            _ => 20 * Megabyte,
        };

    private long Size(Written written)
    {
        var match = SizeText().Match(written.Value);
        if (match.Success)
            return long.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture) * Units[match.Groups[2].Value];
        findings.Add(
            FindingCodes.UnknownWord,
            written.At,
            $"“{written}” is not the size of a file.",
            "Write a whole number and its unit: up_to: 5 MB",
            found: written.Value,
            expected: "a number of kB, MB or GB"
        );
        return Megabyte;
    }

    private IReadOnlyList<string> Kinds(UploadDefinition said, FieldForm form)
    {
        var known = UploadPlan.KindsOf(form);
        if (said.Kinds.Count == 0)
            return known;
        IEnumerable<string> possible = form == FieldForm.Picture ? [.. known, "svg"] : known;
        foreach (var kind in said.Kinds)
            if (known.Count > 0 ? !possible.Contains(kind.Value) : !Ending().IsMatch(kind.Value))
                findings.AddUnknown(FindingCodes.UnknownWord, kind, "kind of file that can be taken here called", possible);
        return [.. said.Kinds.Select(kind => kind.Value)];
    }

    private string Name(Written name)
    {
        if (NameText().IsMatch(name.Value))
            return name.Value;
        findings.Add(
            FindingCodes.WrongShape,
            name.At,
            $"Names of files cannot begin with “{name}”.",
            "Use letters, digits, hyphens, and {field} for a value of the form: name: \"bridge-{code}\"",
            found: name.Value,
            expected: "letters, digits, hyphens and {field}"
        );
        return "file";
    }

    /// <summary>For each field that forms take files for, the query that tells whether a record names one.</summary>
    public static IReadOnlyList<UploadLookup> Lookups(IEnumerable<Page> pages) =>
        [
            .. pages
                .Select(page => (page.Record, Form: (page as EditPage)?.Form ?? (page as NewPage)?.Form))
                .SelectMany(page => page.Form?.Entries.Select(entry => (Record: page.Record!, entry.Of, entry.Field)) ?? [])
                .Where(entry => entry.Field.Upload is not null)
                .DistinctBy(entry => (entry.Record, entry.Of))
                .Select(entry => Lookup(entry.Record, entry.Of)),
        ];

    private static UploadLookup Lookup(SiteRecord record, SiteField field)
    {
        var load = new Projections(record);
        load.Add(field);
        var query = new RecordQuery(
            RecordRows.Whole(record.RowsOf(_ => null)),
            load.Joins,
            load.Columns,
            [new Condition.Equal(load.Ref(FieldPath.Own(field)), new Operand.Argument(0, FieldType.Text))],
            null,
            [],
            1
        );
        return new UploadLookup(record, field, field.Upload!, record.Source.Prepare(query));
    }

    [GeneratedRegex("^([1-9][0-9]{0,5}) ?(kB|MB|GB)$")]
    private static partial Regex SizeText();

    [GeneratedRegex("^[a-z0-9]{1,8}$")]
    private static partial Regex Ending();

    [GeneratedRegex(@"^[A-Za-z0-9-]*(\{[A-Za-z_][A-Za-z0-9_]*\}[A-Za-z0-9-]*)*$")]
    private static partial Regex NameText();
}
