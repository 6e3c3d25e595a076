using System.Globalization;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>Writes the controls of a list as a form that needs no script.</summary>
internal static class HtmlListForm
{
    /// <summary>A plain form: search, order, and rows in a window.</summary>
    public static void Write(ListView view, Utf8Buffer html)
    {
        var controls = view.Controls;
        html.Append("<form class=\"ask\" method=\"get\" role=\"search\" action=\""u8);
        html.AppendEncoded(controls.Action);
        html.Append("\">\n"u8);
        foreach (var (name, value) in controls.Kept)
            HtmlFormWriter.HiddenNamed(name, value, html);

        if (controls.Find is { } find)
        {
            html.Append(
                "<label class=\"find\"><span>Find</span> <input type=\"search\" name=\"find\" maxlength=\"200\" value=\""u8
            );
            html.AppendEncoded(find);
            html.Append("\"></label>\n"u8);
        }

        if (controls.Orders.Count > 0)
            WriteOrders(view, html);
        html.Append("<label><span>Rows</span> <select name=\"size\">"u8);
        WriteSizeOptions(controls, html);
        html.Append("</select></label>\n<button type=\"submit\">Show</button>\n"u8);
        html.Append("</form>\n"u8);
    }

    private static void WriteOrders(ListView view, Utf8Buffer html)
    {
        var controls = view.Controls;
        html.Append(
            view.Shape.Look == ListLook.Table
                ? "<label class=\"by-heading\"><span>Order</span> <select name=\"order\">"u8
                : "<label><span>Order</span> <select name=\"order\">"u8
        );
        WriteOrderOptions(controls, html);
        html.Append("</select></label>\n"u8);
    }

    public static void WriteSizeOptions(ListControls controls, Utf8Buffer html)
    {
        foreach (var size in controls.Sizes)
            WriteOption(
                size == controls.OwnSize ? "" : size.ToString(CultureInfo.InvariantCulture),
                size.ToString(CultureInfo.InvariantCulture),
                size == controls.Size,
                html
            );
    }

    public static void WriteOrderOptions(ListControls controls, Utf8Buffer html)
    {
        WriteOption("", "usual", controls.Order.Length == 0, html);
        foreach (var order in controls.Orders)
        {
            WriteOption(order.Name, $"{order.Label}, rising", controls.Order == order.Name, html);
            WriteOption("-" + order.Name, $"{order.Label}, falling", controls.Order == "-" + order.Name, html);
        }
    }

    public static void WriteOption(string value, string text, bool selected, Utf8Buffer html)
    {
        html.Append("<option value=\""u8);
        html.AppendEncoded(value);
        html.Append(selected ? "\" selected>"u8 : "\">"u8);
        html.AppendEncoded(text);
        html.Append("</option>"u8);
    }
}
