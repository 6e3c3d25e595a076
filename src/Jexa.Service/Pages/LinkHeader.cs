using System.Text;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Pages;

/// <summary>The Link header of a page (RFC 8288), with registered relations only.</summary>
internal static class LinkHeader
{
    public static string? Of(PageView view) => view switch
    {
        DetailView detail => OfDetail(detail),
        ListView list => OfList(list.Windows),
        _ => null,
    };

    /// <summary>
    /// The Link-Template header of a list (RFC 9652): where each of its records is, once for all of them. A Link for every row
    /// would be longer than what proxies let through.
    /// </summary>
    public static string? TemplateOf(PageView view) =>
        view is ListView { Shape.RecordLink.UriTemplate: { } template } ? $"\"{template}\"; rel=\"item\"" : null;

    private static string? OfDetail(DetailView view)
    {
        using var link = new Utf8Buffer(128);
        link.Append("<"u8);
        if (view.Shape.Own.TryWrite(view.Record, link)) link.Append(">; rel=\"canonical\""u8);
        else link.Truncate(0);
        Add("collection", view.Shape.Back);
        Add("prev", view.Previous);
        Add("next", view.Next);
        return link.Length == 0 ? null : link.ToString();

        void Add(string relation, PlainLink? to)
        {
            if (to is null) return;
            link.Append(link.Length > 0 ? ", <"u8 : "<"u8);
            link.Append(to.Address);
            link.Append(">; rel=\""u8);
            link.Append(relation);
            link.Append("\""u8);
        }
    }

    private static string? OfList(WindowLinks windows)
    {
        var link = new StringBuilder();
        Add("first", windows.First);
        Add("prev", windows.Previous);
        Add("next", windows.Next);
        Add("last", windows.Last);
        return link.Length == 0 ? null : link.ToString();

        void Add(string relation, string? address)
        {
            if (address is not null) link.Append(link.Length > 0 ? ", " : "").Append('<').Append(address).Append(">; rel=\"").Append(relation).Append('"');
        }
    }
}
