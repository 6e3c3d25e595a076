using System.Diagnostics;
using System.Globalization;
using Jexa.Core.Contracts;
using Jexa.Core.Keys;

namespace Jexa.Service.Clients;

/// <summary>How a parameter's key type is written in the code of both clients. A new key type has its line here.</summary>
internal readonly record struct KeyCode(string TypeScript, string CSharp)
{
    public static KeyCode Of(ParameterContract parameter) =>
        parameter.Of.Key switch
        {
            IntegerKey key => OfWhole(key),
            NumberKey { IsWhole: true } => new KeyCode("numberKey(true)", "new Key.Number(true)"),
            NumberKey => new KeyCode("numberKey(false)", "new Key.Number(false)"),
            TextKey key => OfText(key),
            BytesKey => new KeyCode(
                $"textKey({BytesKey.MostCharacters}, /^(?:{BytesKey.Pattern})$/ui)",
                $"new Key.Text({BytesKey.MostCharacters}, {CSharpWriter.Text(BytesKey.Pattern)}, true)"
            ),
            UuidKey => new KeyCode("uuidKey", "new Key.Uuid()"),
            DateKey => new KeyCode("dayKey", "new Key.Day()"),
            BooleanKey => new KeyCode("truthKey", "new Key.Boolean()"),
            WordKey key => new KeyCode(
                $"wordKey({string.Join(", ", key.Words.Select(TypeScriptWriter.Text))})",
                $"new Key.Word({string.Join(", ", key.Words.Select(CSharpWriter.Text))})"
            ),
            DatePartKey when parameter.Kind == ValueKind.Month => new KeyCode("wholeKey(1n, 12n)", "new Key.Whole(1, 12)"),
            DatePartKey => new KeyCode("wholeKey(1n, 9998n, 4)", "new Key.Whole(1, 9998, 4)"),
            var other => throw new UnreachableException($"{other.GetType().Name} is not written in code."),
        };

    private static KeyCode OfWhole(IntegerKey key) =>
        new(
            $"wholeKey({key.Min.ToString(CultureInfo.InvariantCulture)}n, {key.Max.ToString(CultureInfo.InvariantCulture)}n)",
            $"new Key.Whole({Limit(key.Min)}, {Limit(key.Max)})"
        );

    private static KeyCode OfText(TextKey key)
    {
        var longest = key.Form.MaxLength?.ToString(CultureInfo.InvariantCulture);
        var script = key.Form.Pattern is { } form ? ScriptPattern.Of(form) : null;
        var pattern = key.Form.Pattern is { } own ? $", {CSharpWriter.Text(own)}, {(key.FoldsCase ? "true" : "false")}" : "";
        return new KeyCode(
            script is not null ? $"textKey({longest ?? "Infinity"}, /^(?:{script})$/u{(key.FoldsCase ? "i" : "")})"
                : longest is not null ? $"textKey({longest})"
                : "textKey()",
            $"new Key.Text({longest ?? "int.MaxValue"}{pattern})"
        );
    }

    private static string Limit(long limit) =>
        limit == long.MinValue ? "long.MinValue"
        : limit == long.MaxValue ? "long.MaxValue"
        : limit.ToString(CultureInfo.InvariantCulture);
}
