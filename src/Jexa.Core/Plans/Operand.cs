using Jexa.Core.Values;

namespace Jexa.Core.Plans;

/// <summary>A value in a condition: written in the app file, or given by the visit.</summary>
public abstract record Operand
{
    private Operand() { }

    /// <summary>A value that the app file gives.</summary>
    public sealed record Written(TypedValue Value) : Operand;

    /// <summary>The visit's argument of this number, from 0.</summary>
    /// <param name="Type">Its type. An engine may have to search for a UUID under every spelling that a column can hold.</param>
    public sealed record Argument(int Number, FieldType Type) : Operand;
}
