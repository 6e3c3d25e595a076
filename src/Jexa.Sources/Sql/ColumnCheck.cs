namespace Jexa.Sources.Sql;

/// <summary>A check constraint that could be read: the values that a column may have.</summary>
internal sealed record ColumnCheck(string Column, IReadOnlyList<string>? OneOf, decimal? Least, decimal? Most, int? MaxLength);
