namespace Jexa.Core.Values;

/// <summary>
/// One value of one row. Numbers are stored in the cell; texts and bytes are stored in the row block, and the cell says where. A
/// cell has sixteen bytes and no references, so that a block of rows is two arrays.
/// </summary>
public readonly struct Cell
{
    private readonly long _bits;

    private Cell(CellKind kind, long bits, int length)
    {
        Kind = kind;
        _bits = bits;
        Length = length;
    }

    /// <summary>What the cell holds.</summary>
    public CellKind Kind { get; }

    /// <summary>Whether the cell holds no value.</summary>
    public bool IsNull => Kind == CellKind.Null;

    /// <summary>The number of bytes of a text, decimal or bytes cell; otherwise 0.</summary>
    public int Length { get; }

    /// <summary>The integer, the boolean (0 or 1), the days of a date or the ticks of a timestamp.</summary>
    public long Integer => _bits;

    /// <summary>The number, if <see cref="Kind"/> is <see cref="CellKind.Real"/>.</summary>
    public double Real => BitConverter.Int64BitsToDouble(_bits);

    internal int Offset => (int)_bits;

    internal static Cell Null => default;

    internal static Cell Number(CellKind kind, long value) => new(kind, value, 0);

    internal static Cell FromReal(double value) => new(CellKind.Real, BitConverter.DoubleToInt64Bits(value), 0);

    internal static Cell Run(CellKind kind, int offset, int length) => new(kind, offset, length);
}
