using System.Text;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Pages;

/// <summary>The Link header of a page (RFC 8288), with registered relations only.</summary>
internal static class LinkHeader
{
    /// <param name="room">Used for writing behind its content, and then restored.</param>
    /// <param name="origin">Comes before the canonical address, if it is known. Search engines need a whole URL.</param>
    public static string? Of(PageView view, Utf8Buffer room, string origin) =>
        view switch
        {
            DetailView detail => OfDetail(detail, room, origin),
            ListView list => OfList(list.Windows),
            _ => null,
        };

    /// <summary>
    /// The Link-Template header of a list (RFC 9652): the addresses of its records in one template. A Link for every row would be
    /// longer than proxies accept.
    /// </summary>
    public static string? TemplateOf(PageView view) =>
        view is ListView { Shape.RecordLink.UriTemplate: { } template } ? $"\"{template}\"; rel=\"item\"" : null;

    private static string? OfDetail(DetailView view, Utf8Buffer link, string origin)
    {
        var start = link.Length;
        link.Append("<"u8);
        link.Append(origin);
        if (view.Shape.Own.TryWrite(view.Record, link))
            link.Append(">; rel=\"canonical\""u8);
        else
            link.Truncate(start);
        Add("collection"u8, view.Shape.Back);
        Add("prev"u8, view.Previous);
        Add("next"u8, view.Next);
        var text = link.Length == start ? null : Encoding.UTF8.GetString(link.Written[start..]);
        link.Truncate(start);
        return text;

        void Add(ReadOnlySpan<byte> relation, PlainLink? to)
        {
            if (to is null)
                return;
            link.Append(link.Length > start ? ", <"u8 : "<"u8);
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
            if (address is not null)
                link.Append(link.Length > 0 ? ", " : "")
                    .Append('<')
                    .Append(address)
                    .Append(">; rel=\"")
                    .Append(relation)
                    .Append('"');
        }
    }
}
