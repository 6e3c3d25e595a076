using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Reads values for the parameters of a page from some visible records.</summary>
/// <param name="Ordinals">The cell with each parameter's value; -1 for one that is left out.</param>
public sealed record SamplePlan(IPreparedQuery Query, IReadOnlyList<int> Ordinals)
{
    /// <summary>The most rows to look at: the first ones may have no address.</summary>
    public const int MostRows = 10;
}
