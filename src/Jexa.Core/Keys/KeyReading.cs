using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>The result of reading an ID text: a value, a value in another spelling than the canonical one, or a fault.</summary>
public readonly struct KeyReading
{
    private KeyReading(KeyFault fault, TypedValue? value, bool canonical)
    {
        Fault = fault;
        Value = value;
        IsCanonical = canonical;
    }

    public KeyFault Fault { get; }

    /// <summary>The typed value; null exactly if there is a fault.</summary>
    public TypedValue? Value { get; }

    /// <summary>Whether the text is the spelling that Jexa itself would write.</summary>
    public bool IsCanonical { get; }

    public static KeyReading Of(TypedValue value, bool canonical) => new(KeyFault.None, value, canonical);

    public static KeyReading Failed(KeyFault fault) => new(fault, null, false);
}
