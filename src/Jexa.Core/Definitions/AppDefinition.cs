namespace Jexa.Core.Definitions;

/// <summary>The content of an app file, not yet compared with any source.</summary>
/// <param name="Zone">
/// The time zone in which moments are shown, by its IANA name; null to show them as the source has them.
/// </param>
/// <param name="Locale">The locale for numbers and dates (BCP 47).</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON.</param>
/// <param name="Writers">Other origins whose scripts may also change records by JSON.</param>
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
    /// <summary>Texts that stand for the files of these names while a change of the files is only on trial.</summary>
    public IReadOnlyDictionary<string, string> Texts { get; init; } = new Dictionary<string, string>();

    /// <summary>The folder for relative paths.</summary>
    public string Folder => Path.GetDirectoryName(Path.GetFullPath(File)) ?? "/";

    /// <summary>The name of the page that contains a place of the file; null if no page does.</summary>
    public string? PageAt(Place place) => Lines.LastOrDefault(page => page.Holds(place))?.Name.Value;
}
