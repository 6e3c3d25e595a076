using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>The result of reading a sent field: a value, or a sentence about what is wrong with it.</summary>
public readonly record struct FieldReading(TypedValue? Value, string? Fault)
{
    /// <summary>A value that could be read.</summary>
    public static FieldReading Of(TypedValue value) => new(value, null);

    /// <summary>A text that could not be read; <paramref name="fault"/> says why, in a sentence for the visitor.</summary>
    public static FieldReading Failed(string fault) => new(null, fault);
}
