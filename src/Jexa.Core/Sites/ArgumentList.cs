using Jexa.Core.Plans;
using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>Collects the arguments of a query while its conditions are made. Each gets the next number.</summary>
public sealed class ArgumentList
{
    private readonly List<TypedValue> _values = [];

    /// <summary>The values, in the order they were added.</summary>
    public IReadOnlyList<TypedValue> Values => _values;

    /// <summary>Adds a value, and gives the operand that stands for it in the query.</summary>
    public Operand Add(TypedValue value, FieldType type)
    {
        _values.Add(value);
        return new Operand.Argument(_values.Count - 1, type);
    }
}
