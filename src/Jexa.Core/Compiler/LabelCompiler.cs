using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the label of a record kind: the words by which people know one of its records.</summary>
internal sealed class LabelCompiler(FindingList findings)
{
    private static readonly string[] UsualLabels = ["name", "title", "label", "caption", "subject"];

    /// <summary>The label of a record. A number alone says little, so the record's noun comes before it.</summary>
    public List<TextHole> Compile(RecordDefinition definition, List<SiteField> fields, List<SiteField> key, string one)
    {
        if (definition.Label is not { } label)
        {
            var usual = fields.Find(field => UsualLabels.Contains(field.Name) && !field.Secret);
            if (usual is not null)
                return [Hole(usual)];
            var noun = key.TrueForAll(field => field.Type == FieldType.Integer) ? Labels.Capital(one) + " " : null;
            return
            [
                .. noun is null ? [] : new[] { new TextHole(noun, null) },
                .. key.SelectMany((field, i) => i == 0 ? [Hole(field)] : new[] { new TextHole(" ", null), Hole(field) }),
            ];
        }

        var holes = label.Value.AsSpan().ContainsAny('{', '}') ? TextHoles.Read(label, findings) : [new TextHole(null, label)];
        if (
            holes is [{ Field: { } alone }]
            && fields.Find(field => field.Name == alone.Value)
                is { Type: FieldType.Integer or FieldType.Decimal or FieldType.Real, Style.Choices.Count: 0 }
        )
        {
            findings.Add(
                FindingCodes.LabelIsNumber,
                label.At,
                $"The label of “{definition.Name}” is only a number: links and headings would say no more than “7”.",
                $"Put a word before it: label: \"{Labels.Capital(one)} {{{alone}}}\"",
                found: alone.Value,
                expected: "a text with {holes}, or a field that is text"
            );
        }

        // Fields of other records are looked up when all records are known.
        return
        [
            .. (holes ?? []).Where(hole =>
                hole.Field is null
                || IsFar(hole.Field, fields)
                || FieldUse.Find(hole.Field, fields, "a label", findings) is not null
            ),
        ];

        TextHole Hole(SiteField field) => new(null, new Written(field.Name, definition.Name.At));
    }

    private static bool IsFar(Written name, List<SiteField> fields) =>
        name.Value.Contains('.') && fields.TrueForAll(field => field.Name != name.Value);
}
