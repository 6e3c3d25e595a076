namespace Jexa.Core.Contracts;

/// <summary>How a field of a record stands in JSON.</summary>
/// <param name="IsOptional">It is left out where it does not apply to the record.</param>
/// <param name="Shape">What it is besides a plain value.</param>
public sealed record FieldContract(string Name, string Label, ValueKind Kind, bool IsNullable, bool IsOptional, FieldShape Shape)
{
    /// <summary>The parameters that make the ID of the record it refers to; empty if no page shows such records.</summary>
    public IReadOnlyList<string> IdParameters { get; init; } = [];
}
