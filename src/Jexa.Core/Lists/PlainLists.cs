using System.Runtime.CompilerServices;
using Jexa.Core.Sites;

namespace Jexa.Core.Lists;

/// <summary>Lists as they are where nothing is asked of them, read once each.</summary>
internal sealed class PlainLists(ListCursor cursors)
{
    private readonly ConditionalWeakTable<ListPage, ListAsk> _asks = [];

    /// <summary>The list; null if it needs a parameter.</summary>
    public ListAsk? Of(ListPage page) =>
        page.Head.AddressWithoutParameters is null
            ? null
            : _asks.GetValue(page, list => ListReader.Read(list, [], _ => default, cursors, null).Ask!);
}
