namespace Jexa.Sources.Sql;

/// <summary>A query as SQL text.</summary>
/// <param name="Arguments">Which of the visit's arguments each parameter of the text stands for, in the order of the parameters'
/// numbers.</param>
internal sealed record SqlStatement(string Text, IReadOnlyList<int> Arguments);
