namespace Jexa.Core.Definitions;

/// <summary>The lines of the pages in the app file, including pages that could not be read.</summary>
public sealed record PageLines(Written Name, int LastLine)
{
    /// <summary>Whether a place in the app file belongs to this page.</summary>
    public bool Holds(Place place) =>
        place.Line <= LastLine && (place.Line > Name.At.Line || (place.Line == Name.At.Line && place.Column >= Name.At.Column));
}
