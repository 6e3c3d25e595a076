using Jexa.Core.Values;

namespace Jexa.Core.Edits;

/// <summary>What somebody sent for a field: a value, or a sentence that says what is wrong with it.</summary>
public readonly record struct FieldReading(TypedValue? Value, string? Fault)
{
    public static FieldReading Of(TypedValue value) => new(value, null);

    public static FieldReading Failed(string fault) => new(null, fault);
}
