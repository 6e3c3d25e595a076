namespace Jexa.Core.Definitions;

/// <param name="Source">The source's name.</param>
/// <param name="Table">The table or view; null if the records come from a query.</param>
/// <param name="Query">The developer's own query; null if the records come from a table.</param>
/// <param name="Parameters">The query's named parameters.</param>
/// <param name="Key">Empty to read it from the schema.</param>
/// <param name="UniqueAssumed">The developer promises that the key is unique although the source does not enforce it.</param>
/// <param name="Parent">The foreign key to the record that this one belongs to; empty for none.</param>
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
