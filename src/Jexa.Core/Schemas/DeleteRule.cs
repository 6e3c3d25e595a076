namespace Jexa.Core.Schemas;

/// <summary>What a deleted row does to those that refer to it.</summary>
public enum DeleteRule
{
    /// <summary>As long as there are any it cannot be deleted.</summary>
    Refuse,

    /// <summary>They are deleted with it.</summary>
    Cascade,

    /// <summary>They stay, and refer to nothing any more, or to a default.</summary>
    Release,
}
