namespace Jexa.Core.Contracts;

/// <summary>Records of another kind that stand with a record.</summary>
/// <param name="IdParameters">The parameters that make a record's ID; empty if no page shows one.</param>
public sealed record BlockContract(
    string Record,
    string Title,
    IReadOnlyList<FieldContract> Fields,
    bool IsNotice,
    IReadOnlyList<string> IdParameters
);
