namespace Jexa.Core.Definitions;

/// <summary>The lines of a page or record in the app file, even of one that could not be read.</summary>
public sealed record NamedLines(Written Name, int LastLine)
{
    /// <summary>Whether a place in the app file belongs to it.</summary>
    public bool Holds(Place place) =>
        place.Line <= LastLine && (place.Line > Name.At.Line || (place.Line == Name.At.Line && place.Column >= Name.At.Column));
}
