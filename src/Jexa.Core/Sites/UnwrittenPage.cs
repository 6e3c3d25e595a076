using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;

namespace Jexa.Core.Sites;

/// <summary>A page that links lead to, but that is not written yet. A stub stands in its place.</summary>
/// <param name="Kind">The kind of page according to its name; null if the name does not say.</param>
/// <param name="Record">The record kind in its name; null for none.</param>
/// <param name="Parameters">What links pass to it: names, and the key types of the values.</param>
public sealed record UnwrittenPage(
    string Name,
    PageKind? Kind,
    SiteRecord? Record,
    IReadOnlyList<(string Name, KeyType Key)> Parameters
)
{
    /// <summary>The segment of the addresses of stubs.</summary>
    public const string Segment = "unwritten";

    /// <summary>
    /// What its name says: <c>bridge-edit</c> edits a bridge, <c>bridge</c> shows one, <c>bridges</c> lists them.
    /// </summary>
    public static UnwrittenPage Of(
        string name,
        IEnumerable<SiteRecord> records,
        IReadOnlyList<(string Name, KeyType Key)> parameters
    )
    {
        var words = Labels.OfRecord(name);
        foreach (var record in records)
        {
            var (one, many) = (Labels.OfRecord(record.Name), Labels.Plural(Labels.OfRecord(record.Name)));
            var kind =
                words == record.Many
                    ? PageKind.List
                    : PageKind.All.FirstOrDefault(kind => kind.UsualNames.Any(usual => words == PageKind.Say(usual, one, many)));
            if (kind is not null)
                return new UnwrittenPage(name, kind, record, parameters);
        }

        return new UnwrittenPage(name, null, null, parameters);
    }

    /// <summary>What the page will be, as a sentence.</summary>
    public string Purpose => Kind is null ? "" : PageKind.Say(Kind.Purpose, Record!.One, Record.Many);

    /// <summary>A line of the app file that would write the page.</summary>
    public string Line
    {
        get
        {
            var word = (Kind ?? PageKind.Detail).Word;
            var record = Record?.Name ?? "RECORD";
            var ids = Kind is { HasId: false } ? "" : string.Concat(Parameters.Select(parameter => $"/{{{parameter.Name}}}"));
            return $"{Name}: {{ path: \"/{Name}{ids}\", {word}: {record} }}";
        }
    }
}
