namespace Jexa.Sources.Sql;

/// <summary>A query as SQL text.</summary>
/// <param name="Arguments">The visit's argument for each parameter of the text, in the order of the parameters' numbers.</param>
internal sealed record SqlStatement(string Text, IReadOnlyList<int> Arguments);
