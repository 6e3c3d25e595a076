namespace Jexa.Core.Visits;

/// <summary>What a program is told of an outcome besides its word and a sentence.</summary>
[Flags]
public enum OutcomeParts
{
    /// <summary>Nothing else.</summary>
    None = 0,

    /// <summary>The name of the parameter that is at fault.</summary>
    Parameter = 1,

    /// <summary>Links to pages that may help.</summary>
    Links = 2,

    /// <summary>The seconds after which to try again.</summary>
    After = 4,

    /// <summary>The fields that are at fault.</summary>
    Faults = 8,

    /// <summary>Only a change ends so.</summary>
    Change = 16,
}
