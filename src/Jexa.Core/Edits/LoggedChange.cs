namespace Jexa.Core.Edits;

/// <summary>A change as the log has it.</summary>
/// <param name="By">Who made it; null as long as there is no sign-in.</param>
/// <param name="UndoneBy">The number of the change that took it back.</param>
public sealed record LoggedChange(
    long Number,
    DateTimeOffset At,
    ChangeState State,
    string? By,
    long? UndoneBy,
    ChangeIntent What
);
