using System.Text;

namespace Jexa.Core.Values;

/// <summary>
/// The rows that a query returned, as typed cells. Engines fill it: <see cref="BeginRow"/>, then one Add for each column. Pages
/// read it. One block serves many visits: <see cref="Reset"/> empties it and keeps its arrays.
/// </summary>
public sealed class RowBlock
{
    private Cell[] _cells;
    private byte[] _bytes;
    private int _cellCount;
    private int _byteCount;

    /// <summary>Makes an empty block. Its memory comes from a shared pool; dispose it to give it back.</summary>
    public RowBlock()
        : this(64, 1024) { }

    internal RowBlock(int cells, int bytes)
    {
        _cells = new Cell[cells];
        _bytes = new byte[bytes];
    }

    /// <summary>Columns in each row.</summary>
    public int Width { get; private set; }

    /// <summary>The number of rows begun so far.</summary>
    public int Count { get; private set; }

    /// <summary>
    /// What the source said beside the rows, for traces: the status and the beginning of an answer. Null if it said nothing.
    /// </summary>
    public string? Remark { get; set; }

    /// <summary>The memory that the block keeps, in bytes.</summary>
    public int Capacity => _bytes.Length + (_cells.Length * 16);

    /// <summary>The row at this place, counted from 0.</summary>
    public Row this[int index] => new(this, index);

    /// <summary>Empties the block for rows of this many columns.</summary>
    public void Reset(int width)
    {
        Width = width;
        Count = 0;
        Remark = null;
        _cellCount = 0;
        _byteCount = 0;
    }

    /// <summary>Begins a row. Its cells are added from left to right.</summary>
    public void BeginRow()
    {
        Count++;
        if (_cells.Length - _cellCount < Width)
            Array.Resize(ref _cells, Math.Max(_cells.Length * 2, _cellCount + Width));
    }

    /// <summary>Removes the last row.</summary>
    public void DropLastRow()
    {
        Count--;
        _cellCount = Count * Width;
    }

    /// <summary>Adds a cell without a value.</summary>
    public void AddNull() => _cells[_cellCount++] = Cell.Null;

    /// <summary>Adds a cell that holds a number, a date or a moment.</summary>
    public void AddNumber(CellKind kind, long value) => _cells[_cellCount++] = Cell.Number(kind, value);

    /// <summary>Adds a cell that holds a floating-point number.</summary>
    public void AddReal(double value) => _cells[_cellCount++] = Cell.FromReal(value);

    /// <summary>Reverses the order of the rows.</summary>
    public void Reverse()
    {
        for (var (first, last) = (0, Count - 1); first < last; first++, last--)
        for (var column = 0; column < Width; column++)
            (_cells[(first * Width) + column], _cells[(last * Width) + column]) = (
                _cells[(last * Width) + column],
                _cells[(first * Width) + column]
            );
    }

    /// <summary>Adds a text, decimal or bytes cell; the bytes are copied.</summary>
    public void AddRun(CellKind kind, ReadOnlySpan<byte> bytes)
    {
        if (_bytes.Length - _byteCount < bytes.Length)
            Array.Resize(ref _bytes, Math.Max(_bytes.Length * 2, _byteCount + bytes.Length));
        bytes.CopyTo(_bytes.AsSpan(_byteCount));
        _cells[_cellCount++] = Cell.Run(kind, _byteCount, bytes.Length);
        _byteCount += bytes.Length;
    }

    /// <summary>Adds a text cell.</summary>
    public void AddText(ReadOnlySpan<char> text)
    {
        var room = _bytes.Length - _byteCount;
        if (room < text.Length * 3 && Encoding.UTF8.GetByteCount(text) is var needed && room < needed)
            Array.Resize(ref _bytes, Math.Max(_bytes.Length * 2, _byteCount + needed));
        var length = Encoding.UTF8.GetBytes(text, _bytes.AsSpan(_byteCount));
        _cells[_cellCount++] = Cell.Run(CellKind.Text, _byteCount, length);
        _byteCount += length;
    }

