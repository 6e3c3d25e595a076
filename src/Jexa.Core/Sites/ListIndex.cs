using Jexa.Core.Formats;

namespace Jexa.Core.Sites;

/// <summary>Puts the lists of an app in groups, so that one finds a list among hundreds.</summary>
internal static class ListIndex
{
    /// <summary>Lists whose names begin with the same word make a group from so many on.</summary>
    private const int FewestInGroup = 3;

    private const string Others = "Others";

    /// <summary>
    /// The lists that can be opened by themselves, by the first words of their names; those that share theirs with too few others
    /// come last.
    /// </summary>
    public static IReadOnlyList<(string Title, IReadOnlyList<ListPage> Lists)> Of(IEnumerable<Page> pages)
    {
        var lists = pages
            .OfType<ListPage>()
            .Where(list => list.Head.OpenAddress is not null)
            .OrderBy(list => list.Head.Heading, StringComparer.OrdinalIgnoreCase)
            .ToList();
        var sizes = lists.CountBy(FirstWord).ToDictionary();
        return
        [
            .. lists
                .GroupBy(list => sizes[FirstWord(list)] < FewestInGroup ? Others : FirstWord(list))
                .OrderBy(group => group.Key == Others)
                .Select(group => (group.Key, (IReadOnlyList<ListPage>)[.. group])),
        ];
    }

    /// <summary>“Bridge” for “Bridge spans” and for “Bridges”.</summary>
    private static string FirstWord(ListPage list) => Labels.Capital(list.Record!.One.Split(' ')[0]);
}
