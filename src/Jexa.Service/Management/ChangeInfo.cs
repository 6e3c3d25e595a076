namespace Jexa.Service.Management;

/// <summary>A change that was made through a page, or is being made.</summary>
/// <param name="State">
/// <c>made</c>; <c>intended</c> while it is being made; <c>undetermined</c> if nothing tells whether it was made.
/// </param>
/// <param name="Kind"><c>added</c>, <c>changed</c> or <c>deleted</c>.</param>
/// <param name="Page">The page that made it; <c>(undo)</c> for one that reversed another.</param>
/// <param name="Id">The record's ID as it is in addresses; empty if no page shows it.</param>
/// <param name="Key">The record's key as it is stored, as JSON.</param>
/// <param name="By">Who made it; null until there is sign-in.</param>
/// <param name="Undoes">The number of the change that it reversed.</param>
/// <param name="UndoneBy">The number of the change that reversed it.</param>
public sealed record ChangeInfo(
    long Number,
    DateTimeOffset At,
    string State,
    string Kind,
    string Page,
    string Record,
    string Id,
    string Key,
    string? By,
    long? Undoes,
    long? UndoneBy,
    IReadOnlyList<ChangedField> Fields
);
