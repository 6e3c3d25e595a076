namespace Jexa.Core.Definitions;

/// <param name="Source">The source's name.</param>
/// <param name="Table">The table or view; null if the records come from a query.</param>
/// <param name="Query">The developer's own query; null if the records come from a table.</param>
/// <param name="Parameters">The query's named parameters.</param>
/// <param name="Key">Empty where it is read from the schema.</param>
/// <param name="UniqueAssumed">The developer vouches that the key is unique although nothing in the source keeps it so.</param>
/// <param name="Parent">The foreign key that leads to the record this one belongs to; empty if it belongs to none.</param>
public sealed record RecordDefinition(
    Written Name,
    Written Source,
    Written? Table,
    Written? Query,
    IReadOnlyList<QueryParameterDefinition> Parameters,
    IReadOnlyList<Written> Key,
    Written? Label,
    Written? One,
    Written? Many,
    bool UniqueAssumed,
    IReadOnlyList<Written> Parent,
    IReadOnlyList<ConditionDefinition> Visible,
    IReadOnlyList<FieldDefinition> Fields
);
