using System.Text;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A piece of a text with holes: a literal, or the value of a column.</summary>
public readonly record struct TextPiece(byte[]? Literal, int Ordinal, FieldType Type, bool IsId, ValueStyle Style)
{
    /// <summary>A piece that is always the same.</summary>
    public static TextPiece Of(string literal) =>
        new(Encoding.UTF8.GetBytes(literal), -1, FieldType.Any, false, ValueStyle.Plain);

    /// <summary>A piece that shows a column.</summary>
    public static TextPiece Of(int ordinal, FieldType type, bool isId) => Of(ordinal, type, isId, ValueStyle.Plain);

    /// <summary>A piece that shows a column in a style.</summary>
    public static TextPiece Of(int ordinal, FieldType type, bool isId, ValueStyle style) => new(null, ordinal, type, isId, style);

    /// <summary>Writes the piece for a row.</summary>
    public void Write(Row row, Utf8Buffer into)
    {
        if (Literal is { } literal)
            into.Append(literal);
        else if (IsId && row[Ordinal].Kind == CellKind.Integer)
            into.Append(row[Ordinal].Integer);
        else if (IsId && row[Ordinal] is { Kind: CellKind.Bytes, Length: <= 64 })
            into.Append(Convert.ToHexStringLower(row.Run(Ordinal)));
        else
            ValueFormat.Write(row, Ordinal, Type, Style, into);
    }
}
