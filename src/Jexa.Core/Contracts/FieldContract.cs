namespace Jexa.Core.Contracts;

/// <summary>A field of a record in JSON.</summary>
/// <param name="IsOptional">Whether it is left out if it does not apply to the record.</param>
/// <param name="Shape">What it is, if not a plain value.</param>
public sealed record FieldContract(string Name, string Label, ValueKind Kind, bool IsNullable, bool IsOptional, FieldShape Shape)
{
    /// <summary>The parameters of the ID of the record it refers to; empty if no page shows such records.</summary>
    public IReadOnlyList<string> IdParameters { get; init; } = [];
}
