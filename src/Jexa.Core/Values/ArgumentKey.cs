using System.Globalization;
using System.Text;

namespace Jexa.Core.Values;

/// <summary>
/// One text for a list of values, under which an answer is kept. Each value is written with its kind and its length. So no two
/// lists have the same text, whatever characters the values hold.
/// </summary>
public static class ArgumentKey
{
    /// <summary>One text for a list of values. Two lists have the same text only if they are the same.</summary>
    public static string Of(IReadOnlyList<TypedValue> values)
    {
        if (values.Count == 0)
            return "";
        var key = new StringBuilder();
        foreach (var value in values)
            Add(
                key,
                KindOf(value),
                value is TypedValue.Moment moment ? moment.Value.Ticks.ToString(CultureInfo.InvariantCulture) : value.ToString()!
            );
        return key.ToString();
    }

    /// <summary>One text for a list of texts. Two lists have the same text only if they are the same.</summary>
    public static string Of(IEnumerable<string> texts)
    {
        var key = new StringBuilder();
        foreach (var text in texts)
            Add(key, 't', text);
        return key.ToString();
    }

    private static void Add(StringBuilder key, char kind, string text) =>
        key.Append(kind).Append(text.Length).Append(':').Append(text);

    private static char KindOf(TypedValue value) =>
        value switch
        {
            TypedValue.Whole => 'i',
            TypedValue.Text => 't',
            TypedValue.Uuid => 'u',
            TypedValue.Date => 'd',
            TypedValue.Moment => 'm',
            TypedValue.Number => 'n',
            TypedValue.Boolean => 'b',
            TypedValue.Real => 'r',
            TypedValue.Empty => 'e',
            TypedValue.Bytes => 'x',
            _ => throw new ArgumentOutOfRangeException(nameof(value), value.GetType().Name, "No such kind of value."),
        };
}
