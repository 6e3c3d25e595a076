using System.Globalization;
using System.Text;

namespace Jexa.Demo;

/// <summary>Draws a bridge as a small SVG picture: the same for the same numbers, roughly of its kind.</summary>
internal static class BridgeDrawing
{
    private const int Width = 320;
    private const int Deck = 96;
    private const int Water = 150;

    public static string Of(string kind, SplitMix random)
    {
        var sky = random.Below(40) + 195;
        var stone = $"hsl({20 + random.Below(30)} {8 + random.Below(25)}% {34 + random.Below(22)}%)";
        var drawing = new StringBuilder();
        drawing.Append(CultureInfo.InvariantCulture, $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {Width} 200\">");
        drawing.Append(CultureInfo.InvariantCulture, $"<rect width=\"{Width}\" height=\"200\" fill=\"hsl({sky} 45% 84%)\"/>");
        drawing.Append(
            CultureInfo.InvariantCulture,
            $"<path d=\"M0 {Water} Q80 {120 - random.Below(40)} 160 {Water} T{Width} {Water} V200 H0Z\" "
                + $"fill=\"hsl({90 + random.Below(40)} 28% 55%)\"/>"
        );
        drawing.Append(
            CultureInfo.InvariantCulture,
            $"<rect y=\"{Water}\" width=\"{Width}\" height=\"50\" fill=\"hsl({sky} 38% 52%)\"/>"
        );
        drawing.Append(
            CultureInfo.InvariantCulture,
            $"<g fill=\"none\" stroke=\"{stone}\" stroke-width=\"7\"><path d=\"M0 {Deck}H{Width}\"/>"
        );
        var spans = 2 + random.Below(4);
        for (var i = 0; i <= spans; i++)
        {
            var x = Width * i / spans;
            drawing.Append(CultureInfo.InvariantCulture, $"<path d=\"M{x} {Deck}V{Water + 12}\"/>");
            if (i < spans)
                drawing.Append(Span(kind, x, Width / spans));
        }

        return drawing.Append("</g></svg>\n").ToString();
    }

    /// <summary>What carries the deck between two piers.</summary>
    private static string Span(string kind, int x, int width) =>
        kind switch
        {
            "arch" or "viaduct" => string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{x} {Water}Q{x + (width / 2)} {Deck - 34} {x + width} {Water}\"/>"
            ),
            "suspension" or "cable-stayed" => string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{x} 40Q{x + (width / 2)} {Deck + 10} {x + width} 40M{x} 40V{Deck}\" stroke-width=\"3\"/>"
            ),
            "truss" or "swing" => string.Create(
                CultureInfo.InvariantCulture,
                $"<path d=\"M{x} {Deck}L{x + (width / 2)} 62L{x + width} {Deck}M{x + (width / 2)} 62V{Deck}\" "
                    + $"stroke-width=\"4\"/>"
            ),
            _ => string.Create(CultureInfo.InvariantCulture, $"<path d=\"M{x} {Deck + 12}H{x + width}\" stroke-width=\"3\"/>"),
        };
}
