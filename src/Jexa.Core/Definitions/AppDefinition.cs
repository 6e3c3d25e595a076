namespace Jexa.Core.Definitions;

/// <summary>The content of an app file, not yet compared with any source.</summary>
/// <param name="Zone">
/// The time zone in which moments are shown, by its IANA name; null to show them as the source has them.
/// </param>
/// <param name="Locale">The locale for numbers and dates (BCP 47).</param>
/// <param name="Origins">Other origins whose scripts may read pages as JSON.</param>
/// <param name="Writers">Other origins whose scripts may also change records by JSON.</param>
/// <param name="Lines">The lines of the pages, in the order of the file.</param>
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
    IReadOnlyList<NamedLines> Lines
)
{
    /// <summary>The lines of the records.</summary>
    public IReadOnlyList<NamedLines> RecordLines { get; init; } = [];

    /// <summary>What the app file says of findings.</summary>
    public IReadOnlyList<FindingSetting> Settings { get; init; } = [];

    /// <summary>Texts that stand for the files of these names while a change of the files is only on trial.</summary>
    public IReadOnlyDictionary<string, string> Texts { get; init; } = new Dictionary<string, string>();

    /// <summary>The folder for relative paths.</summary>
    public string Folder => Path.GetDirectoryName(Path.GetFullPath(File)) ?? "/";

    /// <summary>The HTML files that the app file names.</summary>
    public IEnumerable<Written> Bodies => Pages.Select(page => page.Body).Append(Frame.Page).OfType<Written>();

    /// <summary>The name of the page that a place belongs to: one of the file, or of the page's HTML; null for none.</summary>
    public string? PageAt(Place place)
    {
        var at = InAppFile(place);
        return Lines.LastOrDefault(page => page.Holds(at))?.Name.Value;
    }

    /// <summary>The name of the record that a place of the file belongs to; null for none.</summary>
    public string? RecordAt(Place place) =>
        place.File == File ? RecordLines.LastOrDefault(record => record.Holds(place))?.Name.Value : null;

    /// <summary>
    /// A finding as it stands in the app file: one in an HTML file stands where the app file names that file, and says its place
    /// there.
    /// </summary>
    public Finding InAppFile(Finding finding) =>
        finding.At.File == File
            ? finding
            : finding with
            {
                At = InAppFile(finding.At),
                Message = $"{finding.At}: {finding.Message}",
                Found = null,
                Nearest = null,
            };

    private Place InAppFile(Place place)
    {
        if (place.File == File)
            return place;
        var folder = Path.GetDirectoryName(File) ?? "";
        return Bodies.FirstOrDefault(body => Path.Combine(folder, body.Value) == place.File)?.At ?? new Place(File, 1, 1);
    }
}
