using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// The values of a list's parameters in one visit: none for one that is absent, several for one given several times.
/// </summary>
public sealed record ParameterValues(IReadOnlyList<IReadOnlyList<TypedValue>> Values)
{
    public static ParameterValues None { get; } = new([]);

    /// <summary>No value for any of so many parameters.</summary>
    public static ParameterValues NoneOf(int count) =>
        count == 0 ? None : new([.. Enumerable.Repeat<IReadOnlyList<TypedValue>>([], count)]);

    public bool Has(int parameter) => Values[parameter].Count > 0;

    public TypedValue One(int parameter) => Values[parameter][0];
}
