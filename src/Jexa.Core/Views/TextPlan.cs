using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>
/// A compiled text with holes: a label of a record, or a title. It is written as plain UTF-8, not yet encoded for HTML.
/// </summary>
/// <param name="Fallback">Written if the text is blank; null for nothing.</param>
public sealed record TextPlan(IReadOnlyList<TextPiece> Pieces, TextPlan? Fallback = null)
{
    /// <summary>Whether the text is just the value of one text column.</summary>
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

    /// <summary>Writes the text for a row.</summary>
    public void Write(Row row, Utf8Buffer into)
    {
        var start = into.Length;
        for (var i = 0; i < Pieces.Count; i++)
            Pieces[i].Write(row, into);

        if (Fallback is null || !IsBlank(into.Written[start..]))
            return;
        into.Truncate(start);
        Fallback.Write(row, into);
    }

    /// <summary>Whether the text for a row says nothing.</summary>
    /// <param name="scratch">Is emptied.</param>
    public bool IsBlank(Row row, Utf8Buffer scratch)
    {
        scratch.Truncate(0);
        Write(row, scratch);
        return IsBlank(scratch.Written);
    }

    private static bool IsBlank(ReadOnlySpan<byte> text) => !text.ContainsAnyExcept(" \t\r\n"u8);
}
