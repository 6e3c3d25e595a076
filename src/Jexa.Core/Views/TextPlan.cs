using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>
/// A text with holes, compiled: what a record is called, a title. Written as plain UTF-8, not yet encoded for HTML.
/// </summary>
/// <param name="Fallback">Written where the text itself comes out blank; null for nothing.</param>
public sealed record TextPlan(IReadOnlyList<TextPiece> Pieces, TextPlan? Fallback = null)
{
    /// <summary>Whether the text is nothing but one text column's value, which can then be taken as it is.</summary>
    public bool IsColumn(Row row, out ReadOnlySpan<byte> utf8)
    {
        utf8 =
            Pieces.Count == 1
            && Pieces[0] is { Literal: null, Ordinal: var ordinal, Style.Choices.Count: 0, Style.Unit: null }
            && row[ordinal].Kind == CellKind.Text
                ? row.Run(ordinal)
                : default;
        return !utf8.IsEmpty && utf8[0] > ' ';
    }

    public void Write(Row row, Utf8Buffer into)
    {
        var start = into.Length;
        for (var i = 0; i < Pieces.Count; i++)
            Pieces[i].Write(row, into);

        if (Fallback is null || into.Written[start..].ContainsAnyExcept(" \t\r\n"u8))
            return;
        into.Truncate(start);
        Fallback.Write(row, into);
    }
}
