using Jexa.Core.Keys;
using Jexa.Core.Sites;

namespace Jexa.Core.Lists;

/// <summary>Which window of a list an address asks for.</summary>
/// <param name="Place">Where it begins or, backwards, ends; null for the beginning or end of the list.</param>
/// <param name="Control">The control at fault, if there is a fault.</param>
internal readonly record struct WindowRequest(ListPlace? Place, bool Backwards, string Control, KeyFault Fault)
{
    public static WindowRequest Start => new(null, false, "", KeyFault.None);

    public IEnumerable<WindowQuery> Queries(ListQuery query) =>
        (Place, Backwards) switch
        {
            (null, var backwards) => query.Windows.End(query.Arguments, backwards),
            (var place, false) => query.Windows.Behind(query.Arguments, place.Values),
            (var place, true) => query.Windows.Before(query.Arguments, place.Values),
        };
}
