using Jexa.Core.Edits;

namespace Jexa.Core.Views;

/// <summary>A field of a form in one visit.</summary>
/// <param name="Text">What stands in it.</param>
/// <param name="Faults">What is wrong with that.</param>
/// <param name="Options">What can be chosen; empty for a field that is typed.</param>
/// <param name="Search">What records were looked for by; null if none are searched for.</param>
/// <param name="SearchNote">What became of the search.</param>
/// <param name="Picture">The address of the picture it names now; null for none.</param>
/// <param name="Fixed">What is shown in its stead where the address decides it; null for a field that can be changed.</param>
public sealed record FormInput(
    FormField Field,
    string Text,
    IReadOnlyList<string> Faults,
    IReadOnlyList<FormOption> Options,
    string? Search,
    string? SearchNote,
    string? Picture,
    FormClash? Clash,
    string? Fixed
)
{
    public string Name => Field.Name;

    /// <summary>The text is what somebody typed, and not to be written as the app writes numbers.</summary>
    public bool IsAsTyped { get; init; }

    public bool IsMultiline =>
        Field.Input == InputKind.LongText || (Field.Input is InputKind.Text or InputKind.Picture && Text.Contains('\n'));
}
