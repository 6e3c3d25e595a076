namespace Jexa.Core.Contracts;

/// <summary>Records of another kind, shown with a record.</summary>
/// <param name="IdParameters">The parameters of a record's ID; empty if no page shows one.</param>
public sealed record BlockContract(
    string Record,
    string Title,
    IReadOnlyList<FieldContract> Fields,
    bool IsNotice,
    IReadOnlyList<string> IdParameters
);
