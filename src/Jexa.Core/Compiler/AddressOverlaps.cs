using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>
/// Compares the paths of all pages: two pages with the same addresses are an error, and a page that hides addresses of records is
/// reported.
/// </summary>
internal sealed class AddressOverlaps(FindingList findings)
{
    /// <summary>Reports overlaps. Notes where built addresses must be checked.</summary>
    /// <param name="leadsThere">The check that an address built for a page matches this page and no other.</param>
    public IReadOnlyList<PageHead> Compare(IReadOnlyList<PageHead> heads, Func<PageHead, Func<string, bool>> leadsThere)
    {
        var shadowed = new HashSet<string>();
        for (var i = 0; i < heads.Count; i++)
        {
            for (var j = 0; j < heads.Count; j++)
            {
                if (i == j || heads[i].Template.Segments.Count != heads[j].Template.Segments.Count)
                    continue;
                if (j < i && heads[i].Template.SharesPathWith(heads[j].Template))
                    CompareSharing(heads[j], heads[i]);
                if (HiddenExample(heads[i], heads[j]) is not { } example)
                    continue;
                shadowed.Add(heads[j].Name);
                ReportHidden(heads[i], heads[j], example);
            }
        }

        return [.. heads.Select(head => shadowed.Contains(head.Name) ? head with { OwnsAddress = leadsThere(head) } : head)];
    }

    private void CompareSharing(PageHead first, PageHead second)
    {
        // Pages that need different parameters exclude each other: an address with those of both is malformed.
        if (!Required(first).SetEquals(Required(second)))
            return;
        findings.Add(
            FindingCodes.SameAddresses,
            second.Definition.Path.At,
            $"The pages “{first.Name}” and “{second.Name}” are for the same addresses.",
            $"Give one of them another path; “{first.Name}” is on line {first.Definition.Path.At.Line}.",
            found: second.Definition.Path.Value,
            expected: $"a path that is not {first.Definition.Path}"
        );
    }

    /// <summary>The query parameters that a page requires.</summary>
    public static HashSet<string> Required(PageHead head) =>
        [
            .. head
                .Parameters.Where(parameter => parameter is { Required: true, Segment: < 0 })
                .Select(parameter => parameter.Name),
        ];

    private void ReportHidden(PageHead hiding, PageHead hidden, string example)
    {
        var what =
            hidden.Kind is { } record && hidden.Definition.HasId ? $"a {record.One} with the ID “{example}”" : $"“{example}”";
        findings.Add(
            FindingCodes.HiddenAddresses,
            hiding.Definition.Path.At,
            $"The page “{hiding.Name}” takes the address that {what} has on the page “{hidden.Name}”.",
            $"Move one of the two to a path of its own; “{hidden.Name}” is on line {hidden.Definition.Path.At.Line}.",
            found: hiding.Definition.Path.Value,
            expected: $"a path that {hidden.Definition.Path} does not match"
        );
    }

    /// <summary>An ID whose address a former path would take from a page; null, and no page, if it takes none.</summary>
    public static (PageHead? Page, string? Example) HiddenBy(PageHead former, IReadOnlyList<PageHead> heads)
    {
        foreach (var head in heads)
            if (head.Template.Segments.Count == former.Template.Segments.Count && HiddenExample(former, head) is { } example)
                return (head, example);
        return (null, null);
    }

    /// <summary>An ID whose address on the second page matches the first page; null for none.</summary>
    private static string? HiddenExample(PageHead first, PageHead second)
    {
        string? example = null;
        var decided = false;
        for (var i = 0; i < first.Template.Segments.Count; i++)
        {
            var mine = first.Template.Segments[i];
            var theirs = second.Template.Segments[i];
            if (mine.MatchesSameAs(theirs) && mine.Literal is not null)
                continue;
            if (mine.Literal is null && theirs.Literal is not null)
            {
                // If the other path has a literal here, it is tried first: it hides this page, not the reverse.
                if (!decided || Taken(first, i, theirs.Literal) is null)
                    return null;
                continue;
            }

            if (mine.Literal is not null)
            {
                if (theirs.Literal is not null || Taken(second, i, mine.Literal) is not { } taken)
                    return null;
                example ??= taken;
                decided = true;
                continue;
            }

            if (mine.MatchesSameAs(theirs))
                continue;
            var rank = (mine.Prefix.Length, mine.Suffix.Length).CompareTo((theirs.Prefix.Length, theirs.Suffix.Length));
            if (!decided && rank < 0)
                return null;
            if (Taken(second, i, Sample(first, i, mine)) is { } overlap)
                example ??= overlap;
            else
                return null;
            decided |= rank > 0;
        }

        return decided ? example : null;
    }

    /// <summary>A segment that a page's parameter would have for some ID.</summary>
    private static string Sample(PageHead page, int segment, SegmentPattern pattern) =>
        pattern.Prefix + (ParameterAt(page, segment)?.Key is IntegerKey ? "7" : "x") + pattern.Suffix;

    private static PageParameter? ParameterAt(PageHead page, int segment)
    {
        foreach (var parameter in page.Parameters)
            if (parameter.Segment == segment)
                return parameter;
        return null;
    }

    /// <summary>The ID that a page would read from a segment; null if the address would not be the page's own.</summary>
    private static string? Taken(PageHead page, int segment, string text)
    {
        var pattern = page.Template.Segments[segment];
        if (ParameterAt(page, segment) is not { } parameter)
            return null;
        if (
            text.Length <= pattern.Prefix.Length + pattern.Suffix.Length
            || !text.StartsWith(pattern.Prefix, StringComparison.Ordinal)
            || !text.EndsWith(pattern.Suffix, StringComparison.Ordinal)
        )
            return null;
        var id = text[pattern.Prefix.Length..^pattern.Suffix.Length];
        return parameter.Key.Read(id) is { Fault: KeyFault.None, IsCanonical: true } ? id : null;
    }
}
