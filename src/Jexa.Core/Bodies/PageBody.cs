namespace Jexa.Core.Bodies;

/// <summary>A page's own design, compiled.</summary>
/// <param name="Attributes">The attributes of the element <c>main</c>, each after a blank.</param>
/// <param name="Head">The style sheets and scripts of the file, for the head of the page.</param>
/// <param name="Steps">What stands in <c>main</c>.</param>
public sealed record PageBody(byte[] Attributes, byte[] Head, IReadOnlyList<BodyStep> Steps)
{
    /// <summary>Whether the body says where the message about what was just done stands.</summary>
    public bool HasSaid { get; init; }

    /// <summary>Whether the body says where the page's notice stands.</summary>
    public bool HasNotice { get; init; }

    /// <summary>Whether the body says where the faults of a form stand.</summary>
    public bool HasFaults { get; init; }

    /// <summary>Whether it has a form of its own, which needs the script of forms.</summary>
    public bool HasForm { get; init; }

    /// <summary>The app's files that it uses: their path below the app file's folder, with slashes.</summary>
    public IReadOnlyCollection<string> Files { get; init; } = [];

    /// <summary>The style sheet and the script that were written in the file itself, by their names.</summary>
    public IReadOnlyDictionary<string, byte[]> Made { get; init; } = new Dictionary<string, byte[]>();
}
