namespace Jexa.Core.Definitions;

/// <summary>What an app file says, read but not yet compared with any source.</summary>
/// <param name="Zone">The time zone that moments are shown in, by its IANA name; null if they are shown as the source has
/// them.</param>
/// <param name="Locale">The locale that numbers and dates are written in (BCP 47).</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON.</param>
/// <param name="Writers">Other origins whose scripts may change records by JSON as well.</param>
/// <param name="Lines">In the order of the file.</param>
public sealed record AppDefinition(
    string File,
    Written Title,
    Written? Home,
    Written? NotFound,
    Written? Zone,
    Written? Locale,
    FrameDefinition Frame,
    IReadOnlyList<Written> Origins,
    IReadOnlyList<Written> Writers,
    IReadOnlyList<SourceDefinition> Sources,
    IReadOnlyList<RecordDefinition> Records,
    IReadOnlyList<PageDefinition> Pages,
    IReadOnlyList<PageLines> Lines
)
{
    /// <summary>The folder that relative paths start from.</summary>
    public string Folder => Path.GetDirectoryName(Path.GetFullPath(File)) ?? "/";

    /// <summary>The name of the page that a place of the file belongs to; null if it belongs to none.</summary>
    public string? PageAt(Place place) => Lines.LastOrDefault(page => page.Holds(place))?.Name.Value;
}
