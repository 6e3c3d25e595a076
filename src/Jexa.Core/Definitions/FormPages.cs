namespace Jexa.Core.Definitions;

/// <summary>
/// The pages that <c>forms: [edit, new, delete]</c> of a record's page stands for, as if they were written out
/// (<c>bridge-edit</c>, <c>bridge-new</c>, <c>bridge-delete</c>). A page of that name in the file is kept as it is.
/// </summary>
internal static class FormPages
{
    public static readonly IReadOnlyList<string> Kinds = [.. PageKind.All.Where(kind => kind.Writes).Select(kind => kind.Word)];

    /// <summary>The pages of the file, each followed by those that its <c>forms</c> stands for.</summary>
    public static List<PageDefinition> Added(IReadOnlyList<PageDefinition> pages, FindingList findings)
    {
        var all = new List<PageDefinition>();
        foreach (var page in pages)
        {
            var implied = page
                .Forms.Where(word =>
                    Kinds.Contains(word.Value) && pages.All(other => other.Name.Value != NameOf(page, word.Value))
                )
                .Select(word => Of(page, word))
                .ToList();
            foreach (
                var form in implied.Where(form =>
                    pages.FirstOrDefault(other => other.Path.Value == form.Path.Value && other.Kind == form.Kind) is not null
                )
            )
            {
                findings.Add(
                    FindingCodes.SameAddresses,
                    form.Name.At,
                    $"“forms” makes the page “{form.Name}” with the path {form.Path}, which another page has.",
                    $"Leave {form.Kind} out of “forms”, or call the other page {form.Name}.",
                    found: form.Path.Value,
                    expected: "a path that no other page has"
                );
            }

            var links = implied
                .Where(form => form.HasId && page.Links.All(link => link.To.Value != form.Name.Value))
                .Select(form => new LinkDefinition(form.Name, null, null, false, [], []));
            all.Add(implied.Count == 0 ? page : page with { Links = [.. page.Links, .. links] });
            all.AddRange(implied);
        }

        return all;
    }

    private static string NameOf(PageDefinition page, string kind) => $"{page.Name}-{kind}";

    private static PageDefinition Of(PageDefinition page, Written word)
    {
        var kind = PageKind.Of(word.Value)!;
        var isNew = !kind.HasId;
        return page with
        {
            Name = new Written(NameOf(page, word.Value), word.At) { IsOneRun = false },
            Path = new Written(PathOf(page.Path.Value, word.Value, isNew), page.Path.At) { IsOneRun = false },
            Was = [],
            DrawnAt = null,
            Kind = kind,
            Title = null,
            Show = [],
            Links = [],
            By = isNew ? [] : page.By,
            Where = isNew ? [] : page.Where,
            Related = [],
            Beside = null,
            NeighboursHidden = false,
            PlaysOn = false,
            Ids = isNew ? IdAnswers.Default : page.Ids,
            Forms = [],
        };
    }

    /// <summary>A path below the record's path; for a new record, below the part before the ID.</summary>
    private static string PathOf(string path, string kind, bool isNew)
    {
        var query = path.IndexOf("{?", StringComparison.Ordinal) is >= 0 and var at ? path[at..] : "";
        var segments = path[..(path.Length - query.Length)].TrimEnd('/').Split('/').ToList();
        if (isNew)
        {
            while (segments.Count > 1 && segments[^1].Contains('{'))
                segments.RemoveAt(segments.Count - 1);
            query = "";
        }

        return $"{string.Join('/', segments)}/{kind}{query}";
    }
}
