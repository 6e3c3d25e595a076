namespace Jexa.Core.Definitions;

/// <summary>A condition on a field, or several conditions together.</summary>
/// <param name="Field">Empty for a group of conditions.</param>
/// <param name="Values">Written values, or <c>{parameter}</c>; for a month, the year follows it.</param>
/// <param name="Parts">The conditions in a group of <see cref="ConditionKind.All"/> or <see cref="ConditionKind.Any"/>.</param>
public sealed record ConditionDefinition(
    Written Field,
    ConditionKind Kind,
    IReadOnlyList<Written> Values,
    IReadOnlyList<ConditionDefinition> Parts
)
{
    /// <summary>A condition on one field.</summary>
    public static ConditionDefinition Of(Written field, ConditionKind kind, params IReadOnlyList<Written> values) =>
        new(field, kind, values, []);
}
