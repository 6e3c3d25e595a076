namespace Jexa.Core.Definitions;

/// <summary>A text as the app file writes it, with its place.</summary>
/// <param name="At">Where the text itself begins, inside any quotes.</param>
public sealed record Written(string Value, Place At)
{
    /// <summary>Whether the characters of <see cref="Value"/> stand one after another in the file.</summary>
    public bool IsOneRun { get; init; } = true;

    /// <summary>The place of a character of the value, as near as it can be told.</summary>
    public Place Of(int offset) => IsOneRun ? At.Right(offset) : At;

    public override string ToString() => Value;
}
