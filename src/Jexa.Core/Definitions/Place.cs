namespace Jexa.Core.Definitions;

/// <summary>A place in an app file. Line and column count from 1; columns are UTF-16 units.</summary>
public readonly record struct Place(string File, int Line, int Column)
{
    /// <summary>A place further right on the same line.</summary>
    public Place Right(int characters) => this with { Column = Column + characters };

    /// <summary>File, line and column, as compilers write them. Line and column begin at 1.</summary>
    public override string ToString() => $"{File}:{Line}:{Column}";
}
