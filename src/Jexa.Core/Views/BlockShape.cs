namespace Jexa.Core.Views;

/// <summary>The part of a block that is the same for every visit.</summary>
/// <param name="Rows">How its rows look; null for a notice.</param>
/// <param name="Notice">Markdown; null for records.</param>
public sealed record BlockShape(string Name, string Title, ListShape? Rows, string? Notice)
{
    /// <summary>How one of the records is chosen; null if all are shown.</summary>
    public ChoiceShape? Choice { get; init; }
}
