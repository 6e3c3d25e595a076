using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Finds the page to redirect people to if an ID, or a parameter of a list, is missing.</summary>
internal static class MissingPages
{
    /// <summary>
    /// The page in the app file; null, and reported, if it cannot be one; otherwise the usual one, unless the app file says a
    /// status.
    /// </summary>
    /// <param name="lacks">What is missing, to follow “without”.</param>
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
