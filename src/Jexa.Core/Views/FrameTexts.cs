namespace Jexa.Core.Views;

/// <summary>What the app shows around its pages.</summary>
/// <param name="Header">Markdown; empty for none.</param>
/// <param name="Logo">The path of a picture; null for none.</param>
/// <param name="Style">The path of a style sheet; null for none.</param>
public sealed record FrameTexts(string Header, string Footer, string? Logo, string? Style)
{
    /// <summary>The palette.</summary>
    public string Theme { get; init; } = "";

    /// <summary>How much room a row of a table has.</summary>
    public string Rows { get; init; } = "";

    /// <summary>Whether pages have a script that shows that the next page is being loaded.</summary>
    public bool TellsLoading { get; init; }

    /// <summary>Whether pages have a script that loads what is pointed at, before it is clicked.</summary>
    public bool Prefetches { get; init; }

    /// <summary>Origins that pictures are loaded from.</summary>
    public IReadOnlyList<string> PictureOrigins { get; init; } = [];

    /// <summary>Origins that recordings are loaded from.</summary>
    public IReadOnlyList<string> RecordingOrigins { get; init; } = [];

    /// <summary>Origins whose players are framed.</summary>
    public IReadOnlyList<string> PlayerOrigins { get; init; } = [];

    /// <summary>The frame of the app's own design; null for Jexa's.</summary>
    public FrameDesign? Design { get; init; }

    /// <summary>A frame without texts.</summary>
    public static FrameTexts None { get; } = new("", "", null, null);
}
