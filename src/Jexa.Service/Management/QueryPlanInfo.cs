using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Service.Management;

/// <summary>How a source would run a query, in the engine's own words.</summary>
/// <param name="Lines">The steps, those within another one set in; empty if there is no plan.</param>
/// <param name="Trouble">Why there is no plan; null if there is one.</param>
public sealed record QueryPlanInfo(IReadOnlyList<string> Lines, string? Trouble)
{
    internal static async Task<QueryPlanInfo> OfAsync(
        IPreparedQuery query,
        IReadOnlyList<TypedValue> arguments,
        CancellationToken cancellation
    )
    {
        try
        {
            return await query.ExplainAsync(arguments, cancellation) is { } lines
                ? new QueryPlanInfo(lines, null)
                : new QueryPlanInfo([], "A source of this kind has no plans.");
        }
        catch (SourceException trouble)
        {
            return new QueryPlanInfo([], trouble.Message);
        }
    }
}
