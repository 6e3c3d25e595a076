namespace Jexa.Sources.Sql;

/// <summary>One check that could be read: the values a column may have.</summary>
internal sealed record ColumnCheck(string Column, IReadOnlyList<string>? OneOf, decimal? Least, decimal? Most, int? MaxLength);
