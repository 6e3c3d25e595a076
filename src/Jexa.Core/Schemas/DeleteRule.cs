namespace Jexa.Core.Schemas;

/// <summary>What happens to the rows that refer to a deleted row.</summary>
public enum DeleteRule
{
    /// <summary>The row cannot be deleted while rows refer to it.</summary>
    Refuse,

    /// <summary>They are deleted too.</summary>
    Cascade,

    /// <summary>They stay. Their foreign key becomes empty, or gets its default.</summary>
    Release,
}
