namespace Jexa.Core.Definitions;

/// <param name="Column">The column that the link is on; null for a link of its own.</param>
/// <param name="OnRow">Whether the whole row is the link.</param>
/// <param name="With">Which field fills which parameter. Others are implied if only one field fits.</param>
/// <param name="When">The link is shown only for records for which these conditions hold.</param>
public sealed record LinkDefinition(
    Written To,
    Written? Column,
    Written? Text,
    bool OnRow,
    IReadOnlyList<PassDefinition> With,
    IReadOnlyList<ConditionDefinition> When
);
