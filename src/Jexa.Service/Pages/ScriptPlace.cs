using System.Text;
using Jexa.Core.Values;

namespace Jexa.Service.Pages;

/// <summary>Where a script is added to a page that is written already: at the end of its body.</summary>
internal static class ScriptPlace
{
    public static void Add(Utf8Buffer html, string script)
    {
        var end = html.Written.LastIndexOf("</body>"u8);
        if (end < 0)
            return;
        html.Truncate(end);
        html.Append(Encoding.UTF8.GetBytes(script));
        html.Append("</body>\n</html>\n"u8);
    }
}
