using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Rows that refer to a record.</summary>
/// <param name="Many">What they are called.</param>
/// <param name="Count">Those that may be seen, by the values they refer to.</param>
/// <param name="Ordinals">Where those values stand in a row, as they are stored.</param>
public sealed record DependentPlan(
    string One,
    string Many,
    IPreparedQuery Count,
    IReadOnlyList<int> Ordinals,
    Schemas.DeleteRule Rule
)
{
    /// <summary>Counting stops here.</summary>
    public const int CountLimit = 10_000;
}
