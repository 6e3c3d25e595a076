using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Finds the lists that a text page searches.</summary>
internal sealed class SearchedLists(IReadOnlyList<Page> pages, FindingList findings)
{
    private const string All = "all";

    public IReadOnlyList<ListPage> Of(PageDefinition page) =>
        page.Finds is [{ Value: All }]
            ? [.. pages.OfType<ListPage>().Where(list => WhyNot(list) is null && !list.Head.Definition.Menu.IsHidden)]
            : [.. page.Finds.Select(Named).OfType<ListPage>()];

    private ListPage? Named(Written name)
    {
        if (pages.FirstOrDefault(page => page.Name == name.Value) is not { } page)
        {
            findings.AddUnknown(
                FindingCodes.UnknownPage,
                name,
                "list",
                pages.OfType<ListPage>().Where(list => WhyNot(list) is null).Select(list => list.Name)
            );
            return null;
        }

        if (page is ListPage list && WhyNot(list) is not { } why)
            return list;
        findings.Add(
            FindingCodes.KeyOfOtherPageKind,
            name.At,
            $"“{name}” cannot be searched: {(page is ListPage other ? WhyNot(other) : "it is no list")}.",
            "Name a list that has “search” and can be opened by itself, or all.",
            found: name.Value,
            expected: string.Join(", ", pages.OfType<ListPage>().Where(one => WhyNot(one) is null).Select(one => one.Name))
        );
        return null;
    }

    private static string? WhyNot(ListPage list) =>
        !list.Plan.CanSearch ? "it has no search"
        : list.Head.AddressWithoutParameters is null ? "it needs a parameter"
        : null;
}
