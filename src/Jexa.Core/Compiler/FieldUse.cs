using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Looks up a field whose value visitors will see.</summary>
internal static class FieldUse
{
    /// <summary>The field; null, and reported, if it does not exist or is secret.</summary>
    public static SiteField? Find(Written name, IReadOnlyList<SiteField> fields, string asWhat, FindingList findings)
    {
        var field = fields.FirstOrDefault(field => field.Name == name.Value);
        if (field is null)
        {
            findings.AddUnknown(
                FindingCodes.UnknownField,
                name,
                "field called",
                fields.Where(f => !f.Secret).Select(f => f.Name)
            );
            return null;
        }

        if (!field.Secret)
            return field;
        findings.Add(
            FindingCodes.SecretShown,
            name.At,
            $"The field {name} is secret and cannot be {asWhat}.",
            "Use another field, or remove secret: true.",
            found: name.Value,
            expected: "a field that is not secret"
        );
        return null;
    }
}
