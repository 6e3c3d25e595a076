using System.Globalization;
using System.Text.Json;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>
/// Values exactly as their source stores them, for comparing versions, for the change log and for undo. In JSON a text is a
/// string, a whole number a number, a real number a number with a point, and bytes are <c>{"base64": …}</c>.
/// </summary>
public static class StoredValue
{
    /// <summary>The value in a column of a row, as the change log keeps it.</summary>
    public static TypedValue Of(Row row, int ordinal)
    {
        ref readonly var cell = ref row[ordinal];
        return cell.Kind switch
        {
            CellKind.Null => TypedValue.Empty.Value,
            CellKind.Real => new TypedValue.Real(cell.Real),
            CellKind.Text or CellKind.Decimal => Utf8.IsValid(row.Run(ordinal))
                ? new TypedValue.Text(row.Text(ordinal))
                : new TypedValue.Bytes(row.Run(ordinal).ToArray()),
            CellKind.Bytes or CellKind.Uuid => new TypedValue.Bytes(row.Run(ordinal).ToArray()),
            _ => new TypedValue.Whole(cell.Integer),
        };
    }

    /// <summary>The text in an input for a value that the visitor is told nothing of.</summary>
    public const string WithheldText = "\u0001";

    /// <summary>Stands for a value that the visitor is told nothing of.</summary>
    public static TypedValue Withheld { get; } = new TypedValue.Text(WithheldText);

    /// <summary>Whether a value refers to a record that may not be seen. Visitors are told nothing of it.</summary>
    /// <param name="shown">The cell as visitors may see it; -1 if visitors see none.</param>
    /// <param name="stored">The cell as it is stored; -1 if it is not loaded.</param>
    public static bool IsWithheld(Row row, int shown, int stored) =>
        shown >= 0 && stored >= 0 && row[shown].IsNull && !row[stored].IsNull;

    /// <summary>Whether two values are the same in type and content.</summary>
    public static bool AreSame(TypedValue one, TypedValue other) =>
        (one, other) switch
        {
            (TypedValue.Bytes a, TypedValue.Bytes b) => a.Value.AsSpan().SequenceEqual(b.Value),
            (TypedValue.Real a, TypedValue.Real b) => BitConverter.DoubleToInt64Bits(a.Value)
                == BitConverter.DoubleToInt64Bits(b.Value),

            // JSON has no number for infinity and the like.
            (TypedValue.Real a, TypedValue.Text b) when !double.IsFinite(a.Value) => a.ToString() == b.Value,
            (TypedValue.Text, TypedValue.Real b) when !double.IsFinite(b.Value) => AreSame(other, one),
            _ => one.Equals(other),
        };

    /// <summary>Writes a value as JSON: a number, a text, null, or <c>{"base64": …}</c> for bytes.</summary>
    public static void Write(Utf8JsonWriter json, TypedValue value)
    {
        switch (value)
        {
            case TypedValue.Empty:
                json.WriteNullValue();
                break;
            case TypedValue.Whole whole:
                json.WriteNumberValue(whole.Value);
                break;
            case TypedValue.Real real when double.IsFinite(real.Value):
                var digits = real.Value.ToString("R", CultureInfo.InvariantCulture);
                json.WriteRawValue(digits.AsSpan().ContainsAny('.', 'E') ? digits : digits + ".0");
                break;
            case TypedValue.Bytes bytes:
                json.WriteStartObject();
                json.WriteBase64String("base64", bytes.Value);
                json.WriteEndObject();
                break;
            default:
                json.WriteStringValue(value.ToString());
                break;
        }
    }

    /// <summary>Reads what <see cref="Write"/> wrote.</summary>
    public static TypedValue Read(JsonElement json) =>
        json.ValueKind switch
        {
            JsonValueKind.String => new TypedValue.Text(json.GetString()!),
            JsonValueKind.Number => json.GetRawText() is var digits && digits.AsSpan().ContainsAny('.', 'E', 'e')
                ? new TypedValue.Real(json.GetDouble())
                : new TypedValue.Whole(json.GetInt64()),
            JsonValueKind.Object => new TypedValue.Bytes(json.GetProperty("base64").GetBytesFromBase64()),
            _ => TypedValue.Empty.Value,
        };

    /// <summary>For people: what a log shows of it.</summary>
    public static string Shown(TypedValue value) =>
        value switch
        {
            TypedValue.Empty => "(empty)",
            TypedValue.Bytes bytes => $"({bytes.Value.Length} bytes)",
            TypedValue.Text { Value.Length: 0 } => "(an empty text)",
            _ => value.ToString()!,
        };
}
