namespace Jexa.Core.Definitions;

/// <summary>Something check found in an app file.</summary>
/// <param name="Message">The cause, as a sentence.</param>
/// <param name="Found">What stands there, or null if nothing does.</param>
/// <param name="Expected">What could stand there.</param>
/// <param name="Nearest">The valid word nearest to what stands there, if any is near.</param>
/// <param name="Remedy">What to do, as a sentence.</param>
public sealed record Finding(
    FindingCode Code,
    Place At,
    string Message,
    string? Found,
    string? Expected,
    string? Nearest,
    string Remedy
)
{
    public override string ToString() => $"{At}: {Code.Severity.ToString().ToLowerInvariant()} {Code.Id}: {Message}";
}
