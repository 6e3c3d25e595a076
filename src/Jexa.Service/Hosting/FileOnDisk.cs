namespace Jexa.Service.Hosting;

/// <summary>What stands on the disk under the app file's name.</summary>
/// <param name="Text">The text; null if nothing is there, or nothing that can be read as text.</param>
/// <param name="Trouble">Why it cannot be read; null if it can, and if nothing is there.</param>
public sealed record FileOnDisk(string? Text, string? Trouble)
{
    /// <summary>Whether nothing is there.</summary>
    public bool IsGone => Text is null && Trouble is null;
}
