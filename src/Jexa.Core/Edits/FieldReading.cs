using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>The result of reading a sent field: a value, or a sentence about what is wrong with it.</summary>
public readonly record struct FieldReading(TypedValue? Value, string? Fault)
{
    public static FieldReading Of(TypedValue value) => new(value, null);

    public static FieldReading Failed(string fault) => new(null, fault);
}
