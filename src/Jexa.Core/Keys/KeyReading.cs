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

    /// <summary>What is wrong with the ID. <see cref="KeyFault.None"/> if nothing is.</summary>
    public KeyFault Fault { get; }

    /// <summary>The typed value; null exactly if there is a fault.</summary>
    public TypedValue? Value { get; }

    /// <summary>Whether the text is the spelling that Jexa itself would write.</summary>
    public bool IsCanonical { get; }

    /// <summary>An ID that could be read; <paramref name="canonical"/> says whether it was spelt as Jexa spells it.</summary>
    public static KeyReading Of(TypedValue value, bool canonical) => new(KeyFault.None, value, canonical);

    /// <summary>An ID that could not be read.</summary>
    public static KeyReading Failed(KeyFault fault) => new(fault, null, false);
}
