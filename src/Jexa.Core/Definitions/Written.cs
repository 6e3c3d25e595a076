namespace Jexa.Core.Definitions;

/// <summary>A text of the app file with its place.</summary>
/// <param name="At">Where the text begins, inside any quotes.</param>
public sealed record Written(string Value, Place At)
{
    /// <summary>Whether the characters of <see cref="Value"/> follow each other in the file.</summary>
    public bool IsOneRun { get; init; } = true;

    /// <summary>The place of a character of the value, as exact as it is known.</summary>
    public Place Of(int offset) => IsOneRun ? At.Right(offset) : At;

    /// <summary>The value, without its place.</summary>
    public override string ToString() => Value;
}
