namespace Jexa.Core.Edits;

/// <summary>Which changes are wanted; null for any.</summary>
/// <param name="Before">Only changes with smaller numbers.</param>
public sealed record ChangeQuestion(
    string? Record = null,
    string? Id = null,
    string? Page = null,
    ChangeKind? Kind = null,
    ChangeState? State = null,
    DateTimeOffset? Since = null,
    long? Before = null,
    int Limit = 50
);
