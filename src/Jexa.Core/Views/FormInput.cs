using Jexa.Core.Edits;

namespace Jexa.Core.Views;

/// <summary>A field of a form in one visit.</summary>
/// <param name="Text">Its present text.</param>
/// <param name="Faults">What is wrong with the text.</param>
/// <param name="Options">The choices; empty for a field that is typed.</param>
/// <param name="Search">The search text for other records; null if there is no search.</param>
/// <param name="SearchNote">The result of the search.</param>
/// <param name="Picture">The address of the present picture; null for none.</param>
/// <param name="Fixed">The text to show if the address decides the value; null if it can be changed.</param>
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
    /// <summary>The name of the field.</summary>
    public string Name => Field.Name;

    /// <summary>The ID of its element.</summary>
    public string Id => IdOf(Name);

    /// <summary>The ID of what is wrong with a field.</summary>
    public static string FaultIdOf(string name) => $"{IdOf(name)}-fault";

    /// <summary>The ID of the help for a field.</summary>
    public static string HintIdOf(string name) => $"{IdOf(name)}-hint";

    /// <summary>The ID of a field's element. Points in it would have to be escaped in style sheets.</summary>
    public static string IdOf(string name) => $"f-{name.Replace(SentForm.Tied, "-record-", StringComparison.Ordinal)}";

    /// <summary>Whether the text is what a visitor typed, which must not be formatted as a number.</summary>
    public bool IsAsTyped { get; init; }

    /// <summary>Whether the input has several lines.</summary>
    public bool IsMultiline =>
        Field.Input == InputKind.LongText || (Field.Input is InputKind.Text or InputKind.Picture && Text.Contains('\n'));
}