    /// <summary>Appends all cells of other rows to a block of one column. Each cell becomes a row.</summary>
    internal void AppendCells(RowBlock rows)
    {
        if (_cells.Length - _cellCount < rows._cellCount)
            Array.Resize(ref _cells, Math.Max(_cells.Length * 2, _cellCount + rows._cellCount));
        if (_bytes.Length - _byteCount < rows._byteCount)
            Array.Resize(ref _bytes, Math.Max(_bytes.Length * 2, _byteCount + rows._byteCount));
        rows._bytes.AsSpan(0, rows._byteCount).CopyTo(_bytes.AsSpan(_byteCount));
        foreach (ref readonly var cell in rows._cells.AsSpan(0, rows._cellCount))
            _cells[_cellCount++] = IsRun(cell.Kind) ? Cell.Run(cell.Kind, _byteCount + cell.Offset, cell.Length) : cell;
        _byteCount += rows._byteCount;
        Count += rows._cellCount;
    }

    /// <summary>Reads rows out of a block of one column, in which each cell is a row, and appends them.</summary>
    /// <param name="first">The row of the first cell.</param>
    internal void AppendRows(RowBlock cells, int first, int rows)
    {
        for (var row = 0; row < rows; row++)
        {
            BeginRow();
            for (var column = 0; column < Width; column++)
            {
                ref readonly var cell = ref cells._cells[first++];
                if (IsRun(cell.Kind))
                    AddRun(cell.Kind, cells.Run(cell));
                else
                    _cells[_cellCount++] = cell;
            }
        }
    }

    /// <summary>
    /// Copies the first rows into another block for a trace. Each text is cut at <paramref name="runLimit"/> bytes.
    /// </summary>
    /// <param name="secret">Columns whose values are not copied.</param>
    /// <param name="first">The first row to copy.</param>
    public void CopyCut(int first, int rowLimit, int runLimit, RowBlock copy, IReadOnlyList<int> secret)
    {
        var rows = Math.Min(Count - first, rowLimit);
        var (bytes, longest) = (0, 0);
        for (var i = first * Width; i < (first + rows) * Width; i++)
        {
            if (!IsRun(_cells[i].Kind))
                continue;
            bytes += Math.Min(_cells[i].Length, runLimit);
            longest = Math.Max(longest, _cells[i].Length);
        }

        if (copy._cells.Length < rows * Width)
            copy._cells = new Cell[rows * Width];
        copy.Reset(Width);
        if (rows == Count && longest <= runLimit && secret.Count == 0)
        {
            CopyWhole(copy);
            return;
        }

        if (copy._bytes.Length < bytes)
            copy._bytes = new byte[bytes];
        for (var row = first; row < first + rows; row++)
        {
            copy.BeginRow();
            for (var column = 0; column < Width; column++)
            {
                ref readonly var cell = ref _cells[(row * Width) + column];
                if (secret.Count > 0 && secret.Contains(column))
                    copy.AddNull();
                else if (IsRun(cell.Kind))
                    copy.AddRun(cell.Kind, Run(cell)[..Math.Min(cell.Length, runLimit)]);
                else
                    copy._cells[copy._cellCount++] = cell;
            }
        }
    }

    /// <summary>Copies all rows into a block that was reset and has enough room.</summary>
    private void CopyWhole(RowBlock copy)
    {
        if (copy._bytes.Length < _byteCount)
            copy._bytes = new byte[_byteCount];
        _cells.AsSpan(0, _cellCount).CopyTo(copy._cells);
        _bytes.AsSpan(0, _byteCount).CopyTo(copy._bytes);
        (copy.Count, copy._cellCount, copy._byteCount) = (Count, _cellCount, _byteCount);
    }

    internal ref readonly Cell At(int row, int column) => ref _cells[(row * Width) + column];

    internal ReadOnlySpan<byte> Run(in Cell cell) => _bytes.AsSpan(cell.Offset, cell.Length);

    private static bool IsRun(CellKind kind) => kind is CellKind.Text or CellKind.Decimal or CellKind.Bytes or CellKind.Uuid;
}
