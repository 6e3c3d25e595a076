namespace Jexa.Core.Visits;

/// <summary>The steps of a visit, in order.</summary>
public enum VisitStep
{
    /// <summary>Finding the page of the address.</summary>
    Match,

    /// <summary>Reading the parameters.</summary>
    Parse,

    /// <summary>Running the queries.</summary>
    Load,

    /// <summary>Deciding the outcome.</summary>
    Decide,

    /// <summary>Writing the answer.</summary>
    Answer,
}
