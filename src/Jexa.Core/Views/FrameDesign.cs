namespace Jexa.Core.Views;

/// <summary>What stands around every page, by the app's own design.</summary>
/// <param name="Head">Its style sheets and scripts.</param>
/// <param name="Before">What stands before the page's content.</param>
/// <param name="After">What stands behind it.</param>
public sealed record FrameDesign(byte[] Head, IReadOnlyList<FramePiece> Before, IReadOnlyList<FramePiece> After)
{
    /// <summary>The app's files that it uses: their path below the app file's folder, with slashes.</summary>
    public IReadOnlyCollection<string> Files { get; init; } = [];

    /// <summary>The style sheet and the script that were written in the file itself, by their names.</summary>
    public IReadOnlyDictionary<string, byte[]> Made { get; init; } = new Dictionary<string, byte[]>();
}
