using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Rows that refer to a record.</summary>
/// <param name="Many">Their name in the plural.</param>
/// <param name="Count">Counts the visible ones, by the values they refer to.</param>
/// <param name="Ordinals">The cells with those values, as they are stored.</param>
public sealed record DependentPlan(
    string One,
    string Many,
    IPreparedQuery Count,
    IReadOnlyList<int> Ordinals,
    Schemas.DeleteRule Rule
)
{
    /// <summary>Counting stops at this number.</summary>
    public const int CountLimit = 10_000;
}
