using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Makes parameters of pages at their places in the path or the query string.</summary>
internal sealed class ParameterMaker(FindingList findings)
{
    /// <summary>A parameter that means a field. Null, and reported, if the field makes no ID.</summary>
    public PageParameter? Of(PageDefinition page, PathTemplate template, string name, FieldPath path)
    {
        var field = path.Field;
        if (KeyType.For(field.Column, field.Type, field.Form) is not { } key)
        {
            var (message, remedy) = field.Type switch
            {
                FieldType.Any => (
                    $"The source does not say of what type {field.Name} is, so an ID cannot be read.",
                    $"Say it in the record: fields: {{ {field.Name}: {{ type: text }} }}"
                ),
                FieldType.Timestamp => (
                    $"{field.Name} is a timestamp: the same moment has many spellings and fractions, so it makes no ID.",
                    "Use another key: a number, a text, a UUID or a date."
                ),
                FieldType.Decimal => (
                    $"{field.Name} is a decimal, which its source keeps as an inexact number: an ID could miss its record.",
                    "Use another key, or keep the number as text in the source."
                ),
                _ => (
                    $"{field.Name} is {field.Type.Word()}, which makes no ID.",
                    "Use another key: a number, a text, a UUID or a date."
                ),
            };
            findings.Add(
                FindingCodes.KeyTypeNotServed,
                PlaceOf(page, name),
                message,
                remedy,
                found: field.Type == FieldType.Any ? field.Column.DeclaredType : field.Type.Word(),
                expected: "integer, text, uuid, date, boolean or bytes"
            );
            return null;
        }

        return Placed(template, new PageParameter(name, -1, "", "", field, key, Path: path.IsOwn ? null : path));
    }

    /// <summary>The parameter at its place in a template.</summary>
    public static PageParameter Placed(PathTemplate template, PageParameter parameter)
    {
        var segment = template.Segments.ToList().FindIndex(s => s.Parameter == parameter.Name);
        return segment < 0
            ? parameter with
            {
                Segment = -1,
                Prefix = "",
                Suffix = "",
            }
            : parameter with
            {
                Segment = segment,
                Prefix = template.Segments[segment].Prefix,
                Suffix = template.Segments[segment].Suffix,
            };
    }

    /// <summary>Where a parameter stands in the app file.</summary>
    public static Place PlaceOf(PageDefinition page, string parameter) =>
        page.Path.Of(Math.Max(0, page.Path.Value.IndexOf(parameter, StringComparison.Ordinal)));
}
