namespace Jexa.Core.Definitions;

/// <summary>A condition on a field, or several conditions together.</summary>
/// <param name="Field">Empty where it stands over several conditions.</param>
/// <param name="Values">Written values, or <c>{parameter}</c>; for a month, the year behind it.</param>
/// <param name="Parts">What <see cref="ConditionKind.All"/> and <see cref="ConditionKind.Any"/> stand over.</param>
public sealed record ConditionDefinition(
    Written Field,
    ConditionKind Kind,
    IReadOnlyList<Written> Values,
    IReadOnlyList<ConditionDefinition> Parts
)
{
    public static ConditionDefinition Of(Written field, ConditionKind kind, params IReadOnlyList<Written> values) =>
        new(field, kind, values, []);
}
