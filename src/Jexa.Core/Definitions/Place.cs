namespace Jexa.Core.Definitions;

/// <summary>A place in an app file: line and column count from 1, the column in UTF-16 units.</summary>
public readonly record struct Place(string File, int Line, int Column)
{
    /// <summary>A place further right on the same line.</summary>
    public Place Right(int characters) => this with { Column = Column + characters };

    public override string ToString() => $"{File}:{Line}:{Column}";
}

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
