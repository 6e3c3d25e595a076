namespace Jexa.Core.Visits;

/// <summary>Who has to do something about an outcome.</summary>
public enum OutcomeSide
{
    /// <summary>Nobody: the visitor got what the address stands for, if need be under its canonical spelling.</summary>
    Good,

    /// <summary>The visitor: the address or what was sent is at fault.</summary>
    Visitor,

    /// <summary>The developer, or whoever runs the source.</summary>
    Developer,
}
