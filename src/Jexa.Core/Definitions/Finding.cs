namespace Jexa.Core.Definitions;

/// <summary>A mistake or hint that the check found in an app file.</summary>
/// <param name="Message">The cause, as a sentence.</param>
/// <param name="Found">What the file has there; null for nothing.</param>
/// <param name="Expected">What it could have there.</param>
/// <param name="Nearest">The valid word that is most similar, if there is one.</param>
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
    /// <summary>One line: place, severity, code and message.</summary>
    public override string ToString() => $"{At}: {Code.Severity.ToString().ToLowerInvariant()} {Code.Id}: {Message}";
}
