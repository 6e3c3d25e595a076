using System.Runtime.CompilerServices;
using Jexa.Core.Sites;

namespace Jexa.Core.Lists;

/// <summary>The questions that ask for a whole list, read once for each list.</summary>
internal sealed class PlainLists(ListCursor cursors)
{
    private readonly ConditionalWeakTable<ListPage, ListAsk> _asks = [];

    /// <summary>The list; null if it needs a parameter.</summary>
    public ListAsk? Of(ListPage page) =>
        page.Head.AddressWithoutParameters is null
            ? null
            : _asks.GetValue(page, list => ListReader.Read(list, [], _ => default, cursors, null).Ask!);
}
