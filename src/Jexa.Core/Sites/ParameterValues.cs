using Jexa.Core.Values;

namespace Jexa.Core.Sites;

/// <summary>
/// The values of a list's parameters in one visit: none for an absent one, several for one that is given several times.
/// </summary>
public sealed record ParameterValues(IReadOnlyList<IReadOnlyList<TypedValue>> Values)
{
    /// <summary>No parameters.</summary>
    public static ParameterValues None { get; } = new([]);

    /// <summary>No value for any parameter.</summary>
    public static ParameterValues NoneOf(int count) =>
        count == 0 ? None : new([.. Enumerable.Repeat<IReadOnlyList<TypedValue>>([], count)]);

    /// <summary>Whether the parameter at this place was given.</summary>
    public bool Has(int parameter) => Values[parameter].Count > 0;

    /// <summary>The first value of the parameter at this place. It must have been given.</summary>
    public TypedValue One(int parameter) => Values[parameter][0];
}
