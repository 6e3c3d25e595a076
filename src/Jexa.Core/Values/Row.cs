using System.Text;

namespace Jexa.Core.Values;

/// <summary>One row of a block. Valid until the block is reset.</summary>
public readonly struct Row(RowBlock block, int index)
{
    /// <summary>The number of columns.</summary>
    public int Width => block.Width;

    /// <summary>The cell in a column, counted from 0.</summary>
    public ref readonly Cell this[int column] => ref block.At(index, column);

    /// <summary>The bytes of a text, decimal or bytes cell.</summary>
    public ReadOnlySpan<byte> Run(int column) => block.Run(block.At(index, column));

    /// <summary>The bytes of a text, decimal or bytes cell as text; for messages, not for the hot path.</summary>
    public string Text(int column) => Encoding.UTF8.GetString(Run(column));
}
