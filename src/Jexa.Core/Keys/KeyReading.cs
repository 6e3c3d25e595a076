using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>What one ID text turned out to be: a value, a value spelled otherwise than its canonical form, or none.</summary>
public readonly struct KeyReading
{
    private KeyReading(KeyFault fault, TypedValue? value, bool canonical)
    {
        Fault = fault;
        Value = value;
        IsCanonical = canonical;
    }

    public KeyFault Fault { get; }

    /// <summary>The typed value; null exactly when there is a fault.</summary>
    public TypedValue? Value { get; }

    /// <summary>Whether the text is the one spelling that Jexa itself would write for the value.</summary>
    public bool IsCanonical { get; }

    public static KeyReading Of(TypedValue value, bool canonical) => new(KeyFault.None, value, canonical);

    public static KeyReading Failed(KeyFault fault) => new(fault, null, false);
}
