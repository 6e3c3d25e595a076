namespace Jexa.Service.Workshop;

/// <summary>Why no app file can be drafted.</summary>
public enum DraftTrouble
{
    /// <summary>What was asked for makes no sense: a wrong path, a missing variable.</summary>
    Asked,

    /// <summary>The source does not answer.</summary>
    Away,

    /// <summary>The source has nothing that pages could be made of.</summary>
    Nothing,
}
