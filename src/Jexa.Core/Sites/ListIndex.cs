using Jexa.Core.Formats;

namespace Jexa.Core.Sites;

/// <summary>Groups the lists of an app, so that people find one among hundreds.</summary>
internal static class ListIndex
{
    /// <summary>The fewest lists with the same first word that make a group.</summary>
    private const int FewestInGroup = 3;

    private const string Others = "Others";

    /// <summary>
    /// The lists that need no parameter, by the first words of their names. Groups that would be too small are put together at
    /// the end.
    /// </summary>
    public static IReadOnlyList<(string Title, IReadOnlyList<ListPage> Lists)> Of(IEnumerable<Page> pages)
    {
        var lists = pages
            .OfType<ListPage>()
            .Where(list => list.Head.OpenAddress is not null)
            .OrderBy(list => list.Head.Heading, StringComparer.OrdinalIgnoreCase)
            .ToList();
        var sizes = lists.CountBy(FirstWord).ToDictionary();
        var groups = lists
            .GroupBy(list => sizes[FirstWord(list)] < FewestInGroup ? Others : FirstWord(list))
            .OrderBy(group => group.Key == Others)
            .Select(group => (group.Key, (IReadOnlyList<ListPage>)[.. group]))
            .ToList();
        return groups is [var (title, all)] && title == Others ? [("", all)] : groups;
    }

    /// <summary>“Bridge” for “Bridge spans” and for “Bridges”.</summary>
    private static string FirstWord(ListPage list) => Labels.Capital(list.Record!.One.Split(' ')[0]);
}
