using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Lists the links on a page, for tools.</summary>
internal static class PageLinks
{
    public static IEnumerable<PageLink> Of(PlacedLinks placed, IEnumerable<ViewColumn> columns, LinkReason reason) =>
        [
            .. placed.OnColumns.Select(pair => new PageLink(pair.Value, pair.Key, reason)),
            .. placed.Apart.Select(link => new PageLink(link, null, reason)),
            .. columns
                .Where(column => column.Reference?.Link is not null && column.Link is null)
                .Select(column => new PageLink(column.Reference!.Link!, column.Name, LinkReason.Reference)),
        ];
}
