using System.Text.Encodings.Web;
using System.Text.Unicode;

namespace Jexa.Service.Proof;

/// <summary>Whether a page has the title that its JSON names.</summary>
internal static class ShownTitle
{
    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    public static bool IsIn(string html, string title) =>
        html.Contains(title, StringComparison.Ordinal) || html.Contains(Encoder.Encode(title), StringComparison.Ordinal);
}
