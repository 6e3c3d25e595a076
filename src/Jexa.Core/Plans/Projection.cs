using Jexa.Core.Values;

namespace Jexa.Core.Plans;

/// <summary>One column of the result. <see cref="FieldType.Any"/> gives the value as it is stored.</summary>
/// <param name="Secret">Traces must not contain it.</param>
public sealed record Projection(ColumnRef Column, FieldType Type, bool Secret = false);
