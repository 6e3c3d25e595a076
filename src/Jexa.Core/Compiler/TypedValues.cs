using Jexa.Core.Keys;
using Jexa.Core.Values;

namespace Jexa.Core.Compiler;

/// <summary>Gives values of the app file the type of what they are compared with.</summary>
internal static class TypedValues
{
    /// <summary>The value; null if the text is not a value of the type.</summary>
    public static TypedValue? Read(string text, FieldType type) =>
        type switch
        {
            FieldType.Integer => long.TryParse(text, out var whole) ? new TypedValue.Whole(whole) : null,
            FieldType.Boolean => text is "true" or "false" ? new TypedValue.Boolean(text == "true") : null,
            FieldType.Date => DateKey.Instance.Read(text).Value,
            FieldType.Real or FieldType.Decimal => double.TryParse(text, out var real) && double.IsFinite(real)
                ? new TypedValue.Real(real)
                : null,
            FieldType.Uuid => UuidKey.Instance.Read(text).Value,
            FieldType.Bytes => null,
            _ => new TypedValue.Text(text),
        };

    public static string Expected(FieldType type) =>
        type switch
        {
            FieldType.Boolean => "true or false",
            FieldType.Date => "a date, such as 2024-02-29",
            FieldType.Bytes => "a field that is not bytes",
            _ => "a number",
        };
}
