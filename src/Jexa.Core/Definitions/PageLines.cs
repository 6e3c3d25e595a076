namespace Jexa.Core.Definitions;

/// <summary>Where a page stands in the app file, also one that could not be read.</summary>
public sealed record PageLines(Written Name, int LastLine)
{
    public bool Holds(Place place) =>
        place.Line <= LastLine && (place.Line > Name.At.Line || (place.Line == Name.At.Line && place.Column >= Name.At.Column));
}
