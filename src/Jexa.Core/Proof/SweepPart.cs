using Jexa.Core.Sites;

namespace Jexa.Core.Proof;

/// <summary>One part of a sweep: all records of a kind, or all rows that a page can show.</summary>
/// <param name="Name">A word for people: <c>bridge</c>, <c>bridges</c>, <c>bridge / inspection</c>.</param>
/// <param name="Page">The page; null for a record kind.</param>
/// <param name="Kind">The record kind; null for a page.</param>
public sealed record SweepPart(string Name, Page? Page, KindRows? Kind, RowSet Rows)
{
    /// <summary>Whether the records of its kind are not swept: then nobody else tells of their keys and references.</summary>
    public bool IsAlone { get; init; }

    /// <summary>Stands before the names of parts that are a page's.</summary>
    public const string OfPage = "page ";

    /// <summary>
    /// The parts of a site, in the order of the app file: first the records, then what pages show of them. A page has those links
    /// that the records do not prove already.
    /// </summary>
    /// <param name="only">Only these pages and record kinds, and these pages with all of their links; empty for all.</param>
    public static IReadOnlyList<SweepPart> Of(Site site, IReadOnlySet<string> only) =>
        [
            .. site
                .KindRows.Where(kind => only.Count == 0 || only.Contains(kind.Rows.Record.Name))
                .Select(kind => new SweepPart(kind.Rows.Record.Name, null, kind, kind.Rows)),
            .. site
                .Pages.Where(page => only.Count == 0 || only.Contains(page.Name))
                .SelectMany(page =>
                    page.Rows.Select(rows =>
                        Of(site, page, rows, only.Count > 0) with
                        {
                            IsAlone = only.Count > 0 && !only.Contains(rows.Record.Name),
                        }
                    )
                )
                .Where(part => part.Rows.Links.Count > 0),
        ];

    private static SweepPart Of(Site site, Page page, RowSet rows, bool isWhole) =>
        new(
            rows.Part.Length == 0 ? OfPage + page.Name : $"{OfPage}{page.Name} / {rows.Part}",
            page,
            null,
            isWhole ? rows : rows with { Links = [.. rows.Links.Where(link => !LinkProof.IsOfKind(site, rows, link))] }
        );
}
