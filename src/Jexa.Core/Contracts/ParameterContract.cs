using Jexa.Core.Sites;

namespace Jexa.Core.Contracts;

/// <summary>A parameter of a page's addresses.</summary>
/// <param name="Words">The allowed words, if it takes only a few.</param>
/// <param name="YearOf">For a month, the parameter that is its year and must be given with it; null if there is none.</param>
public sealed record ParameterContract(PageParameter Of, ValueKind Kind, IReadOnlyList<string> Words, string? YearOf = null)
{
    /// <summary>The parameter's name in the path or the query string.</summary>
    public string Name => Of.Name;

    /// <summary>Whether the parameter stands in the query string. False if it stands in the path.</summary>
    public bool InQuery => Of.Segment < 0;
}
