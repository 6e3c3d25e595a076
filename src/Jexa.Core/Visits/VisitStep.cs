namespace Jexa.Core.Visits;

/// <summary>The steps of a visit, in order.</summary>
public enum VisitStep
{
    Match,
    Parse,
    Load,
    Decide,
    Answer,
}
