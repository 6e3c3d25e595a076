using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Looks up the page that a visitor is led to whose address lacks an ID, or a parameter of a list.</summary>
internal static class MissingPages
{
    /// <summary>
    /// The page that is written; null, reported, where it cannot be one; otherwise the usual one, unless a status is written.
    /// </summary>
    /// <param name="lacks">What the visitor lacks, to follow “without”.</param>
    public static PageHead? Of(
        IReadOnlyDictionary<string, PageHead?> pages,
        IdAnswers ids,
        PageHead? usual,
        string lacks,
        FindingList findings
    )
    {
        if (ids.MissingPage is not { } name)
            return ids.MissingStatus is null ? usual : null;
        if (!pages.TryGetValue(name.Value, out var target))
        {
            findings.AddUnknown(FindingCodes.UnknownPage, name, "page", [.. pages.Keys, "400", "404"]);
            return null;
        }

        if (target is null || target.AddressWithoutParameters is not null)
            return target;
        findings.Add(
            FindingCodes.PageNeedsParameters,
            name.At,
            $"A visitor without {lacks} cannot be led to “{name}”: it needs one itself.",
            "Name a page that can be opened by itself, or write 404.",
            found: name.Value,
            expected: "a page without parameters, 400 or 404"
        );
        return null;
    }
}
