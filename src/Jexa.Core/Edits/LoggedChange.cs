namespace Jexa.Core.Edits;

/// <summary>A change in the log.</summary>
/// <param name="By">Who made it; null until there is sign-in.</param>
/// <param name="UndoneBy">The number of the change that reversed it.</param>
public sealed record LoggedChange(
    long Number,
    DateTimeOffset At,
    ChangeState State,
    string? By,
    long? UndoneBy,
    ChangeIntent What
);
