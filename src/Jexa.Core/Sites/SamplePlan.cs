using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Reads what fills the parameters of a page from some visible records.</summary>
/// <param name="Ordinals">Where each parameter's value stands in a row; -1 for one that is left out.</param>
public sealed record SamplePlan(IPreparedQuery Query, IReadOnlyList<int> Ordinals)
{
    /// <summary>Rows that are looked at: the first ones may have no address.</summary>
    public const int MostRows = 10;
}
