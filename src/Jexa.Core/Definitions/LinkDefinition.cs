namespace Jexa.Core.Definitions;

/// <param name="Column">The shown column the link stands on; null for a link of its own.</param>
/// <param name="OnRow">The link is the whole row's.</param>
/// <param name="With">Which field fills which parameter; what is left out is implied where only one reading is possible.</param>
/// <param name="When">The link stands only on records for which these hold.</param>
public sealed record LinkDefinition(
    Written To,
    Written? Column,
    Written? Text,
    bool OnRow,
    IReadOnlyList<PassDefinition> With,
    IReadOnlyList<ConditionDefinition> When
);
